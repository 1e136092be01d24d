"""Where the files that a title names come from: its pictures and fonts."""

from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Protocol

from mabrel.title.playing import is_numbered, numbers_of

SHIPPED = Path(__file__).parent.parent / "pictures"
SHIPPED_PREFIX = "shipped/"
LARGEST_FILE = 64 * 2**20
LARGEST_CLIP = 4 * 2**30


class LibraryError(ValueError):
    """A file that a title names is not there, or must not be read."""


class Library(Protocol):
    """Files by name. Raises LibraryError for one that is not there."""

    def read(self, name: str) -> bytes: ...

    def version(self, name: str) -> str:
        """Changes when what is in the file does; costs no reading."""
        ...

    def path(self, name: str) -> Path:
        """Where a clip lies: it is read piece by piece, whatever its size."""
        ...

    def members(self, name: str) -> list[str]:
        """The files of a numbered name, in the order of their numbers."""
        ...


@dataclass(frozen=True)
class Folder:
    """The files in a folder and below it; nothing outside it is ever read."""

    folder: Path

    def read(self, name: str) -> bytes:
        path = self._found(name)
        _check_size(name, path, LARGEST_FILE)
        return path.read_bytes()

    def version(self, name: str) -> str:
        if is_numbered(name):
            return ";".join(self._version(each) for each in self.members(name))
        return self._version(name)

    def _version(self, name: str) -> str:
        path = self._found(name)
        state = path.stat()
        return f"{path}:{state.st_mtime_ns}:{state.st_size}"

    def path(self, name: str) -> Path:
        path = self._found(name)
        _check_size(name, path, LARGEST_CLIP)
        return path

    def members(self, name: str) -> list[str]:
        within, slash, last = name.rpartition("/")
        pattern = numbers_of(last)
        folder = self._inside(within or ".")
        there = [each.name for each in folder.iterdir()] if folder.is_dir() else []
        found = {int(each[1]): each[0] for each in map(pattern.fullmatch, there) if each}
        if not found:
            raise LibraryError(f"there is no file {name!r}")
        return [f"{within}{slash}{found[number]}" for number in sorted(found)]

    def _found(self, name: str) -> Path:
        path = self._inside(name)
        if not path.is_file():
            raise LibraryError(f"there is no file {name!r}")
        return path

    def _inside(self, name: str) -> Path:
        parts = PurePosixPath(name)
        if parts.is_absolute() or ".." in parts.parts or "\\" in name or "\0" in name:
            raise LibraryError(f"{name!r} must lie beside its title")
        path = (self.folder / parts).resolve()
        if not path.is_relative_to(self.folder.resolve()):
            raise LibraryError(f"there is no file {name!r}")
        return path


def _check_size(name: str, path: Path, most: int) -> None:
    if path.stat().st_size > most:
        raise LibraryError(f"{name!r} is larger than the {most // 2**20} MiB that a file may have")


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

    def path(self, name: str) -> Path:
        library, inside = self._whose(name)
        return library.path(inside)

    def members(self, name: str) -> list[str]:
        library, inside = self._whose(name)
        before = name.removesuffix(inside)
        return [before + each for each in library.members(inside)]

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
