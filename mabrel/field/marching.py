"""A relief seen from the side: which of its places hides the others."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.clearance import NEAR, of_tile, where_rays_begin
from mabrel.kernels import LANES, kernel

Array = NDArray[np.float32]
EIGHT = 8
"""So many fields are looked up at once."""
_APART = 0.75  # pixels further than itself from neighbours' places: a pixel sees more than one
_TORN = 2.0  # the same where one hides part of the other
_BESIDE = ((-2, 1), (-1, -2), (1, 2), (2, -1))
"""Where the other rays of a torn pixel run, in fifths of it: in rows and columns of their own."""


def leaned(
    height: Array, fields: Array, view: NDArray[np.float64], origin: NDArray[np.float64]
) -> tuple[Array, Array]:
    """`fields` ((H, W, C)) as they are seen where a relief hides itself, and how high the places
    lie that one sees ((H, W), pixels).

    `height` (H, W) is in pixels above the card, which stays in place. `view` holds the viewer's
    place (x, y, z) in pixels; `origin` (2) is where the first pixel's centre lies. From each
    pixel a ray runs towards the viewer; the highest place where it meets the relief is what one
    sees there (relief marching, ended by false position). Where neighbours see places so far
    apart that one hides part of the other, five rays are averaged. The arrays need room for what
    leans beyond the outline.
    """
    relief = np.ascontiguousarray(height, np.float32)
    fields = np.ascontiguousarray(fields, np.float32)
    low, high = min(float(relief.min()), 0.0), max(float(relief.max()), 0.0)
    hits = np.empty((*relief.shape, 3), np.float32)
    place = np.array([view[0] - origin[0], view[1] - origin[1], view[2]], np.float64)
    begins, peaks = where_rays_begin(relief, place, low, high)
    _march(relief, place, np.float32(low), begins, peaks, hits)
    out, lifted = np.empty_like(fields), np.empty_like(relief)
    _gather(relief, fields, place, np.float32(low), begins, peaks, hits, out, lifted)
    return out, lifted


@kernel(inline="always")
def _between(array, x, y):  # type: ignore[no-untyped-def]
    rows, columns = array.shape
    x = min(max(x, np.float32(0)), np.float32(columns - 1))
    y = min(max(y, np.float32(0)), np.float32(rows - 1))
    i, j = np.uint64(x), np.uint64(y)
    right, lower = np.uint64(min(int(i) + 1, columns - 1)), np.uint64(min(int(j) + 1, rows - 1))
    u, v, one = x - np.float32(i), y - np.float32(j), np.float32(1)
    above = array[j, i] * (one - u) + array[j, right] * u
    below = array[lower, i] * (one - u) + array[lower, right] * u
    return above * (one - v) + below * v


@kernel(inline="always")
def _hit(relief, view, low, begins, peaks, x, y):  # type: ignore[no-untyped-def]
    """Where the ray from (x, y) in the card's plane to the viewer meets the relief."""
    across, down = np.float32((view[0] - x) / view[2]), np.float32((view[1] - y) / view[2])
    high = of_tile(begins, x, y)
    if high <= low:
        return x + across * low, y + down * low, low
    lean = np.sqrt(across * across + down * down)
    count = int(lean * (high - low) * np.float32(1.5)) + 2
    step = (high - low) / np.float32(count)
    leap = max(int(np.float32(NEAR - 1) / max(lean * step, np.float32(1e-6))), 1)
    before, k = high, 0
    while k < count:
        ahead = min(k + leap, count)
        at_x, at_y = x + across * before, y + down * before
        if high - step * np.float32(ahead) > of_tile(peaks, at_x, at_y):
            k, before = ahead, high - step * np.float32(ahead)
            continue
        for i in range(k + 1, ahead + 1):
            z = high - step * np.float32(i)
            under = z - _between(relief, x + across * z, y + down * z)
            if under <= 0:
                over = before - _between(relief, x + across * before, y + down * before)
                z = _met(relief, x, y, across, down, before, over, z, under)
                return x + across * z, y + down * z, z
            before = z
        k = ahead
    return x + across * low, y + down * low, low


@kernel(inline="always")
def _met(relief, x, y, across, down, high, over, low, under):  # type: ignore[no-untyped-def]
    """The height at which a ray that is `over` the relief at one and `under` it at another meets
    it: false position, with the older end halved (Dowell and Jarratt 1971)."""
    z = low
    for _ in range(4):
        if over - under < np.float32(1e-6):
            break
        z = (low * over - high * under) / (over - under)
        gap = z - _between(relief, x + across * z, y + down * z)
        if abs(gap) < np.float32(1e-3):
            break
        if gap > np.float32(0):
            high, over, under = z, gap, under * np.float32(0.5)
        else:
            low, under, over = z, gap, over * np.float32(0.5)
    return z


@kernel(parallel=True)
def _march(relief, view, low, begins, peaks, hits):  # type: ignore[no-untyped-def]
    rows = relief.shape[0]
    for lane in numba.prange(LANES):
        for y in range(np.int64(lane), rows, LANES):
            _march_row(relief, view, low, begins, peaks, y, hits[y])


@kernel()
def _march_row(relief, view, low, begins, peaks, y, hits):  # type: ignore[no-untyped-def]
    for x in range(hits.shape[0]):
        hx, hy, hz = _hit(relief, view, low, begins, peaks, np.float32(x), np.float32(y))
        hits[x, 0], hits[x, 1], hits[x, 2] = hx, hy, hz


@kernel(inline="always")
def _apart(hits, y, x):  # type: ignore[no-untyped-def]
    """How much further away than it is itself a neighbour's place lies, at most."""
    rows, columns = hits.shape[:2]
    up = _leaves(hits, y, x, max(y - 1, 0), x)
    down = _leaves(hits, y, x, min(y + 1, rows - 1), x)
    left = _leaves(hits, y, x, y, max(x - 1, 0))
    right = _leaves(hits, y, x, y, min(x + 1, columns - 1))
    return max(up, down, left, right)


@kernel(inline="always")
def _leaves(hits, y, x, j, i):  # type: ignore[no-untyped-def]
    across = abs(hits[j, i, 0] - hits[y, x, 0] - np.float32(i - x))
    return across + abs(hits[j, i, 1] - hits[y, x, 1] - np.float32(j - y))


@kernel(inline="always")
def _add_look(fields, x, y, share, out, row, column):  # type: ignore[no-untyped-def]
    """Add a share of all fields at a place."""
    rows, columns, channels = fields.shape
    x = min(max(x, np.float32(0)), np.float32(columns - 1))
    y = min(max(y, np.float32(0)), np.float32(rows - 1))
    i, j = np.uint64(x), np.uint64(y)
    right, lower = np.uint64(min(int(i) + 1, columns - 1)), np.uint64(min(int(j) + 1, rows - 1))
    u, v, one = x - np.float32(i), y - np.float32(j), np.float32(1)
    if u == 0 and v == 0:  # all that lies flat
        for k in range(channels):
            out[row, column, k] += fields[j, i, k] * share
        return
    a, b = (one - u) * (one - v) * share, u * (one - v) * share
    c, d = (one - u) * v * share, u * v * share
    if channels == EIGHT:
        for k in range(EIGHT):
            value = fields[j, i, k] * a + fields[j, right, k] * b
            out[row, column, k] += value + fields[lower, i, k] * c + fields[lower, right, k] * d
        return
    for k in range(channels):
        value = fields[j, i, k] * a + fields[j, right, k] * b
        out[row, column, k] += value + fields[lower, i, k] * c + fields[lower, right, k] * d


@kernel(parallel=True)
def _gather(relief, fields, view, low, begins, peaks, hits, out, lifted):  # type: ignore[no-untyped-def]
    rows, columns, channels = fields.shape
    fifth = np.float32(0.2)
    for lane in numba.prange(LANES):
        for y in range(np.int64(lane), rows, LANES):
            for x in range(columns):
                for c in range(channels):
                    out[y, x, c] = 0
                apart = _apart(hits, y, x)
                lifted[y, x] = hits[y, x, 2]
                if apart <= _APART:
                    _add_look(fields, hits[y, x, 0], hits[y, x, 1], np.float32(1), out, y, x)
                    continue
                if apart <= _TORN:
                    _look_about(fields, hits, y, x, out)
                    continue
                hx, hy, hz = hits[y, x, 0], hits[y, x, 1], hits[y, x, 2]
                lifted[y, x] = min(max(hz, np.float32(0)), np.float32(1)) * fifth
                _add_look(fields, hx, hy, fifth, out, y, x)
                for i, j in _BESIDE:
                    at_x, at_y = np.float32(x) + i * fifth, np.float32(y) + j * fifth
                    hx, hy, hz = _hit(relief, view, low, begins, peaks, at_x, at_y)
                    lifted[y, x] += min(max(hz, np.float32(0)), np.float32(1)) * fifth
                    _add_look(fields, hx, hy, fifth, out, y, x)


@kernel(inline="always")
def _look_about(fields, hits, y, x, out):  # type: ignore[no-untyped-def]
    """The mean of what a pixel sees where its neighbours see places close to its own."""
    rows, columns = hits.shape[:2]
    left, right = max(x - 1, 0), min(x + 1, columns - 1)
    above, below = max(y - 1, 0), min(y + 1, rows - 1)
    across, down = np.float32(0.25 / max(right - left, 1)), np.float32(0.25 / max(below - above, 1))
    ax = (hits[y, right, 0] - hits[y, left, 0]) * across
    ay = (hits[y, right, 1] - hits[y, left, 1]) * across
    dx = (hits[below, x, 0] - hits[above, x, 0]) * down
    dy = (hits[below, x, 1] - hits[above, x, 1]) * down
    quarter = np.float32(0.25)
    for i, j in ((-1, -1), (1, -1), (-1, 1), (1, 1)):
        u, v = np.float32(i), np.float32(j)
        at_x, at_y = hits[y, x, 0] + u * ax + v * dx, hits[y, x, 1] + u * ay + v * dy
        _add_look(fields, at_x, at_y, quarter, out, y, x)
