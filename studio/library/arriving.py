"""Files that arrive in pieces: what has come of each lies on the disk until the rest of it has.

How much of a file is there is how long it is on the disk, so nothing that was acknowledged is
lost by a broken connection, nor by a studio that is ended. What nobody goes on with is swept away
after a day.
"""

import contextlib
import fcntl
import json
import os
import shutil
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import IO
from uuid import UUID, uuid4

from django.conf import settings
from django.http import Http404

from studio.engine.outcome import LimitReached
from studio.library import files
from studio.web.disk import enough_disk
from studio.web.limits import LEAST_FREE, MOST_ARRIVING

_LONGEST = 24 * 3600
"""Seconds after which a file that nothing came of is given up."""
_PIECE = 2**18


class Busy(Exception):  # noqa: N818 - somebody else is at it
    """Another request writes the same file just now."""


@dataclass(frozen=True)
class Arriving:
    """A file on its way: what it will be called, and how many bytes it will have."""

    id: UUID
    name: str
    length: int

    @property
    def path(self) -> Path:
        return _place(self.id, "part")

    @property
    def there(self) -> int:
        """How much of it has come."""
        return self.path.stat().st_size

    @contextmanager
    def held(self) -> Iterator[IO[bytes]]:
        """The file, open at its end, for one writer. Raises Busy, Http404."""
        try:
            file = self.path.open("ab")
        except FileNotFoundError:
            raise Http404 from None
        with file:
            try:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                raise Busy from None
            yield file

    def take(self, file: IO[bytes], content: IO[bytes]) -> int:
        """Put what comes to the end of `file`; how much is there then. Raises LimitReached."""
        there = os.fstat(file.fileno()).st_size
        while piece := content.read(min(_PIECE, self.length - there)):
            file.write(piece)
            there += len(piece)
        file.flush()
        os.fsync(file.fileno())
        return there

    def forget(self) -> None:
        for ending in ("part", "json"):
            _place(self.id, ending).unlink(missing_ok=True)


def expect(name: str, length: int) -> Arriving:
    """Make room for a file. Raises Refused for one that can't be kept, LimitReached for too many
    of them or too little room on the disk."""
    plain = files.plain_name(name)
    files.known_kind(plain)
    files.not_too_large(plain, length)
    _give_up_old()
    if sum(1 for _ in _folder().glob("*.json")) >= MOST_ARRIVING:
        raise LimitReached(f"{MOST_ARRIVING} files are on their way already: wait for one of them.")
    enough_disk()
    if shutil.disk_usage(settings.STATE_DIR).free - length < LEAST_FREE:
        raise LimitReached(f"The studio's disk has no room for {length / 2**20:,.0f} MiB more.")
    arriving = Arriving(uuid4(), plain, length)
    arriving.path.touch()
    _place(arriving.id, "json").write_text(json.dumps({"name": plain, "length": length}))
    return arriving


def arriving(id: UUID) -> Arriving:
    """One that is expected. Raises Http404."""
    try:
        told = json.loads(_place(id, "json").read_text())
        found = Arriving(id, told["name"], told["length"])
        found.path.stat()
    except (FileNotFoundError, ValueError, KeyError):  # a killed studio may leave half of it
        raise Http404 from None
    return found


def _folder() -> Path:
    folder: Path = settings.STATE_DIR / "arriving"
    folder.mkdir(exist_ok=True)
    return folder


def _place(id: UUID, ending: str) -> Path:
    return _folder() / f"{id.hex}.{ending}"


def _give_up_old() -> None:
    before = time.time() - _LONGEST
    for part in _folder().glob("*.part"):
        with contextlib.suppress(FileNotFoundError):
            if part.stat().st_mtime < before:
                part.unlink()
    for told in _folder().glob("*.json"):
        if not told.with_suffix(".part").exists():
            told.unlink(missing_ok=True)
