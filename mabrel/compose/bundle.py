"""A title with its pictures and fonts in one file: a zip, `*.mabrel`."""

import io
import struct
import zipfile
import zlib
from collections.abc import Iterable
from pathlib import PurePosixPath
from typing import NamedTuple

from mabrel.source import library_at
from mabrel.source.library import LARGEST_FILE
from mabrel.steps import check_title
from mabrel.steps.named_files import files_of
from mabrel.title import Title, TitleError, parse_title, title_to_json
from mabrel.title.files import LARGEST_FILE as LARGEST_DOCUMENT
from mabrel.title.playing import is_numbered, named_as_clip, numbers_of

DOCUMENT = "title.json"
FILES = "files/"
LARGEST_BUNDLE = 256 * 2**20
"""Of a file that somebody sends."""
LARGEST_SENT = 2**30
"""Of what goes to the workers of a cluster."""
_MOST_FILES = 2000
_LARGEST_DIRECTORY = _MOST_FILES * 1024

_PACKED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
_BROKEN = (
    *(zipfile.BadZipFile, zlib.error, struct.error, NotImplementedError, RuntimeError),
    *(EOFError, OSError, ValueError, LookupError, OverflowError),
)


class Bundle(NamedTuple):
    """What is in the file: the title, and its files by the names that it uses."""

    title: Title
    files: dict[str, bytes]


def bundled(title: Title, most: int = LARGEST_BUNDLE) -> bytes:
    """The title and every file that it names, as a zip; pictures are stored as they are.

    Raises LibraryError for a file that is not there, TitleError for more than `most` bytes of
    them.
    """
    library = library_at(title.home)
    named = [
        each
        for name in sorted(files_of(title))
        for each in (library.members(name) if is_numbered(name) else [name])
    ]
    paths = {name: library.path(name) for name in named}
    size = sum(path.stat().st_size for path in paths.values())
    if size > most or len(paths) > _MOST_FILES:
        raise TitleError("", _too_much(most))
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, strict_timestamps=False) as archive:
        archive.writestr(DOCUMENT, title_to_json(title))
        for name, path in paths.items():
            archive.write(path, FILES + name, zipfile.ZIP_STORED)
    return packed.getvalue()


def _too_much(most: int) -> str:
    return f"has more than {most // 2**20} MiB of files, or more than {_MOST_FILES} of them"


def unbundled(content: bytes, most: int = LARGEST_BUNDLE) -> Bundle:
    """Read what `bundled` made. Raises TitleError that says what is wrong with it."""
    try:
        _check_directory(content)
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            return _read(archive, most)
    except TitleError:
        raise
    except _BROKEN as broken:
        raise TitleError("", f"is no .mabrel file: {str(broken).lower()}") from None


def _check_directory(content: bytes) -> None:
    """Refuse a list of more files than there may be, before it is read (APPNOTE.TXT, 4.3.16)."""
    place = content.rfind(b"PK\5\6")
    size = int.from_bytes(content[place + 12 : place + 16], "little") if place >= 0 else 0
    if size > _LARGEST_DIRECTORY:
        raise TitleError("", f"holds more than {_MOST_FILES} files")


def _read(archive: zipfile.ZipFile, most: int) -> Bundle:
    members = [each for each in archive.infolist() if not each.is_dir()]
    if len(members) > _MOST_FILES or sum(each.file_size for each in members) > most:
        raise TitleError("", _too_much(most))
    if any(each.compress_type not in _PACKED for each in members):
        raise TitleError("", "is no .mabrel file: it is packed in another way")
    if DOCUMENT not in archive.namelist():
        raise TitleError("", f"is no .mabrel file: it has no {DOCUMENT}")
    if archive.getinfo(DOCUMENT).file_size > LARGEST_DOCUMENT:
        raise TitleError(DOCUMENT, f"is larger than {LARGEST_DOCUMENT // 2**20} MiB")
    files = {}
    for member in members:
        if not member.filename.startswith(FILES):
            continue
        name = _checked_name(member.filename.removeprefix(FILES))
        if member.file_size > LARGEST_FILE and not named_as_clip(name):
            raise TitleError(name, f"is larger than {LARGEST_FILE // 2**20} MiB")
        files[name] = archive.read(member)
    title = check_title(parse_title(archive.read(DOCUMENT)))
    missing = sorted(name for name in files_of(title) if not _is_there(name, files))
    if missing:
        raise TitleError(missing[0], "is used by the title, but is not in the file")
    return Bundle(title, files)


def _is_there(name: str, files: Iterable[str]) -> bool:
    if is_numbered(name):
        return any(map(numbers_of(name).fullmatch, files))
    return name in files


def _checked_name(name: str) -> str:
    path = PurePosixPath(name)
    if not name or path.is_absolute() or ".." in path.parts or "\\" in name or "\0" in name:
        raise TitleError(name[:80], "is no name that a file may have")
    return name
