"""Signed distance to the edge of a matte, below the pixel."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.edge_pieces import count_pieces, link_pieces, trace_pieces

_FAR = np.float32(1e9)


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
    count_pieces(coverage, before)
    total = int(before.sum())
    if total == 0:
        return np.where(coverage >= 0.5, -_FAR, _FAR).astype(np.float32)
    before = np.cumsum(before) - before
    pieces = np.empty((total, 7), np.float32)
    links = np.empty((total, 2), np.int32)
    nearest = np.empty(coverage.shape, np.int32)
    trace_pieces(coverage, before, pieces, links, nearest)
    link_pieces(nearest, before, links)
    _nearest_in_columns(pieces, nearest)
    distance = np.empty_like(coverage)
    _spread_along_rows(coverage, pieces, links, nearest, distance)
    return distance


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
