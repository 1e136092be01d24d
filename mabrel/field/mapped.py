"""Pictures seen through a map: each pixel's mean over all that it spans there."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]


def spanned(picture: Array, across: Array, down: Array, most: int) -> Array:
    """For each pixel the mean of a picture (H, W, C) over what lies between the places, `across`
    and `down` (R, S each, in pixels from its first centre), that it and its neighbours look at:
    (R, S, C).

    A pixel that spans n pixels takes n × n bilinear looks, at most `most` × `most`, spread by the
    map's own slope (Heckbert 1989, "Fundamentals of texture mapping and image warping"). Beyond
    its border the picture is mirrored.
    """
    picture = np.ascontiguousarray(picture, np.float32)
    places = [np.ascontiguousarray(each, np.float32) for each in (across, down)]
    out = np.empty((*across.shape, picture.shape[2]), np.float32)
    _span(picture, *places, np.int64(most), out)
    return out


@kernel(parallel=True)
def _span(picture, across, down, most, out):  # type: ignore[no-untyped-def]
    rows, columns, channels = out.shape
    half, one = np.float32(0.5), np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            along_x, along_y = _slope(across, down, y, x, 0)
            below_x, below_y = _slope(across, down, y, x, 1)
            wide = np.sqrt(along_x * along_x + along_y * along_y)
            high = np.sqrt(below_x * below_x + below_y * below_y)
            count = min(max(int(np.ceil(max(wide, high) - np.float32(0.05))), 1), most)
            for c in range(channels):
                out[y, x, c] = 0
            share = one / np.float32(count * count)
            for i in range(count):
                u = (np.float32(i) + half) / np.float32(count) - half
                for j in range(count):
                    v = (np.float32(j) + half) / np.float32(count) - half
                    at_x = across[y, x] + u * along_x + v * below_x
                    at_y = down[y, x] + u * along_y + v * below_y
                    _look(picture, at_x, at_y, share, out, y, x)


@kernel(inline="always")
def _slope(across, down, y, x, axis):  # type: ignore[no-untyped-def]
    """How far the place moves from one pixel to the next: (x, y)."""
    rows, columns = across.shape
    if axis == 0:
        a, b = max(x - 1, 0), min(x + 1, columns - 1)
        share = np.float32(1 / max(b - a, 1))
        return (across[y, b] - across[y, a]) * share, (down[y, b] - down[y, a]) * share
    a, b = max(y - 1, 0), min(y + 1, rows - 1)
    share = np.float32(1 / max(b - a, 1))
    return (across[b, x] - across[a, x]) * share, (down[b, x] - down[a, x]) * share


@kernel(inline="always")
def _look(picture, x, y, share, out, row, column):  # type: ignore[no-untyped-def]
    rows, columns, channels = picture.shape
    left, top = np.floor(x), np.floor(y)
    u, v, one = x - left, y - top, np.float32(1)
    i, k = _mirrored(int(left), columns), _mirrored(int(left) + 1, columns)
    j, m = _mirrored(int(top), rows), _mirrored(int(top) + 1, rows)
    a, b = (one - u) * (one - v) * share, u * (one - v) * share
    c, d = (one - u) * v * share, u * v * share
    for n in range(channels):
        value = picture[j, i, n] * a + picture[j, k, n] * b
        out[row, column, n] += value + picture[m, i, n] * c + picture[m, k, n] * d


@kernel(inline="always")
def _mirrored(place, size):  # type: ignore[no-untyped-def]
    """A place on a line that is mirrored at its first and its last pixel."""
    if 0 <= place < size:
        return place
    if size == 1:
        return 0
    period = 2 * (size - 1)
    place = place % period
    return period - place if place >= size else place
