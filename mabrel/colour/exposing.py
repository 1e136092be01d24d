"""Pictures added up as light: what a film sees while its shutter is open."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.transfer import encode, lighten, pack, unpack
from mabrel.kernels import kernel

Array = NDArray[np.float32]


def exposed_more(total: Array, pixels: Array, weight: float) -> None:
    """Add a picture (H, W, 4; premultiplied, sRGB-encoded), so many times, to a sum of light
    (H, W, 4; linear, premultiplied), in place."""
    _add(np.ascontiguousarray(pixels, np.float32), np.float32(weight), total)


def developed(total: Array) -> Array:
    """The picture (H, W, 4; premultiplied, sRGB-encoded) that a sum of light of weight 1 comes
    to."""
    out = np.empty_like(total)
    _develop(total, out)
    return out


@kernel(parallel=True)
def _add(pixels, weight, total):  # type: ignore[no-untyped-def]
    for line in numba.prange(pixels.shape[0]):
        y = np.int64(line)
        planes = np.empty((4, pixels.shape[1]), np.float32)
        unpack(pixels[y], planes)
        for c in range(3):
            lighten(planes[c])
        for x in range(pixels.shape[1]):
            share = planes[3, x] * weight
            total[y, x, 0] += planes[0, x] * share
            total[y, x, 1] += planes[1, x] * share
            total[y, x, 2] += planes[2, x] * share
            total[y, x, 3] += pixels[y, x, 3] * weight


@kernel(parallel=True)
def _develop(total, out):  # type: ignore[no-untyped-def]
    for line in numba.prange(total.shape[0]):
        y = np.int64(line)
        planes = np.empty((4, total.shape[1]), np.float32)
        unpack(total[y], planes)
        for c in range(3):
            encode(planes[c])
        pack(planes, total[y], out[y])
