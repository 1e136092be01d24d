"""Animated WebP: its frames' times from the file's own chunks, its pictures by Pillow."""

import io
import threading
from bisect import bisect_right
from collections.abc import Iterator
from itertools import accumulate

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from mabrel.source.picture_error import PictureError

Array = NDArray[np.float32]
MOST_FRAMES = 20_000
LARGEST_FRAME = 40_000_000
_ANIMATED = 2  # a flag of the chunk VP8X
_SHORTEST, _INSTEAD = 11, 100
"""Thousandths of a second: what is shown shorter counts as this long, as browsers have it."""
_NEAR = 1e-6


def looks_animated(head: bytes) -> bool:
    """Whether a file that begins so is a WebP of several frames."""
    webp = head[:4] == b"RIFF" and head[8:16] == b"WEBPVP8X"
    return webp and len(head) > 20 and bool(head[20] & _ANIMATED)


class AnimatedWebp:
    """An open animation. Raises PictureError where it is broken."""

    def __init__(self, content: bytes, name: str) -> None:
        self.name = name
        self._lock = threading.Lock()
        if not looks_animated(content):
            raise PictureError(name, "is no animated WebP")
        self.width = int.from_bytes(content[24:27], "little") + 1
        self.height = int.from_bytes(content[27:30], "little") + 1
        if self.width * self.height > LARGEST_FRAME:
            said = f"{self.width} × {self.height} pixels"
            most = LARGEST_FRAME // 1_000_000
            raise PictureError(name, f"has {said}; at most {most} million can be used")
        lengths = [each if each >= _SHORTEST else _INSTEAD for each in _durations(content)]
        if not 0 < len(lengths) <= MOST_FRAMES:
            raise PictureError(name, f"has no frame, or more than {MOST_FRAMES:,}")
        ends = [each / 1000 for each in accumulate(lengths)]
        self._starts, self._end = [0.0, *ends[:-1]], ends[-1]
        try:
            self._image = Image.open(io.BytesIO(content), formats=["WEBP"])
        except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as broken:
            raise PictureError(name, f"is a broken WebP: {broken}") from None

    @property
    def count(self) -> int:
        return len(self._starts)

    def lasts(self, rate: float) -> float:
        """Seconds; the file says it, whatever the rate."""
        return self._end

    def due(self, seconds: float, rate: float) -> int:
        """The number of the frame that is due, so long after the first one's time."""
        return max(bisect_right(self._starts, seconds + _NEAR) - 1, 0)

    def frame(self, number: int) -> Array:
        """A frame as (H, W, 4), premultiplied and sRGB-encoded. Raises PictureError."""
        with self._lock:
            try:
                self._image.seek(number)
                pixels = np.array(self._image.convert("RGBA"), np.float32) / np.float32(255)
            except (OSError, ValueError, EOFError) as broken:
                said = f"frame {number} can't be decoded: {str(broken).lower()}"
                raise PictureError(self.name, said) from None
        pixels[..., :3] *= pixels[..., 3:]
        return pixels

    def close(self) -> None:
        self._image.close()


def _durations(content: bytes) -> Iterator[int]:
    """Of each frame, in thousandths of a second (WebP Container Specification, "ANMF")."""
    at = 12
    while at + 8 <= len(content):
        size = int.from_bytes(content[at + 4 : at + 8], "little")
        if content[at : at + 4] == b"ANMF" and size >= 16:
            yield int.from_bytes(content[at + 20 : at + 23], "little")
        at += 8 + size + size % 2
