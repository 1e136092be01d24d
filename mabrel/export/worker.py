"""What a worker does: frames of a title, from its bundle to bytes. Runs on any machine."""

import io
import tempfile
import zipfile
from collections.abc import Iterator, Sequence
from hashlib import sha256
from pathlib import Path
from typing import Any, NamedTuple

import cv2
import numba

from mabrel.compose.bundle import LARGEST_SENT, unbundled
from mabrel.export.clip import write_clip
from mabrel.export.clip_forms import CLIPS
from mabrel.export.frames import FrameTime
from mabrel.export.openraster import openraster_bytes
from mabrel.export.order import Order, as_ordered
from mabrel.export.parts import parts_sheet
from mabrel.export.parts_forms import PARTS
from mabrel.export.passes import pass_pictures, passes_bytes, passes_of
from mabrel.export.stills import still_bytes
from mabrel.render import Cancel, Picture, Renderer
from mabrel.title import Title, parse_title

LOSSLESS = "ffv1"
"""What parts of a clip are kept as whose own format can't be joined."""


class FrameError(ValueError):
    """One frame could not be made: `number` says which, from the title's start."""

    def __init__(self, number: int, reason: str) -> None:
        super().__init__(number, reason)
        self.number, self.reason = number, reason

    def __str__(self) -> str:
        return f"frame {self.number}: {self.reason}"


class AtHome(NamedTuple):
    """A title whose files this machine has."""

    document: bytes
    home: Path | None


def made_piece(
    bundle: bytes | AtHome, order: dict[str, Any], frames: Sequence[tuple[int, float]]
) -> bytes:
    """Frames (number, seconds) of a title, encoded as `order` says: a part of a clip, or a zip of
    files, or for a single picture its file.

    The title comes as a bundle, or as its document where its files are. What does not move is
    rendered once in each process. Raises FrameError, and what reading the title raises.
    """
    cv2.setNumThreads(numba.get_num_threads())  # a worker has as many for all that it does
    kept = _unpacked(bundle)
    times = [FrameTime(*each) for each in frames]
    return piece_bytes(kept.renderer, kept.title, Order.model_validate(order), times)


def piece_bytes(
    renderer: Renderer,
    title: Title,
    order: Order,
    frames: Sequence[FrameTime],
    cancel: Cancel | None = None,
) -> bytes:
    """The same, of a title at hand."""
    shown = as_ordered(title, order)
    if order.kind == "clip":
        return _part_of_clip(renderer, shown, order, frames, cancel)
    files = [
        (f"{frame.number}{name}", content)
        for frame in frames
        for name, content in _frame_files(renderer, shown, order, frame, cancel)
    ]
    if not order.moving and len(files) == 1:
        return files[0][1]
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_STORED) as archive:
        for name, content in files:
            archive.writestr(zipfile.ZipInfo(name), content)
    return packed.getvalue()


def part_form(order: Order) -> str:
    """The format of a clip's parts."""
    return order.form if CLIPS[order.form].joins else LOSSLESS


def _part_of_clip(
    renderer: Renderer,
    title: Title,
    order: Order,
    frames: Sequence[FrameTime],
    cancel: Cancel | None,
) -> bytes:
    def pictures() -> Iterator[Picture]:
        for frame in frames:
            yield _picture(renderer, title, order, frame, cancel)

    form = part_form(order)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"part{CLIPS[form].suffix}"
        write_clip(path, pictures(), order.rate_for(title), form, ground=order.ground)
        return path.read_bytes()


def _frame_files(
    renderer: Renderer, title: Title, order: Order, frame: FrameTime, cancel: Cancel | None
) -> Iterator[tuple[str, bytes]]:
    """The files of one frame: what follows its number in their names, and what is in them."""
    how: dict[str, Any] = {"time": frame.time, "scale": order.scale, "cancel": cancel}
    try:
        if order.kind == "layers":
            yield ".ora", openraster_bytes(renderer, title, **how)
        elif order.kind == "parts":
            sheet = parts_sheet(
                title, renderer, frame.time, whole=order.hidden == "whole", cancel=cancel
            )
            yield order.suffix, PARTS[order.form].write(sheet, order.scale)
        elif order.passes == "none":
            picture = renderer.render(title, **how)
            yield (
                order.suffix,
                still_bytes(picture, order.form, order.depth, order.quality, order.ground),
            )
        else:
            passes = passes_of(renderer, title, **how)
            depth = order.depth or "half"
            if order.passes == "together":
                yield order.suffix, passes_bytes(passes, depth)
                return
            for name, write in pass_pictures(passes):
                yield f".{name}{order.suffix}", write(depth)
    except ValueError as error:
        raise FrameError(frame.number, str(error)) from error


def _picture(
    renderer: Renderer, title: Title, order: Order, frame: FrameTime, cancel: Cancel | None
) -> Picture:
    try:
        return renderer.render(title, time=frame.time, scale=order.scale, cancel=cancel)
    except ValueError as error:
        raise FrameError(frame.number, str(error)) from error


class _Kept:
    """A title that was unpacked in this process, and all that is kept of its frames."""

    def __init__(self, bundle: bytes | AtHome) -> None:
        self.renderer = Renderer()
        if isinstance(bundle, AtHome):
            self.title = parse_title(bundle.document).at_home(bundle.home)
            return
        title, files = unbundled(bundle, LARGEST_SENT)
        self.folder = tempfile.TemporaryDirectory()
        home = Path(self.folder.name)
        for name, content in files.items():
            (home / name).parent.mkdir(parents=True, exist_ok=True)
            (home / name).write_bytes(content)
        self.title = title.at_home(home)


_last: dict[str | AtHome, _Kept] = {}


def _unpacked(bundle: bytes | AtHome) -> _Kept:
    """The last title of this process stays; another one takes its place."""
    key = bundle if isinstance(bundle, AtHome) else sha256(bundle).hexdigest()
    if key not in _last:
        _last.clear()
        _last[key] = _Kept(bundle)
    return _last[key]
