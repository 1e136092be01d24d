"""Signed distance to the edge of a matte, below the pixel."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.edge_crossings import NONE, to_cell
from mabrel.field.outline_crossings import Edge, edge_of
from mabrel.kernels import kernel

_FAR = np.float32(1e9)
_NEAR, _NEAREST = np.float32(36), np.float32(4)  # squared; up to it pieces count, and all of them
_SLACK = np.float32(4)  # a piece may be that much nearer, squared, than the crossings at its ends
_WIDE = 64  # columns that are worked on together where each row is touched once
_BLOCK = 16  # and where they are laid on their side: one line of the cache


def signed_distance(coverage: NDArray[np.float32], edge: Edge | None = None) -> NDArray[np.float32]:
    """Distance from each pixel's centre to the edge of a shape, negative inside.

    The edge is the line of half coverage. Where it crosses from one centre to the next is read
    from the coverage, by the geometry of a straight edge through a square pixel [1]_; soft ramps
    are interpolated. The nearest crossing of all is found exactly, by lower envelopes [2]_: among
    those on the columns of centres, and among those on the rows. Near the edge the straight
    pieces between crossings count; further away they make no difference. Time is linear in the
    pixels, whatever they show.

    Convention: without any edge the result is ±1e9 everywhere. The border of the array is not
    an edge.

    Parameters
    ----------
    coverage : (H, W) float32
        How much of each pixel the shape covers, 0..1, antialiased.
    edge : Edge, optional
        Where its edge is, if that is known better than from the coverage: of outlines, whose
        corners then stay sharp.

    Returns
    -------
    (H, W) float32
        Signed distances in pixels.

    Raises
    ------
    ValueError
        Where the coverage has other than two axes.

    References
    ----------
    .. [1] S. Gustavson and R. Strand, "Anti-aliased Euclidean distance transform", Pattern
       Recognition Letters 32, 2011, https://doi.org/10.1016/j.patrec.2010.08.010
    .. [2] P. Felzenszwalb and D. Huttenlocher, "Distance transforms of sampled functions", Theory
       of Computing 8, 2012, https://doi.org/10.4086/toc.2012.v008a019

    Examples
    --------
    A bar whose upper edge runs through the middle of the second row of pixels:

    >>> import numpy as np
    >>> bar = np.array([[0, 0, 0], [0.5, 0.5, 0.5], [1, 1, 1]], np.float32)
    >>> signed_distance(bar)[:, 1].tolist()
    [1.0, -0.0, -1.0]
    """
    coverage = np.ascontiguousarray(coverage, dtype=np.float32)
    if coverage.ndim != 2:
        raise ValueError(f"coverage must be (H, W), not {coverage.shape}")
    edge = edge or edge_of(coverage)
    places, distance = np.empty_like(coverage), np.empty_like(coverage)
    _nearest_on_columns(edge.down, places)
    _spread_along_rows(*edge[1:], places, distance)
    _nearest_on_rows(edge.across, places)
    _spread_along_columns(*edge[1:], places, distance)
    _settle(*edge[:4], edge.corners, distance)
    return distance


@kernel(parallel=True)
def _nearest_on_columns(down, places):  # type: ignore[no-untyped-def]
    """For each centre, the height of the nearest crossing on its column; ±1e9 for none."""
    height, width = down.shape
    for b in numba.prange((width + _WIDE - 1) // _WIDE):
        first, last = b * _WIDE, min(b * _WIDE + _WIDE, width)
        passed = np.full(last - first, -_FAR, np.float32)
        for y in range(height):
            row, crossed, nearest = np.float32(y), down[y, first:last], places[y, first:last]
            for i in range(passed.shape[0]):
                nearest[i] = passed[i]
                passed[i] = row + crossed[i] if crossed[i] != NONE else passed[i]
        passed[:] = _FAR
        for y in range(height - 1, -1, -1):
            row, crossed, nearest = np.float32(y), down[y, first:last], places[y, first:last]
            for i in range(passed.shape[0]):
                below = row + crossed[i] if crossed[i] != NONE else passed[i]
                passed[i] = below
                nearest[i] = below if below - row < row - nearest[i] else nearest[i]


@kernel(parallel=True)
def _nearest_on_rows(across, places):  # type: ignore[no-untyped-def]
    """For each centre, the nearest crossing on its row, from the left; ±1e9 for none."""
    height, width = across.shape
    for y in numba.prange(height):
        passed, begin = -_FAR, 0
        for x in range(width):
            if across[y, x] != NONE:
                crossing = np.float32(x) + across[y, x]
                nearer = max(int(np.floor((passed + crossing) / 2)) + 1, begin)
                places[y, begin:nearer] = passed
                passed, begin = crossing, nearer
        places[y, begin:] = passed


@kernel(fastmath={"contract", "reassoc"})
def _lower_envelope(places, here, sites, heights, starts):  # type: ignore[no-untyped-def]
    """The parabolas above one line of centres that are lowest somewhere, in order: that at
    `sites[i]`, `heights[i]` high, from `starts[i]` on. `places` are those of the crossings
    across the line, which lies at `here`."""
    half = np.float32(0.5)
    count = 0
    starts[0] = _FAR
    for index in range(places.shape[0]):
        drop = places[index] - here
        if abs(drop) >= half * _FAR:
            continue
        at = np.float32(index)
        rise = drop * drop
        start = -_FAR
        while count > 0:
            before = sites[count - 1]
            start = half * ((rise - heights[count - 1]) / (at - before) + (at + before))
            if start > starts[count - 1]:
                break
            count -= 1
            start = -_FAR
        sites[count], heights[count], starts[count] = at, rise, start
        count += 1
        starts[count] = _FAR


@kernel(parallel=True)
def _spread_along_rows(across, down, corner, beside, corners, places, squared):  # type: ignore[no-untyped-def]
    """The squared distance to the nearest of the crossings on columns, or to a piece at it."""
    height, width = places.shape
    cornered = corners.shape[0] > 0
    for line in numba.prange(height):
        y = np.int64(line)
        sites = np.empty(width, np.float32)
        heights = np.empty(width, np.float32)
        starts = np.empty(width + 1, np.float32)
        _lower_envelope(places[y], np.float32(y), sites, heights, starts)
        _look_up(sites, heights, starts, squared[y])
        site = 0
        for x in range(width):
            apart = squared[y, x]
            if apart < _NEAR or (cornered and apart < _FAR):
                while starts[site + 1] <= x:
                    site += 1
                at = sites[site]
                foot = places[y, int(at)]
                near = _NEAREST <= apart < _NEAR
                if near or (cornered and beside[int(foot), int(at)]):
                    squared[y, x] = _to_pieces_at(
                        across, down, corner, corners, at, foot, apart, x, y
                    )


@kernel()
def _look_up(sites, heights, starts, squared):  # type: ignore[no-untyped-def]
    """The height of a lower envelope at each centre of its line."""
    if starts[0] == _FAR:
        squared[:] = _FAR * _FAR
        return
    end = squared.shape[0]
    x = 0
    site = 0
    while x < end:
        last = min(int(max(np.ceil(starts[site + 1]), np.float32(0))), end)
        at, rise = sites[site], heights[site]
        for i in range(x, last):
            over = np.float32(i) - at
            squared[i] = over * over + rise
        x = max(last, x)
        site += 1


@kernel(parallel=True)
def _spread_along_columns(across, down, corner, beside, corners, places, squared):  # type: ignore[no-untyped-def]
    """Likewise with the crossings on rows, where they are nearer."""
    height, width = places.shape
    cornered = corners.shape[0] > 0
    for b in numba.prange((width + _BLOCK - 1) // _BLOCK):
        first = b * _BLOCK
        block = min(_BLOCK, width - first)
        columns = np.empty((block, height), np.float32)
        other = np.empty((block, height), np.float32)
        sites = np.empty(height, np.float32)
        heights = np.empty(height, np.float32)
        starts = np.empty(height + 1, np.float32)
        for y in range(height):
            for i in range(block):
                columns[i, y] = places[y, first + i]
        for i in range(block):
            x = first + i
            _lower_envelope(columns[i], np.float32(x), sites, heights, starts)
            _look_up(sites, heights, starts, other[i])
            site = 0
            for y in range(height):
                apart = other[i, y]
                if apart < _NEAR or (cornered and apart < _FAR):
                    while starts[site + 1] <= y:
                        site += 1
                    row = sites[site]
                    foot = columns[i, int(row)]
                    near = _NEAREST <= apart < min(_NEAR, squared[y, x] + _SLACK)
                    if near or (cornered and beside[int(row), int(foot)]):
                        other[i, y] = _to_pieces_at(
                            across, down, corner, corners, foot, row, apart, x, y
                        )
        for y in range(height):
            for i in range(block):
                squared[y, first + i] = min(squared[y, first + i], other[i, y])


@kernel(parallel=True)
def _settle(inside, across, down, corner, corners, distance):  # type: ignore[no-untyped-def]
    """From the squared distance to the signed one; next to the edge, to any piece of it."""
    height, width = distance.shape
    for line in numba.prange(height):
        y = np.int64(line)
        for x in range(width):
            if distance[y, x] < _NEAREST:
                distance[y, x] = _to_pieces_around(
                    inside, across, down, corner, corners, distance[y, x], x, y
                )
        for x in range(width):
            away = min(np.sqrt(distance[y, x]), _FAR)
            distance[y, x] = -away if inside[y, x] else away


@kernel()
def _to_pieces_at(  # type: ignore[no-untyped-def]
    across, down, corner, corners, foot_x, foot_y, best, x, y
):
    """The squared distance from a centre to the pieces of edge that meet at a crossing."""
    for row in range(int(np.ceil(foot_y)) - 1, int(np.floor(foot_y)) + 1):
        for column in range(int(np.ceil(foot_x)) - 1, int(np.floor(foot_x)) + 1):
            best = min(best, to_cell(across, down, corner, corners, column, row, x, y))
    return best


@kernel()
def _to_pieces_around(inside, across, down, corner, corners, best, x, y):  # type: ignore[no-untyped-def]
    """The same to all pieces that may lie within the distance that is known already."""
    height, width = inside.shape
    reach = int(np.sqrt(best)) + 1
    left = max(x - reach, 0)
    for row in range(max(y - reach, 0), min(y + reach, height - 1)):
        above, below = inside[row, left], inside[row + 1, left]
        for column in range(left, min(x + reach, width - 1)):
            right, opposite = inside[row, column + 1], inside[row + 1, column + 1]
            if above != below or above != right or above != opposite:
                best = min(best, to_cell(across, down, corner, corners, column, row, x, y))
            above, below = right, opposite
    return best
