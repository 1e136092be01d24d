"""A picture weighted along its columns, then along its rows, by the same symmetric weights."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import LANES, kernel

Array = NDArray[np.float32]
_TILE = 512  # numbers of a row that are worked on together: with all rows around they stay near


def weighted(image: Array, weights: Array) -> Array:
    """(H, W) or (H, W, C): the sum of what lies around each pixel, by the `weights` (N) of its own
    place, of those one pixel away on both sides, two, and so on. What lies beyond the border is 0.
    """
    flat = np.ascontiguousarray(image, np.float32).reshape(len(image), -1)
    channels = image.shape[2] if image.ndim == 3 else 1
    if len(weights) % 2 == 0:  # those around are taken in pairs
        weights = np.append(weights, np.float32(0))
    out = np.empty(image.shape, np.float32)
    _weigh(flat, np.ascontiguousarray(weights, np.float32), channels, out.reshape(flat.shape))
    return out


@kernel(parallel=True, fastmath={"contract", "reassoc"})
def _weigh(image, weights, channels, out):  # type: ignore[no-untyped-def]
    rows, length = image.shape
    reach = weights.shape[0] - 1
    beside = reach * channels
    for lane in numba.prange(LANES):
        empty = np.zeros(_TILE, np.float32)
        whole = np.zeros(length + 2 * beside, np.float32)
        for y in range(np.int64(lane) * rows // LANES, (np.int64(lane) + 1) * rows // LANES):
            for left in range(0, length, _TILE):
                size = min(_TILE, length - left)
                sums = whole[beside + left : beside + left + size]
                own = image[y, left : left + size]
                for i in range(size):
                    sums[i] = weights[0] * own[i]
                for k in range(1, reach, 2):
                    near, far = weights[k], weights[k + 1]
                    a, b = _part(image, y - k, left, empty), _part(image, y + k, left, empty)
                    c, d = (
                        _part(image, y - k - 1, left, empty),
                        _part(image, y + k + 1, left, empty),
                    )
                    for i in range(size):
                        sums[i] += near * (a[i] + b[i]) + far * (c[i] + d[i])
            for left in range(0, length, _TILE):
                size = min(_TILE, length - left)
                sums = out[y, left : left + size]
                at = beside + left
                own = whole[at : at + size]
                for i in range(size):
                    sums[i] = weights[0] * own[i]
                for k in range(1, reach, 2):
                    near, far = weights[k], weights[k + 1]
                    m, n = k * channels, (k + 1) * channels
                    a, b = whole[at - m : at - m + size], whole[at + m : at + m + size]
                    c, d = whole[at - n : at - n + size], whole[at + n : at + n + size]
                    for i in range(size):
                        sums[i] += near * (a[i] + b[i]) + far * (c[i] + d[i])


@kernel(inline="always")
def _part(image, y, left, empty):  # type: ignore[no-untyped-def]
    """A tile of a row; empty beyond the picture."""
    if 0 <= y < image.shape[0]:
        return image[y, left : left + _TILE]
    return empty
