"""Exporting a title: in pieces of frames that last, which become one file."""

import contextlib
import zipfile
from collections import deque
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future
from concurrent.futures.process import BrokenProcessPool
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import av
import numpy as np

from mabrel.export.clip import join_clips, whole_file, write_clip
from mabrel.export.clip_forms import CLIPS
from mabrel.export.frames import FrameTime
from mabrel.export.order import Order
from mabrel.export.worker import FrameError, made_piece, part_form
from mabrel.export.workers import Here, Workers
from mabrel.render import Picture
from mabrel.title import Title
from mabrel.title.atomic import write_atomically

TRIES = 3
"""How often a piece is begun before it counts as one that can't be made."""
_PIECE, _WHOLE_PIECE = 24, 8  # frames: of a lossy clip, and of what takes more room
LONGEST = 3600
"""Seconds that a piece may take; then its worker counts as dead."""
_AHEAD = 2  # pieces on their way for each worker


class Stopped(Exception):  # noqa: N818 - nothing went wrong
    """Somebody wants no more of it; the pieces that are there stay."""


@dataclass(frozen=True)
class Piece:
    """Some frames, made together."""

    number: int
    frames: tuple[FrameTime, ...]

    def path(self, folder: Path) -> Path:
        return folder / f"{self.number:06d}.piece"


def pieces_of(title: Title, order: Order) -> list[Piece]:
    """The same frames are always in the same pieces, whoever makes them. Raises ClipError."""
    frames = order.frames(title)
    lossy = order.kind == "clip" and not CLIPS[part_form(order)].lossless
    size = _PIECE if lossy else _WHOLE_PIECE
    return [
        Piece(number, tuple(frames[first : first + size]))
        for number, first in enumerate(range(0, len(frames), size))
    ]


def make_pieces(
    title: Title,
    order: Order,
    folder: Path,
    workers: Workers | None = None,
    *,
    done: Callable[[int], None] = lambda frames: None,
    stopped: Callable[[], bool] = lambda: False,
) -> None:
    """Make every piece that does not lie in `folder` yet.

    Parameters
    ----------
    title, order
        What is exported.
    folder : Path
        Where pieces are kept; each is there whole or not at all.
    workers : Workers
        Who makes them; without any, this process.
    done : callable
        Hears how many frames lie there.
    stopped : callable
        Asked now and then whether to give up.

    Raises
    ------
    FrameError
        For a frame that can't be made, or whose worker died `TRIES` times.
    Stopped, ClipError, LibraryError, OSError
    """
    workers = workers or Here()
    pieces = pieces_of(title, order)
    there = {piece.number for piece in pieces if piece.path(folder).exists()}
    ready = sum(len(piece.frames) for piece in pieces if piece.number in there)
    done(ready)
    waiting = deque(piece for piece in pieces if piece.number not in there)
    if not waiting:
        return
    run = _Run(workers, workers.share(title), order)
    try:
        while waiting or run.underway:
            if stopped():
                raise Stopped
            while waiting and len(run.underway) < workers.count * _AHEAD:
                run.begin(waiting.popleft())
            piece = run.next(folder)
            if piece is not None:
                ready += len(piece.frames)
                done(ready)
    finally:
        run.drop()


class _Run:
    """Pieces on their way."""

    def __init__(self, workers: Workers, bundle: Any, order: Order) -> None:
        self._workers, self._bundle, self._order = workers, bundle, order.model_dump()
        self._tries: dict[int, int] = {}
        self.underway: deque[tuple[Piece, Future[bytes]]] = deque()

    def begin(self, piece: Piece) -> None:
        self.underway.append((piece, self._submitted(piece)))

    def _submitted(self, piece: Piece) -> "Future[bytes]":
        frames = [tuple(frame) for frame in piece.frames]
        self._tries[piece.number] = self._tries.get(piece.number, 0) + 1
        return self._workers.submit(made_piece, self._bundle, self._order, frames)

    def next(self, folder: Path) -> Piece | None:
        """The first of them, once it is made and kept; None where it is begun anew."""
        piece, future = self.underway[0]
        try:
            content = future.result(LONGEST)
        except TimeoutError:
            self._again(f"no answer after {LONGEST} s")
            return None
        except (FrameError, OSError, MemoryError):
            raise
        except BrokenProcessPool as died:
            self._again(str(died))
            return None
        except Exception as error:
            if isinstance(error, ValueError):
                raise
            self._again(repr(error))
            return None
        write_atomically(piece.path(folder), content)
        self.underway.popleft()
        return piece

    def _again(self, reason: str) -> None:
        """A worker died: who did it is not known, so all that was on its way begins anew."""
        piece, _ = self.underway[0]
        if self._tries[piece.number] >= TRIES:
            raise FrameError(piece.frames[0].number, f"its worker died {TRIES} times ({reason})")
        self._workers.renew()
        again = [each for each, _ in self.underway]
        self.underway.clear()
        for each in again:
            if each is not piece:
                self._tries[each.number] -= 1
            self.begin(each)

    def drop(self) -> None:
        for _, future in self.underway:
            future.cancel()


def finish(title: Title, order: Order, folder: Path, path: Path) -> None:
    """Put the pieces in `folder` together to what was ordered.

    A clip or a picture is a file; frames, and passes apart, are a zip. It is there whole or not
    at all. Raises ClipError, OSError.
    """
    parts = [piece.path(folder) for piece in pieces_of(title, order)]
    if order.kind == "clip":
        _finish_clip(title, order, parts, path)
    elif order.several:
        with whole_file(path, ".zip") as beside, zipfile.ZipFile(beside, "w") as archive:
            for name, content in frame_files(title, order, folder):
                archive.writestr(zipfile.ZipInfo(name), content)
    else:
        write_atomically(path, parts[0].read_bytes())


def frame_files(title: Title, order: Order, folder: Path) -> Iterator[tuple[str, bytes]]:
    """The files of all frames: their names, such as ``frame-0012.png``, and what is in them."""
    frames = order.frames(title)
    digits = max(len(str(frames[-1].number)), 4)
    for piece in pieces_of(title, order):
        with zipfile.ZipFile(piece.path(folder)) as archive:
            for entry in archive.namelist():
                number, _, rest = entry.partition(".")
                yield f"frame-{int(number):0{digits}d}.{rest}", archive.read(entry)


def _finish_clip(title: Title, order: Order, parts: Sequence[Path], path: Path) -> None:
    rate = order.rate_for(title)
    if CLIPS[order.form].joins:
        join_clips(path, parts, rate, order.form)
        return
    write_clip(path, _pictures(parts), rate, order.form, ground=order.ground)


def _pictures(parts: Sequence[Path]) -> Iterator[Picture]:
    """Every frame of parts that were kept losslessly."""
    for part in parts:
        with av.open(str(part)) as file:
            for frame in file.decode(video=0):
                yield _picture(frame)


def _picture(frame: Any) -> Picture:
    green, blue, red, alpha = (
        np.frombuffer(plane, np.uint16).reshape(frame.height, -1)[:, : frame.width]
        for plane in frame.planes
    )
    pixels = np.dstack([red, green, blue, alpha]).astype(np.float32) / np.float32(65535)
    pixels[..., :3] *= pixels[..., 3:]
    return Picture(pixels)


def export(
    title: Title,
    order: Order,
    path: Path,
    workers: Workers | None = None,
    *,
    folder: Path,
    done: Callable[[int], None] = lambda frames: None,
    stopped: Callable[[], bool] = lambda: False,
) -> None:
    """Make what was ordered, all of it; see `make_pieces` and `finish`. Pieces that lie in
    `folder` already are not made again; those of a finished export are let go of."""
    make_pieces(title, order, folder, workers, done=done, stopped=stopped)
    finish(title, order, folder, path)
    for piece in pieces_of(title, order):
        with contextlib.suppress(FileNotFoundError):
            piece.path(folder).unlink()
