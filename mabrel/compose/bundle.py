"""A title with its pictures and fonts in one file: a zip, `*.mabrel`."""

import io
import struct
import zipfile
import zlib
from pathlib import PurePosixPath
from typing import NamedTuple

from mabrel.source import library_at
from mabrel.source.library import LARGEST_FILE
from mabrel.steps import check_title
from mabrel.steps.named_files import files_of
from mabrel.title import Title, TitleError, parse_title, title_to_json
from mabrel.title.files import LARGEST_FILE as LARGEST_DOCUMENT

DOCUMENT = "title.json"
FILES = "files/"
LARGEST_BUNDLE = 256 * 2**20
_MOST_FILES = 500
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


def bundled(title: Title) -> bytes:
    """The title and every file that it names, as a zip; pictures are stored as they are.

    Raises LibraryError for a file that is not there.
    """
    library = library_at(title.home)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(DOCUMENT, title_to_json(title))
        for name in sorted(files_of(title)):
            archive.writestr(FILES + name, library.read(name), zipfile.ZIP_STORED)
    return packed.getvalue()


def unbundled(content: bytes) -> Bundle:
    """Read what `bundled` made. Raises TitleError that says what is wrong with it."""
    try:
        _check_directory(content)
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            return _read(archive)
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


def _read(archive: zipfile.ZipFile) -> Bundle:
    members = [each for each in archive.infolist() if not each.is_dir()]
    if len(members) > _MOST_FILES or sum(each.file_size for each in members) > LARGEST_BUNDLE:
        raise TitleError("", f"holds more than {LARGEST_BUNDLE // 2**20} MiB or too many files")
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
        if member.file_size > LARGEST_FILE:
            raise TitleError(name, f"is larger than {LARGEST_FILE // 2**20} MiB")
        files[name] = archive.read(member)
    title = check_title(parse_title(archive.read(DOCUMENT)))
    missing = sorted(files_of(title) - set(files))
    if missing:
        raise TitleError(missing[0], "is used by the title, but is not in the file")
    return Bundle(title, files)


def _checked_name(name: str) -> str:
    path = PurePosixPath(name)
    if not name or path.is_absolute() or ".." in path.parts or "\\" in name or "\0" in name:
        raise TitleError(name[:80], "is no name that a file may have")
    return name
