"""Titles with their files in one: packed, and unpacked into a folder."""

from pathlib import Path
from typing import Any

from mabrel.compose import bundled, unbundled
from mabrel.title import TitleError
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
    return {"document": checked(title).text, "files": placed}
