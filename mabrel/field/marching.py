"""A relief seen from the side: which of its places hides the others."""

import math

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]
_TILE = 16  # pixels along the parts in which the highest place is known
_APART = 0.75  # pixels between the hits of neighbours beyond which one hides part of the other


def leaned(
    height: Array, fields: Array, view: NDArray[np.float64], origin: NDArray[np.float64]
) -> tuple[Array, Array]:
    """`fields` ((H, W, C)) as they are seen where a relief hides itself, and how high the places
    lie that one sees ((H, W), pixels).

    `height` (H, W) is in pixels above the card, which stays in place. `view` holds the viewer's
    place (x, y, z) in pixels; `origin` (2) is where the first pixel's centre lies. From each
    pixel a ray runs towards the viewer; the highest place where it meets the relief is what one
    sees there (relief marching with bisection). Where neighbours see different places, nine rays
    are averaged. The arrays need room for what leans beyond the outline.
    """
    relief = np.ascontiguousarray(height, np.float32)
    fields = np.ascontiguousarray(fields, np.float32)
    low, high = min(float(relief.min()), 0.0), max(float(relief.max()), 0.0)
    hits = np.empty((*relief.shape, 3), np.float32)
    place = np.array([view[0] - origin[0], view[1] - origin[1], view[2]], np.float64)
    tops = _tops(relief, place, high - low)
    _march(relief, place, low, tops, hits)
    out, lifted = np.empty_like(fields), np.empty_like(relief)
    _gather(relief, fields, place, low, tops, hits, out, lifted)
    return out, lifted


def _tops(relief: Array, place: NDArray[np.float64], rise: float) -> Array:
    """For each tile, the highest place that any ray from it can meet: from there rays begin."""
    rows, columns = relief.shape
    wide = np.pad(relief, ((0, -rows % _TILE), (0, -columns % _TILE)))
    tiles = wide.reshape(wide.shape[0] // _TILE, _TILE, wide.shape[1] // _TILE, _TILE)
    highest = np.ascontiguousarray(tiles.max(axis=(1, 3)))
    across = max(abs(place[0]), abs(place[0] - columns)) / place[2]
    down = max(abs(place[1]), abs(place[1] - rows)) / place[2]
    beside, below = (math.ceil(lean * rise / _TILE) + 1 for lean in (across, down))
    kernel = np.ones((2 * below + 1, 2 * beside + 1), np.uint8)
    return np.asarray(np.maximum(cv2.dilate(highest, kernel), 0), np.float32)


@kernel(inline="always")
def _between(array, x, y):  # type: ignore[no-untyped-def]
    rows, columns = array.shape
    x, y = min(max(x, 0.0), columns - 1.0), min(max(y, 0.0), rows - 1.0)
    i, j = int(x), int(y)
    right, lower = min(i + 1, columns - 1), min(j + 1, rows - 1)
    u, v = x - i, y - j
    above = array[j, i] * (1 - u) + array[j, right] * u
    below = array[lower, i] * (1 - u) + array[lower, right] * u
    return above * (1 - v) + below * v


@kernel()
def _hit(relief, view, low, tops, x, y):  # type: ignore[no-untyped-def]
    """Where the ray from (x, y) in the card's plane to the viewer meets the relief."""
    across, down = (view[0] - x) / view[2], (view[1] - y) / view[2]
    lean = np.sqrt(across * across + down * down)
    row = min(max(int(y) // _TILE, 0), tops.shape[0] - 1)
    high = float(tops[row, min(max(int(x) // _TILE, 0), tops.shape[1] - 1)])
    if high <= low:
        return x + across * low, y + down * low, low
    steps = int(lean * (high - low) * 1.5) + 2
    before = high
    for k in range(1, steps + 1):
        z = high + (low - high) * k / steps
        if _between(relief, x + across * z, y + down * z) >= z:
            under = z
            for _ in range(6):
                middle = 0.5 * (before + under)
                if _between(relief, x + across * middle, y + down * middle) >= middle:
                    under = middle
                else:
                    before = middle
            return x + across * under, y + down * under, under
        before = z
    return x + across * low, y + down * low, low


@kernel(parallel=True)
def _march(relief, view, low, tops, hits):  # type: ignore[no-untyped-def]
    rows, columns = relief.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            hx, hy, hz = _hit(relief, view, low, tops, float(x), float(y))
            hits[y, x, 0], hits[y, x, 1], hits[y, x, 2] = hx, hy, hz


@kernel()
def _torn(hits, y, x):  # type: ignore[no-untyped-def]
    """Whether a neighbour sees a place that is further away than it is itself."""
    rows, columns = hits.shape[:2]
    for dy, dx in ((-1, 0), (1, 0), (0, -1), (0, 1)):
        j, i = min(max(y + dy, 0), rows - 1), min(max(x + dx, 0), columns - 1)
        apart = abs(hits[j, i, 0] - hits[y, x, 0] - (i - x))
        if apart + abs(hits[j, i, 1] - hits[y, x, 1] - (j - y)) > _APART:
            return True
    return False


@kernel()
def _look(fields, x, y, share, pixel, adds):  # type: ignore[no-untyped-def]
    """All fields at a place, or a share of them added."""
    rows, columns, channels = fields.shape
    x, y = min(max(x, 0.0), columns - 1.0), min(max(y, 0.0), rows - 1.0)
    i, j = int(x), int(y)
    right, lower = min(i + 1, columns - 1), min(j + 1, rows - 1)
    u, v = np.float32(x - i), np.float32(y - j)
    one = np.float32(1)
    a, b, c, d = (one - u) * (one - v), u * (one - v), (one - u) * v, u * v
    for k in range(channels):
        value = fields[j, i, k] * a + fields[j, right, k] * b
        value += fields[lower, i, k] * c + fields[lower, right, k] * d
        pixel[k] = pixel[k] + value * share if adds else value


@kernel(parallel=True)
def _gather(relief, fields, view, low, tops, hits, out, lifted):  # type: ignore[no-untyped-def]
    rows, columns, channels = fields.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            lifted[y, x] = hits[y, x, 2]
            if not _torn(hits, y, x):
                _look(fields, hits[y, x, 0], hits[y, x, 1], np.float32(1), out[y, x], False)
                continue
            lifted[y, x] = 0
            for c in range(channels):
                out[y, x, c] = 0
            for j in range(-1, 2):
                for i in range(-1, 2):
                    hx, hy, hz = _hit(relief, view, low, tops, x + i / 3, y + j / 3)
                    lifted[y, x] += min(max(hz, 0.0), 1.0) / np.float32(9)
                    _look(fields, hx, hy, np.float32(1 / 9), out[y, x], True)
