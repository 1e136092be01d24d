"""Clips: pictures as one file, and parts of one put together."""

import contextlib
import os
import tempfile
from collections.abc import Callable, Iterable, Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numba

from mabrel.export.clip_forms import CLIPS, ClipForm
from mabrel.export.flat import laid_over
from mabrel.export.frames import ClipError
from mabrel.render import Picture

Told = Callable[[int], None]


def write_clip(
    path: Path,
    pictures: Iterable[Picture],
    rate: Fraction,
    form: str = "webm",
    *,
    ground: str = "#000000",
    told: Told = lambda frames: None,
) -> None:
    """Write pictures as a clip: each is encoded as it comes, and no more are held.

    Parameters
    ----------
    path : Path
        The file; it is there whole or not at all.
    pictures : iterable of Picture
        Of one size.
    rate : Fraction
        Frames a second.
    form : str
        One of `CLIPS`.
    ground : str
        A colour code: what they lie over in a format without alpha.
    told : callable
        Hears how many frames are in it.

    Raises
    ------
    ClipError
        For an unknown format, no picture at all, pictures of different sizes, or a size that the
        format can't have.
    OSError
        Where it can't be written.
    """
    chosen = form_of(form)
    with whole_file(path, chosen.suffix) as beside, _opened(beside, chosen) as file:
        _encode(file, chosen, pictures, rate, ground, told)


def form_of(name: str) -> ClipForm:
    """The format of this name. Raises ClipError."""
    if name not in CLIPS:
        raise ClipError(f"there is no clip format {name!r}; there are {', '.join(CLIPS)}")
    return CLIPS[name]


def join_clips(path: Path, parts: Sequence[Path], rate: Fraction, form: str) -> None:
    """Put parts of a clip, each written by `write_clip`, together in their order, without
    encoding anything again.

    Raises ClipError for a format whose parts can't be joined, OSError.
    """
    chosen = form_of(form)
    if not chosen.joins or not parts:
        raise ClipError(f"{len(parts)} parts of {chosen.label} can't be joined")
    with whole_file(path, chosen.suffix) as beside, _opened(beside, chosen) as file:
        stream = None
        for number, packet in enumerate(_packets(parts)):
            if stream is None:
                stream = file.add_stream_from_template(packet.stream, opaque=True)
                stream.time_base = 1 / rate
            packet.stream = stream
            packet.time_base = 1 / rate
            packet.pts = packet.dts = number
            packet.duration = 1
            file.mux(packet)


def _packets(parts: Sequence[Path]) -> Iterator[Any]:
    for part in parts:
        with av.open(str(part)) as file:
            yield from (packet for packet in file.demux(video=0) if packet.size)


@contextlib.contextmanager
def whole_file(path: Path, suffix: str) -> Iterator[Path]:
    """A file to write beside `path`, whose place it takes once all went well."""
    descriptor, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.stem}.", suffix=suffix)
    os.close(descriptor)
    beside = Path(name)
    try:
        yield beside
        mask = os.umask(0)
        os.umask(mask)
        beside.chmod(0o666 & ~mask)
        beside.replace(path)
    except BaseException:
        with contextlib.suppress(FileNotFoundError):
            beside.unlink()
        raise


def _opened(path: Path, form: ClipForm) -> Any:
    """Without dates and numbers by chance: the same frames are the same file."""
    loops = {"apng": {"plays": "0"}, "webp": {"loop": "0"}}.get(form.container, {})
    return av.open(str(path), "w", format=form.container, options={"fflags": "+bitexact", **loops})


def _encode(
    file: Any, form: ClipForm, pictures: Iterable[Picture], rate: Fraction, ground: str, told: Told
) -> None:
    stream, size = None, (0, 0)
    for number, picture in enumerate(pictures):
        shown = picture if form.alpha else laid_over(picture, ground)
        if stream is None:
            size = (picture.width, picture.height)
            if max(size) > form.most:
                raise ClipError(f"a clip is at most {form.most} pixels on a side")
            stream = _stream(file, form, size, rate)
        elif size != (picture.width, picture.height):
            raise ClipError(f"frame {number} has another size than the first one")
        frame = form.frame(shown)
        frame.pts, frame.time_base = number, 1 / rate
        file.mux(stream.encode(frame))
        told(number + 1)
    if stream is None:
        raise ClipError("a clip has at least one frame")
    file.mux(stream.encode(None))


os.environ.setdefault("SVT_LOG", "1")  # the AV1 encoder tells of its settings at every start


def _stream(file: Any, form: ClipForm, size: tuple[int, int], rate: Fraction) -> Any:
    stream = file.add_stream(form.codec, rate=rate)
    stream.width, stream.height = size
    stream.pix_fmt = form.pixels
    stream.time_base = 1 / rate
    stream.options = {"flags": "+bitexact", **form.options}
    stream.codec_context.thread_count = numba.get_num_threads()  # this process's share of the cores
    return stream
