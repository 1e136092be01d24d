"""The studio's own pictures and fonts: files in one folder, named as titles name them."""

import re
from collections.abc import Iterator
from pathlib import Path, PurePosixPath

from django.conf import settings

from mabrel.source import (
    Folder,
    LibraryError,
    family_for,
    is_font_file,
    picture_size,
)
from mabrel.source.library import LARGEST_FILE
from mabrel.title.atomic import write_atomically

PICTURES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".exr", ".hdr", ".svg")
_LONGEST_STEM = 100


def folder() -> Folder:
    return Folder(settings.LIBRARY_DIR)


def own_files() -> Iterator[str]:
    """The names of all pictures and fonts, in order."""
    root: Path = settings.LIBRARY_DIR
    for path in sorted(root.rglob("*")) if root.is_dir() else ():
        name = str(path.relative_to(root))
        if path.is_file() and not path.name.startswith(".") and (is_picture(name) or is_font(name)):
            yield name


def is_picture(name: str) -> bool:
    return name.lower().endswith(PICTURES)


def is_font(name: str) -> bool:
    return is_font_file(name)


def own_pictures() -> list[str]:
    return [name for name in own_files() if is_picture(name)]


def own_fonts() -> list[str]:
    return [name for name in own_files() if is_font(name)]


def keep(wanted: str, content: bytes) -> str:
    """Put a file in the library; the name that it got. The same content is kept once.

    Nothing that is there is ever overwritten. Raises LibraryError, PictureError or FontError
    where the file can't be used, OSError where it can't be written.
    """
    name = _plain_name(wanted)
    check(name, content)
    root: Path = settings.LIBRARY_DIR
    root.mkdir(parents=True, exist_ok=True)
    for candidate in _candidates(name):
        path = root / candidate
        if not path.exists():
            write_atomically(path, content)
            return candidate
        if path.read_bytes() == content:
            return candidate
    raise AssertionError("the candidates never end")


def check(name: str, content: bytes) -> None:
    """See that it is a picture or font that the engine can read."""
    if len(content) > LARGEST_FILE:
        raise LibraryError(f"{name!r} is larger than {LARGEST_FILE // 2**20} MiB")
    if is_picture(name):
        picture_size(content, name)
    elif is_font(name):
        family_for(name, _Only(name, content))
    else:
        known = ", ".join(sorted({*PICTURES, ".ttf", ".otf", ".woff", ".woff2"}))
        raise LibraryError(f"{name!r} is no picture or font: its name ends in none of {known}")


def delete(name: str) -> None:
    """Raises LibraryError where there is no such file."""
    folder().read(name)
    (settings.LIBRARY_DIR / name).unlink()


class _Only:
    """A library of one file that is not kept yet."""

    def __init__(self, name: str, content: bytes) -> None:
        self._name, self._content = name, content

    def read(self, name: str) -> bytes:
        return self._content

    def version(self, name: str) -> str:
        return self._name


def _plain_name(wanted: str) -> str:
    """A file name without folders and without what a file system or an address may choke on."""
    path = PurePosixPath(wanted.replace("\\", "/"))
    stem = re.sub(r"[^\w .,()+-]+", "-", path.stem).strip(" .-") or "file"
    return stem[:_LONGEST_STEM] + path.suffix.lower()


def _candidates(name: str) -> Iterator[str]:
    path = PurePosixPath(name)
    yield name
    number = 2
    while True:
        yield f"{path.stem}-{number}{path.suffix}"
        number += 1
