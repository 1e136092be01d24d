"""Clips: WebM, Matroska, MP4, MOV, GIF and APNG, each frame found by its time.

A frame is due from its own time stamp until that of the next one. It is found by an index of all
time stamps, which is made once without decoding anything, and decoded from the last whole frame
before it; going on from the frame before needs no search.
"""

import io
import math
import threading
from bisect import bisect_right
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.video.reformatter import ColorRange, Colorspace, Interpolation
from numpy.typing import NDArray

from mabrel.source.picture_error import PictureError

Array = NDArray[np.float32]
MOST_FRAMES = 400_000
"""Frames that a clip may have."""
LARGEST_FRAME = 40_000_000
_MOST_STREAMS = 32
_HEADERS = {b"\x1a\x45\xdf\xa3": "matroska", b"GIF8": "gif"}
_OLD_MOV = (b"moov", b"mdat", b"wide", b"free", b"skip", b"pnot")
"""What a file of QuickTime may begin with that has no type."""
_HD = 720  # lines from which a clip that says nothing has the colours of BT.709
_SPACES = {1: Colorspace.ITU709, 5: Colorspace.ITU601, 6: Colorspace.ITU601, 9: Colorspace.BT2020}
_FULL = 2
_NEAR = 1e-6  # frames: times are floats
_HOW = Interpolation.BICUBIC | Interpolation.ACCURATE_RND | Interpolation.FULL_CHR_H_INT
_BROKEN = (av.FFmpegError, ValueError, OverflowError, IndexError, EOFError)


def looks_like_clip(content: bytes) -> bool:
    """Whether the content is that of a clip, by its first bytes; an APNG by its chunks."""
    return _format(content) is not None


def looks_like_apng(content: bytes) -> bool:
    return content.startswith(b"\x89PNG") and b"acTL" in content[:4096]


def _format(content: bytes) -> str | None:
    if content[4:8] == b"ftyp" or content[4:8] in _OLD_MOV:
        return "mov"
    if looks_like_apng(content):
        return "apng"
    return next((name for start, name in _HEADERS.items() if content.startswith(start)), None)


class Clip:
    """An open clip. Raises PictureError where it is broken or has no picture."""

    def __init__(self, content: bytes | Path, name: str) -> None:
        self.name = name
        self._lock = threading.Lock()
        self._source = content.open("rb") if isinstance(content, Path) else io.BytesIO(content)
        self._at: int | None = None
        self._frames: Any = None
        try:
            self._open()
            self._index()
        except PictureError:
            raise
        except _BROKEN as broken:
            raise PictureError(name, f"is a broken clip: {_said(broken)}") from None

    def _open(self) -> None:
        form = _format(self._source.read(4096))
        if form is None:
            raise PictureError(self.name, "is no clip that can be read")
        self._source.seek(0)
        # Said, not guessed: some formats are lists of other files.
        self._file = av.open(self._source, format=form)
        if len(self._file.streams) > _MOST_STREAMS or not self._file.streams.video:
            raise PictureError(self.name, "has no picture, or too many streams")
        self._stream = self._file.streams.video[0]
        context = self._stream.codec_context
        if not 0 < context.width * context.height <= LARGEST_FRAME:  # before one is decoded
            said = f"{context.width} × {context.height} pixels"
            most = LARGEST_FRAME // 1_000_000
            raise PictureError(self.name, f"has {said}; at most {most} million can be used")
        self._stream.thread_type = "AUTO"
        alpha = self._stream.metadata.get("alpha_mode") == "1"
        own = self._stream.codec_context.name
        # The decoder that is usual for these drops their alpha.
        decoder = {"vp9": "libvpx-vp9", "vp8": "libvpx"}.get(own) if alpha else None
        self._decoder = av.CodecContext.create(decoder, "r") if decoder else None

    def _index(self) -> None:
        stamps: list[int] = []
        keys: list[int] = []
        for packet in self._file.demux(self._stream):
            if packet.size and packet.pts is not None:
                stamps.append(packet.pts)
                if packet.is_keyframe:
                    keys.append(packet.pts)
            if len(stamps) > MOST_FRAMES:
                raise PictureError(self.name, f"has more than {MOST_FRAMES:,} frames")
        if not stamps:
            raise PictureError(self.name, "has no frame")
        self._stamps = sorted(set(stamps))
        self._keys = sorted(keys) or [self._stamps[0]]
        self._steady = self._steady_rate()
        context = self._stream.codec_context
        rotated = abs(self._rotation()) % 180 == 90
        size = (context.width, context.height)
        self.width, self.height = size[::-1] if rotated else size

    def _steady_rate(self) -> Fraction | None:
        """The rate at which all frames come, but for the rounding of their stamps."""
        told = [self._stream.average_rate, self._stream.guessed_rate, self._stream.base_rate]
        count = np.arange(len(self._stamps))
        # In APNG each delay is rounded by itself, so that errors add up.
        most = count + 1 if self._file.format.name == "apng" else 1
        told += [Fraction(round(each)) for each in told if each]
        for rate in (Fraction(each) for each in told if each):
            off = np.array(self._stamps) - self._stamps[0] - count / float(rate * self.base)
            if (np.abs(off) <= most).all():
                return rate
        return None

    def _rotation(self) -> int:
        """Degrees counterclockwise by which it is to be turned, as its first frame says."""
        self._seek(self._stamps[0])
        frame = next(self._frames, None)
        self._at = None
        return int(getattr(frame, "rotation", 0) or 0)

    @property
    def count(self) -> int:
        """How many frames there are."""
        return len(self._stamps)

    @property
    def base(self) -> Fraction:
        return Fraction(self._stream.time_base or Fraction(1, 1000))

    @property
    def rate(self) -> float:
        """Frames a second, in the mean where they come unevenly."""
        return self.count / self.duration if self._steady is None else float(self._steady)

    @property
    def duration(self) -> float:
        """Seconds, the last frame as long as those before it are in the mean."""
        if self._steady is not None:
            return float(self.count / self._steady)
        span = float((self._stamps[-1] - self._stamps[0]) * self.base)
        each = span / (self.count - 1) if self.count > 1 else 0.0
        return span + each if span > 0 else 1 / 25

    def lasts(self, rate: float = 25.0) -> float:
        """The same; the file says it, whatever the rate."""
        return self.duration

    def due(self, seconds: float, rate: float = 25.0) -> int:
        """The number of the frame that is due, so long after the first one's time."""
        if self._steady is not None:  # stamps in thousandths miss true times by half of one
            return min(max(math.floor(seconds * float(self._steady) + _NEAR), 0), self.count - 1)
        stamp = self._stamps[0] + seconds / float(self.base) + _NEAR
        return max(bisect_right(self._stamps, stamp) - 1, 0)

    def frame(self, number: int) -> Array:
        """A frame as (H, W, 4), premultiplied and sRGB-encoded. Raises PictureError."""
        with self._lock:
            try:
                return _pixels(self._found(self._stamps[number]), self._stream)
            except _BROKEN as broken:
                self._at = None
                raise PictureError(
                    self.name, f"frame {number} can't be decoded: {_said(broken)}"
                ) from None

    def _found(self, stamp: int) -> Any:
        """The frame of this time stamp, or the last one before it where that is not there."""
        key = self._keys[max(bisect_right(self._keys, stamp) - 1, 0)]
        if self._at is None or stamp <= self._at or key > self._at:
            self._seek(key)
        found = None
        for frame in self._frames:
            if frame.pts is None:
                continue
            self._at = frame.pts
            if frame.pts > stamp and found is not None:
                self._at = None  # gone too far: it begins anew the next time
                break
            found = frame
            if frame.pts >= stamp:
                break
        if found is None:
            raise ValueError("nothing is there")
        return found

    def _seek(self, stamp: int) -> None:
        self._file.seek(stamp, stream=self._stream, backward=True)
        if self._decoder is not None:
            self._decoder.flush_buffers()
        self._frames = self._decoded(stamp)
        self._at = None

    def _decoded(self, key: int) -> Any:
        """All frames from the whole one of this time stamp on; a search may end before it."""
        begun = False
        for packet in self._file.demux(self._stream):
            begun = begun or packet.pts is None or packet.pts >= key
            if not begun:
                continue
            decoder = self._decoder or self._stream.codec_context
            yield from decoder.decode(packet if packet.size else None)

    def close(self) -> None:
        self._file.close()
        self._source.close()


def _pixels(frame: Any, stream: Any) -> Array:
    """By the matrix and range that the file says, else by its size."""
    context = stream.codec_context
    matrix = int(frame.colorspace or 2)
    usual = Colorspace.ITU709 if frame.height >= _HD else Colorspace.ITU601
    whole = context.pix_fmt.startswith(("yuvj", "rgb", "gbr"))
    full = whole or int(frame.color_range or 0) == _FULL
    shown = frame.reformat(
        format="rgba64le",
        src_colorspace=_SPACES.get(matrix, usual),
        src_color_range=ColorRange.JPEG if full else ColorRange.MPEG,
        dst_color_range=ColorRange.JPEG,
        interpolation=_HOW,
    )
    (plane,) = shown.planes
    rows = np.frombuffer(plane, np.uint16).reshape(shown.height, -1)
    pixels = rows[:, : shown.width * 4].reshape(shown.height, shown.width, 4)
    picture = pixels.astype(np.float32) * np.float32(1 / 65535)
    picture[..., :3] *= picture[..., 3:]
    turns = round(int(getattr(frame, "rotation", 0) or 0) / 90) % 4
    return np.ascontiguousarray(np.rot90(picture, turns))


def _said(error: BaseException) -> str:
    return str(getattr(error, "strerror", None) or error).lower()[:200]
