"""A relief seen from the side: which of its places hides the others."""

import numba
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
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
    _march(relief, place, low, high, hits)
    out, lifted = np.empty_like(fields), np.empty_like(relief)
    _gather(relief, fields, place, low, high, hits, out, lifted)
    return out, lifted


@numba.njit(cache=True, inline="always")
def _between(array, x, y):  # type: ignore[no-untyped-def]
    rows, columns = array.shape
    x, y = min(max(x, 0.0), columns - 1.0), min(max(y, 0.0), rows - 1.0)
    i, j = int(x), int(y)
    right, lower = min(i + 1, columns - 1), min(j + 1, rows - 1)
    u, v = x - i, y - j
    above = array[j, i] * (1 - u) + array[j, right] * u
    below = array[lower, i] * (1 - u) + array[lower, right] * u
    return above * (1 - v) + below * v


@numba.njit(cache=True)
def _hit(relief, view, low, high, x, y):  # type: ignore[no-untyped-def]
    """Where the ray from (x, y) in the card's plane to the viewer meets the relief."""
    across, down = (view[0] - x) / view[2], (view[1] - y) / view[2]
    lean = np.sqrt(across * across + down * down)
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


@numba.njit(cache=True, parallel=True)
def _march(relief, view, low, high, hits):  # type: ignore[no-untyped-def]
    rows, columns = relief.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            hx, hy, hz = _hit(relief, view, low, high, float(x), float(y))
            hits[y, x, 0], hits[y, x, 1], hits[y, x, 2] = hx, hy, hz


@numba.njit(cache=True)
def _torn(hits, y, x):  # type: ignore[no-untyped-def]
    """Whether a neighbour sees a place that is further away than it is itself."""
    rows, columns = hits.shape[:2]
    for dy, dx in ((-1, 0), (1, 0), (0, -1), (0, 1)):
        j, i = min(max(y + dy, 0), rows - 1), min(max(x + dx, 0), columns - 1)
        apart = abs(hits[j, i, 0] - hits[y, x, 0] - (i - x))
        if apart + abs(hits[j, i, 1] - hits[y, x, 1] - (j - y)) > _APART:
            return True
    return False


@numba.njit(cache=True, parallel=True)
def _gather(relief, fields, view, low, high, hits, out, lifted):  # type: ignore[no-untyped-def]
    rows, columns, channels = fields.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            lifted[y, x] = hits[y, x, 2]
            if not _torn(hits, y, x):
                for c in range(channels):
                    out[y, x, c] = _between(fields[:, :, c], hits[y, x, 0], hits[y, x, 1])
                continue
            lifted[y, x] = 0
            for c in range(channels):
                out[y, x, c] = 0
            for j in range(-1, 2):
                for i in range(-1, 2):
                    hx, hy, hz = _hit(relief, view, low, high, x + i / 3, y + j / 3)
                    lifted[y, x] += min(max(hz, 0.0), 1.0) / np.float32(9)
                    for c in range(channels):
                        out[y, x, c] += _between(fields[:, :, c], hx, hy) / np.float32(9)
