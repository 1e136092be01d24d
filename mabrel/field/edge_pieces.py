"""The line of half coverage as short straight pieces, one in each cell between pixel centres."""

import math

import numba
import numpy as np

_SHARP = 0.9  # neighbours that span this much coverage hold a hard edge between them


@numba.njit(cache=True, inline="always")
def _crossed(coverage, x, y):  # type: ignore[no-untyped-def]
    """Whether the edge passes between the four pixel centres of this cell."""
    a = coverage[y, x] >= 0.5
    return (
        a != (coverage[y, x + 1] >= 0.5)
        or a != (coverage[y + 1, x] >= 0.5)
        or a != (coverage[y + 1, x + 1] >= 0.5)
    )


@numba.njit(cache=True, parallel=True)
def count_pieces(coverage, counts):  # type: ignore[no-untyped-def]
    height, width = coverage.shape
    for y in numba.prange(height - 1):
        found = 0
        for x in range(width - 1):
            if _crossed(coverage, x, y):
                found += 1
        counts[y] = found


@numba.njit(cache=True)
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


@numba.njit(cache=True)
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


@numba.njit(cache=True)
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


# The sides of a cell that a piece ends on, and the neighbour that it goes on in.
_TOP, _LEFT, _RIGHT, _BOTTOM = 0, 1, 2, 3


@numba.njit(cache=True, parallel=True)
def trace_pieces(coverage, before, pieces, links, nearest):  # type: ignore[no-untyped-def]
    """Fill the pieces (start x, y, end x, y, middle x, y, one over the squared
    length), the sides that they end on, and the index of each cell's piece in
    `nearest` (−1: none)."""
    height, width = coverage.shape
    for line in numba.prange(height):
        y = np.int64(line)  # prange counts without sign, and 0 - 1 must be -1
        index = before[y]
        for x in range(width):
            nearest[y, x] = -1
            if y == height - 1 or x == width - 1 or not _crossed(coverage, x, y):
                continue
            a, b = coverage[y, x] >= 0.5, coverage[y, x + 1] >= 0.5
            c, d = coverage[y + 1, x] >= 0.5, coverage[y + 1, x + 1] >= 0.5
            end = 0
            if a != b:
                at = x + _crossing(coverage, x, y, True)
                end = _end_at(pieces, links, index, end, at, y, _TOP)
            if a != c:
                at = y + _crossing(coverage, x, y, False)
                end = _end_at(pieces, links, index, end, x, at, _LEFT)
            if b != d and end < 2:
                at = y + _crossing(coverage, x + 1, y, False)
                end = _end_at(pieces, links, index, end, x + 1, at, _RIGHT)
            if c != d and end < 2:
                at = x + _crossing(coverage, x, y + 1, True)
                end = _end_at(pieces, links, index, end, at, y + 1, _BOTTOM)
            pieces[index, 4] = 0.5 * (pieces[index, 0] + pieces[index, 2])
            pieces[index, 5] = 0.5 * (pieces[index, 1] + pieces[index, 3])
            ex, ey = pieces[index, 2] - pieces[index, 0], pieces[index, 3] - pieces[index, 1]
            pieces[index, 6] = 1 / max(ex * ex + ey * ey, np.float32(1e-12))
            nearest[y, x] = index
            index += 1


@numba.njit(cache=True, inline="always")
def _end_at(pieces, links, index, end, x, y, side):  # type: ignore[no-untyped-def]
    pieces[index, 2 * end] = x
    pieces[index, 2 * end + 1] = y
    links[index, end] = side
    return end + 1


@numba.njit(cache=True, parallel=True)
def link_pieces(nearest, before, links):  # type: ignore[no-untyped-def]
    """Turn the sides in `links` into the indices of the pieces before and after (−1: none)."""
    height, width = nearest.shape
    for line in numba.prange(height - 1):
        y = np.int64(line)
        index = before[y]
        for x in range(width - 1):
            if nearest[y, x] < 0:
                continue
            for end in range(2):
                side = links[index, end]
                over = x - 1 if side == _LEFT else (x + 1 if side == _RIGHT else x)
                down = y - 1 if side == _TOP else (y + 1 if side == _BOTTOM else y)
                inside = 0 <= over < width - 1 and 0 <= down < height - 1
                links[index, end] = nearest[down, over] if inside else -1
            index += 1
