"""Where the line of half coverage crosses from one pixel's centre to the next."""

import math

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]
_SHARP = 0.9  # neighbours that span this much coverage hold a hard edge between them
NONE = np.float32(2)
"""What stands where nothing crosses; places are 0 to 1."""


def crossings(coverage: Array) -> tuple[NDArray[np.bool_], Array, Array]:
    """Which centres (H, W) a matte covers to a half, and where the edge between those and others
    crosses from each to its right and to its lower neighbour: the share of the way, 0 to 1, or
    `NONE`."""
    inside = np.empty(coverage.shape, np.bool_)
    across, down = np.empty_like(coverage), np.empty_like(coverage)
    _find(coverage, inside, across, down)
    return inside, across, down


@kernel(parallel=True)
def _find(coverage, inside, across, down):  # type: ignore[no-untyped-def]
    height, width = coverage.shape
    half = np.float32(0.5)
    for line in numba.prange(height):
        y = np.int64(line)
        row, below = coverage[y], coverage[min(y + 1, height - 1)]
        crossed = False  # most rows of a frame are not
        for x in range(width):
            inside[y, x] = row[x] >= half
            crossed |= inside[y, x] != (below[x] >= half)
        for x in range(width - 1):
            crossed |= inside[y, x] != inside[y, x + 1]
        across[y] = down[y] = NONE
        if not crossed:
            continue
        for x in range(width):
            if x + 1 < width and inside[y, x] != inside[y, x + 1]:
                across[y, x] = _crossing(coverage, x, y, True)
            if inside[y, x] != (below[x] >= half):
                down[y, x] = _crossing(coverage, x, y, False)


@kernel()
def _edge_offset(gx, gy, coverage):  # type: ignore[no-untyped-def]
    """Distance from a pixel's centre to a straight edge that leaves `coverage` of it inside.

    (gx, gy) is the unit normal that points inside; the result is positive where the centre
    lies outside.
    """
    gx, gy = abs(gx), abs(gy)
    if gx < gy:
        gx, gy = gy, gx
    corner = 0.5 * gy / gx if gx > 0 else 0.0
    if coverage < corner:
        return 0.5 * (gx + gy) - math.sqrt(2 * gx * gy * coverage)
    if coverage < 1 - corner:
        return (0.5 - coverage) * gx
    return -0.5 * (gx + gy) + math.sqrt(2 * gx * gy * (1 - coverage))


@kernel()
def _gradient(coverage, x, y):  # type: ignore[no-untyped-def]
    height, width = coverage.shape
    l, r = max(x - 1, 0), min(x + 1, width - 1)  # noqa: E741
    u, d = max(y - 1, 0), min(y + 1, height - 1)
    root = 1.41421356
    gx = (coverage[u, r] + root * coverage[y, r] + coverage[d, r]) - (
        coverage[u, l] + root * coverage[y, l] + coverage[d, l]
    )
    gy = (coverage[d, l] + root * coverage[d, x] + coverage[d, r]) - (
        coverage[u, l] + root * coverage[u, x] + coverage[u, r]
    )
    return gx, gy


@kernel()
def _crossing(coverage, x, y, across):  # type: ignore[no-untyped-def]
    """Where (0..1) the edge crosses from the centre (x, y) to its right or lower neighbour."""
    height, width = coverage.shape
    x2, y2 = (x + 1, y) if across else (x, y + 1)
    a, b = coverage[y, x], coverage[y2, x2]
    share = (0.5 - a) / (b - a)
    first = abs(a - 0.5) <= abs(b - 0.5)
    px, py = (x, y) if first else (x2, y2)
    here = a if first else b
    if here <= 0 or here >= 1:
        return 0.5 if (a <= 0 or a >= 1) and (b <= 0 or b >= 1) else share
    if across:
        before, after = coverage[py, max(px - 1, 0)], coverage[py, min(px + 1, width - 1)]
    else:
        before, after = coverage[max(py - 1, 0), px], coverage[min(py + 1, height - 1), px]
    if abs(after - before) < _SHARP:
        gx, gy = _gradient(coverage, px, py)
        slope = math.sqrt(gx * gx + gy * gy)
        if slope < 2.6:  # a hard edge gives 2.8 to 3.4
            return share
    else:
        gx, gy = _gradient(coverage, px, py)
        slope = math.sqrt(gx * gx + gy * gy)
        if slope < 1e-6:
            return share
    gx /= slope
    gy /= slope
    step = gx if across else gy
    if abs(step) < 0.25:
        return share
    moved = _edge_offset(gx, gy, here) / step
    return min(1.0, max(0.0, moved if first else 1.0 + moved))
