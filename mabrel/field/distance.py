"""Signed distance to the edge of a matte, below the pixel."""

import math

import numba
import numpy as np
from numpy.typing import NDArray

_FAR = np.float32(1e9)
_SHARP = 0.9  # neighbours that span this much coverage hold a hard edge between them


def signed_distance(coverage: NDArray[np.float32]) -> NDArray[np.float32]:
    """Distance from each pixel's centre to the edge, in pixels; negative inside.

    `coverage` is (H, W), 0..1, antialiased. The edge is the line of half coverage, traced
    between the pixel centres as short straight pieces. Where it crosses from one centre to the
    next is read from the coverage, by the geometry of a straight edge through a square pixel
    (Gustavson and Strand, "Anti-aliased Euclidean distance transform", 2011); soft ramps are
    interpolated. From the pieces the distance spreads by the lower envelope of Felzenszwalb and
    Huttenlocher (2012), in time linear in the pixels.

    Convention: without any edge the result is ±1e9 everywhere. The border of the array is not
    an edge. float32 in, float32 out.
    """
    coverage = np.ascontiguousarray(coverage, dtype=np.float32)
    if coverage.ndim != 2:
        raise ValueError(f"coverage must be (H, W), not {coverage.shape}")
    height, _ = coverage.shape
    before = np.zeros(height, np.int64)
    _count_pieces(coverage, before)
    total = int(before.sum())
    if total == 0:
        return np.where(coverage >= 0.5, -_FAR, _FAR).astype(np.float32)
    before = np.cumsum(before) - before
    pieces = np.empty((total, 7), np.float32)
    links = np.empty((total, 2), np.int32)
    nearest = np.empty(coverage.shape, np.int32)
    _trace_pieces(coverage, before, pieces, links, nearest)
    _link_pieces(nearest, before, links)
    _nearest_in_columns(pieces, nearest)
    distance = np.empty_like(coverage)
    _spread_along_rows(coverage, pieces, links, nearest, distance)
    return distance


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
def _count_pieces(coverage, counts):  # type: ignore[no-untyped-def]
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
def _trace_pieces(coverage, before, pieces, links, nearest):  # type: ignore[no-untyped-def]
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
def _link_pieces(nearest, before, links):  # type: ignore[no-untyped-def]
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


@numba.njit(cache=True, parallel=True)
def _nearest_in_columns(pieces, nearest):  # type: ignore[no-untyped-def]
    """For each pixel, the piece of its column that is nearest in height (−1: none)."""
    height, width = nearest.shape
    block = 32
    for b in numba.prange((width + block - 1) // block):
        first, last = b * block, min(b * block + block, width)
        for y in range(1, height):
            for x in range(first, last):
                if nearest[y, x] < 0:
                    nearest[y, x] = nearest[y - 1, x]
        for y in range(height - 2, -1, -1):
            for x in range(first, last):
                here, below = nearest[y, x], nearest[y + 1, x]
                if below == here or below < 0:
                    continue
                if here < 0 or abs(pieces[below, 5] - y) < abs(pieces[here, 5] - y):
                    nearest[y, x] = below


@numba.njit(cache=True, fastmath=True)
def _to_piece(pieces, index, x, y):  # type: ignore[no-untyped-def]
    """Squared distance from a point to a straight piece of edge, and where along it (0..1)."""
    ax, ay = pieces[index, 0], pieces[index, 1]
    ex, ey = pieces[index, 2] - ax, pieces[index, 3] - ay
    dx, dy = x - ax, y - ay
    along = (dx * ex + dy * ey) * pieces[index, 6]
    along = min(max(along, np.float32(0)), np.float32(1))
    dx -= along * ex
    dy -= along * ey
    return dx * dx + dy * dy, along


@numba.njit(cache=True, parallel=True)
def _spread_along_rows(coverage, pieces, links, nearest, distance):  # type: ignore[no-untyped-def]
    height, width = coverage.shape
    for line in numba.prange(height):
        y = np.int64(line)
        row = np.float32(y)
        sites = np.empty(width, np.int32)
        places = np.empty(width, np.float32)
        heights = np.empty(width, np.float32)
        starts = np.empty(width + 1, np.float32)
        _lower_envelope(pieces, nearest[y], row, sites, places, heights, starts)
        site = 0
        piece = sites[0]
        for x in range(width):
            while starts[site + 1] <= x:
                site += 1
                piece = sites[site]
            best, piece = _descend(pieces, links, piece, np.float32(x), row)
            if best < 9:
                best = _near_edge(pieces, nearest, best, x, y)
            away = np.sqrt(best)
            distance[y, x] = -away if coverage[y, x] >= 0.5 else away


@numba.njit(cache=True, fastmath=True)
def _descend(pieces, links, index, x, y):  # type: ignore[no-untyped-def]
    """Squared distance to the edge, walking along it from a piece to where the foot lies.

    A column knows one piece only, though a steep edge has several in it.
    """
    best, along = _to_piece(pieces, index, x, y)
    if 0 < along < 1:
        return best, index
    before = index
    other = links[index, 0] if along <= 0 else links[index, 1]
    while other >= 0:
        nearer, _ = _to_piece(pieces, other, x, y)
        if nearer > best:
            break
        best = nearer
        after = links[other, 0] if links[other, 0] != before else links[other, 1]
        before, other = other, after
    return best, before


@numba.njit(cache=True, fastmath=True)
def _lower_envelope(pieces, nearest, row, sites, places, heights, starts):  # type: ignore[no-untyped-def]
    """The parabolas above one row that are lowest somewhere, from left to right."""
    count = 0
    for x in range(nearest.shape[0]):
        index = nearest[x]
        if index < 0:
            continue
        place = pieces[index, 4]
        drop = row - pieces[index, 5]
        rise = drop * drop
        start = -_FAR
        hidden = False
        while count > 0:
            apart = place - places[count - 1]
            if apart < np.float32(1e-3):
                if rise >= heights[count - 1]:
                    hidden = True
                    break
            else:
                middle = place + places[count - 1]
                start = np.float32(0.5) * ((rise - heights[count - 1]) / apart + middle)
                if start > starts[count - 1]:
                    break
            count -= 1
            start = -_FAR
        if hidden:
            continue
        sites[count] = index
        places[count] = place
        heights[count] = rise
        starts[count] = start
        count += 1
    starts[count] = _FAR
    return count


@numba.njit(cache=True)
def _near_edge(pieces, nearest, best, x, y):  # type: ignore[no-untyped-def]
    """Close to the edge, look at all pieces around: the envelope knows only their middles."""
    height, width = nearest.shape
    for row in range(max(y - 3, 0), min(y + 3, height)):
        for column in range(max(x - 3, 0), min(x + 3, width)):
            index = nearest[row, column]
            if index >= 0:
                nearer, _ = _to_piece(pieces, index, np.float32(x), np.float32(y))
                best = min(best, nearer)
    return best
