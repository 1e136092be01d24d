"""Where the files that a title names come from: its pictures and fonts."""

from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Protocol

SHIPPED = Path(__file__).parent.parent / "pictures"
SHIPPED_PREFIX = "shipped/"
LARGEST_FILE = 64 * 2**20


class LibraryError(ValueError):
    """A file that a title names is not there, or must not be read."""


class Library(Protocol):
    """Files by name. Raises LibraryError for one that is not there."""

    def read(self, name: str) -> bytes: ...

    def version(self, name: str) -> str:
        """Changes when what is in the file does; costs no reading."""
        ...


@dataclass(frozen=True)
class Folder:
    """The files in a folder and below it; nothing outside it is ever read."""

    path: Path

    def read(self, name: str) -> bytes:
        path = self._found(name)
        size = path.stat().st_size
        if size > LARGEST_FILE:
            raise LibraryError(
                f"{name!r} is larger than the {LARGEST_FILE // 2**20} MiB that a file may have"
            )
        return path.read_bytes()

    def version(self, name: str) -> str:
        path = self._found(name)
        state = path.stat()
        return f"{path}:{state.st_mtime_ns}:{state.st_size}"

    def _found(self, name: str) -> Path:
        parts = PurePosixPath(name)
        if parts.is_absolute() or ".." in parts.parts or "\\" in name or "\0" in name:
            raise LibraryError(f"{name!r} must lie beside its title")
        path = (self.path / parts).resolve()
        if not path.is_relative_to(self.path.resolve()) or not path.is_file():
            raise LibraryError(f"there is no file {name!r}")
        return path


@dataclass(frozen=True)
class Shipped:
    """The pictures that come with the engine, as ``shipped/NAME``; all else from `others`."""

    others: Library | None = None

    def read(self, name: str) -> bytes:
        library, inside = self._whose(name)
        return library.read(inside)

    def version(self, name: str) -> str:
        library, inside = self._whose(name)
        return library.version(inside)

    def _whose(self, name: str) -> tuple[Library, str]:
        if name.startswith(SHIPPED_PREFIX):
            return Folder(SHIPPED), name.removeprefix(SHIPPED_PREFIX)
        if self.others is None:
            raise LibraryError(f"there is no file {name!r}")
        return self.others, name


def library_at(folder: Path | None) -> Library:
    """What ships, and the files in a title's own folder."""
    return Shipped(None if folder is None else Folder(folder))


def shipped_pictures() -> list[str]:
    """The names of the pictures that come with the engine."""
    there = SHIPPED.iterdir() if SHIPPED.is_dir() else ()
    return sorted(SHIPPED_PREFIX + path.name for path in there if path.suffix != ".txt")
