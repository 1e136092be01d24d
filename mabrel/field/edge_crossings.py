"""Where the line of half coverage crosses from one pixel's centre to the next."""

import math

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

_SHARP = 0.9  # neighbours that span this much coverage hold a hard edge between them
NONE = np.float32(2)
"""What stands where nothing crosses; places are 0 to 1."""


def crossings(coverage: NDArray[np.float32]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """Where the edge crosses from each centre (H, W) to its right and to its lower neighbour: the
    share of the way, 0 to 1, or `NONE`."""
    across, down = np.empty_like(coverage), np.empty_like(coverage)
    _find(coverage, across, down)
    return across, down


@kernel(parallel=True)
def _find(coverage, across, down):  # type: ignore[no-untyped-def]
    height, width = coverage.shape
    for line in numba.prange(height):
        y = np.int64(line)
        for x in range(width):
            here = coverage[y, x] >= 0.5
            across[y, x] = down[y, x] = NONE
            if x + 1 < width and here != (coverage[y, x + 1] >= 0.5):
                across[y, x] = _crossing(coverage, x, y, True)
            if y + 1 < height and here != (coverage[y + 1, x] >= 0.5):
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


@kernel()
def to_cell(across, down, corner, corners, column, row, x, y):  # type: ignore[no-untyped-def]
    """Squared distance from (x, y) to the edge between the four centres of a cell; 1e18 for none.

    Where two edges pass through one cell, they cut off its upper left and its lower right corner.
    Where the shape has a corner there, its sides meet in it.
    """
    height, width = across.shape
    far = np.float32(1e18)
    if column < 0 or row < 0 or column > width - 2 or row > height - 2:
        return far
    top, left = across[row, column], down[row, column]
    right, bottom = down[row, column + 1], across[row + 1, column]
    px, py = np.float32(x - column), np.float32(y - row)
    zero, one = np.float32(0), np.float32(1)
    if top != NONE and left != NONE and right != NONE and bottom != NONE:
        best = _to_piece(px, py, top, zero, zero, left)
        return min(best, _to_piece(px, py, one, right, bottom, one))
    ax, ay = (top, zero) if top != NONE else (zero, left) if left != NONE else (one, right)
    bx, by = (bottom, one) if bottom != NONE else (one, right) if right != NONE else (zero, left)
    if ax == NONE or ay == NONE or bx == NONE or by == NONE or (ax == bx and ay == by):
        return far
    if corner.shape[0] > 0 and corner[row, column] >= 0:
        which = corner[row, column]
        cx, cy = corners[which, 0] - np.float32(column), corners[which, 1] - np.float32(row)
        best = _to_piece(px, py, ax, ay, cx, cy)
        return min(best, _to_piece(px, py, cx, cy, bx, by))
    return _to_piece(px, py, ax, ay, bx, by)


@kernel()
def _to_piece(px, py, ax, ay, bx, by):  # type: ignore[no-untyped-def]
    """Squared distance from a point to a straight piece of edge."""
    ex, ey = bx - ax, by - ay
    dx, dy = px - ax, py - ay
    along = (dx * ex + dy * ey) / max(ex * ex + ey * ey, np.float32(1e-12))
    along = min(max(along, np.float32(0)), np.float32(1))
    dx -= along * ex
    dy -= along * ey
    return dx * dx + dy * dy
