"""Titles with their files in one: packed, and unpacked into a folder."""

from pathlib import Path
from typing import Any

from mabrel.compose import bundled, unbundled
from mabrel.title import TitleError
from mabrel.title.playing import is_numbered, numbers_of
from studio.engine.jobs.documents import checked
from studio.engine.process import Tools


def pack(tools: Tools, *, document: bytes, home: str, path: str) -> None:
    """Write a title with all that it needs to `path`."""
    Path(path).write_bytes(bundled(tools.title(document, home)))


def unpack(tools: Tools, *, path: str, name: str, folder: str) -> dict[str, Any]:
    """Read a `*.mabrel` file; its document, and where each of its files now lies in `folder`."""
    try:
        title, files = unbundled(Path(path).read_bytes())
    except TitleError as fault:
        raise TitleError(name, str(fault)) from None
    placed = {}
    for number, (named, content) in enumerate(files.items()):
        place = Path(folder) / str(number)
        place.write_bytes(content)
        placed[named] = str(place)
    found = checked(title)
    runs = {
        name: [each for each in files if numbers_of(name).fullmatch(each)]
        for name in found.files
        if is_numbered(name)
    }
    return {"document": found.text, "files": placed, "runs": runs}
