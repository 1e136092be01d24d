"""The result of a render."""

from dataclasses import dataclass

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.noise import hashed
from mabrel.kernels import kernel
from mabrel.source import Image


@dataclass(frozen=True)
class Picture(Image):
    """A rendered image; `notices` says what the user should know, such as letters that no font
    has."""

    notices: tuple[str, ...] = ()

    def to_uint8(self) -> NDArray[np.uint8]:
        """Straight-alpha RGBA, dithered so that slow gradients don't band.

        The dither adds less than half a level: a value that 8 bits can hold comes out as it is.
        """
        out = np.empty(self.pixels.shape, np.uint8)
        _quantise(self.pixels, np.float32(255), out)
        return out

    def to_uint16(self) -> NDArray[np.uint16]:
        """Straight-alpha RGBA in 16 bits, dithered likewise."""
        out = np.empty(self.pixels.shape, np.uint16)
        _quantise(self.pixels, np.float32(65535), out)
        return out

    @property
    def nbytes(self) -> int:
        return self.pixels.nbytes


@kernel(parallel=True)
def _quantise(pixels, most, out):  # type: ignore[no-untyped-def]
    height, width = pixels.shape[:2]
    one = np.float32(1)
    for line in numba.prange(height):
        y = np.int64(line)
        for x in range(width):
            # Light that nothing covers, such as a glow behind, takes as much alpha as it is bright.
            brightest = max(pixels[y, x, 0], pixels[y, x, 1], pixels[y, x, 2])
            alpha = min(max(pixels[y, x, 3], brightest, np.float32(0)), one)
            noise = hashed(x, y, np.uint32(77))
            level = _dithered(alpha * most, noise & np.uint32(255), most)
            byte = (noise >> np.uint32(8)) & np.uint32(255)  # one for all: greys stay grey
            out[y, x, 3] = level
            for c in range(3):
                if level == 0:
                    out[y, x, c] = 0
                    continue
                value = pixels[y, x, c] if alpha >= one else pixels[y, x, c] / alpha
                value = min(max(value, np.float32(0)), one)
                out[y, x, c] = _dithered(value * most, byte, most)


@kernel(inline="always")
def _dithered(value, byte, most):  # type: ignore[no-untyped-def]
    """Round after adding −0.498 to 0.498: whole levels, but for float error, stay."""
    shift = (np.float32(byte) - np.float32(127.5)) * np.float32(0.498 / 127.5)
    return int(min(max(value + shift + np.float32(0.5), np.float32(0)), most))
