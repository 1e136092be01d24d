"""Signed distance to the edge of a matte, below the pixel."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.edge_crossings import NONE, to_cell
from mabrel.field.outline_crossings import Edge, edge_of
from mabrel.kernels import kernel

_FAR = np.float32(1e9)
_NEAR, _NEAREST = np.float32(36), np.float32(4)  # squared pixels
_SLACK = np.float32(4)  # a piece may be that much nearer, squared, than the crossings at its ends
_BLOCK = 16  # columns that are worked on together: one line of the processor's cache


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
    _spread_along_columns(*edge, places, distance)
    return distance


@kernel(parallel=True)
def _nearest_on_columns(down, places):  # type: ignore[no-untyped-def]
    """For each centre, the height of the nearest crossing on its column; ±1e9 for none."""
    height, width = down.shape
    for b in numba.prange((width + _BLOCK - 1) // _BLOCK):
        first, last = b * _BLOCK, min(b * _BLOCK + _BLOCK, width)
        passed = np.full(_BLOCK, -_FAR, np.float32)
        for y in range(height):
            for x in range(first, last):
                places[y, x] = passed[x - first]
                if down[y, x] != NONE:
                    passed[x - first] = np.float32(y) + down[y, x]
        passed[:] = _FAR
        for y in range(height - 1, -1, -1):
            row = np.float32(y)
            for x in range(first, last):
                if down[y, x] != NONE:
                    passed[x - first] = row + down[y, x]
                if passed[x - first] - row < row - places[y, x]:
                    places[y, x] = passed[x - first]


@kernel(parallel=True)
def _nearest_on_rows(across, places):  # type: ignore[no-untyped-def]
    """For each centre, the nearest crossing on its row, from the left; ±1e9 for none."""
    height, width = across.shape
    for y in numba.prange(height):
        passed = -_FAR
        for x in range(width):
            places[y, x] = passed
            if across[y, x] != NONE:
                passed = np.float32(x) + across[y, x]
        passed = _FAR
        for x in range(width - 1, -1, -1):
            if across[y, x] != NONE:
                passed = np.float32(x) + across[y, x]
            if passed - np.float32(x) < np.float32(x) - places[y, x]:
                places[y, x] = passed


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
            near = squared[y, x] < _NEAR
            if near or (cornered and squared[y, x] < _FAR):
                while starts[site + 1] <= x:
                    site += 1
                at = sites[site]
                foot = places[y, int(at)]
                if near or beside[int(foot), int(at)]:
                    squared[y, x] = _to_pieces_at(
                        across, down, corner, corners, at, foot, squared[y, x], x, y
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
def _spread_along_columns(  # type: ignore[no-untyped-def]
    inside, across, down, corner, beside, corners, places, distance
):
    """Likewise with the crossings on rows; then the signed distance from the nearer of both."""
    height, width = places.shape
    cornered = corners.shape[0] > 0
    for b in numba.prange((width + _BLOCK - 1) // _BLOCK):
        first = b * _BLOCK
        block = min(_BLOCK, width - first)
        columns = np.empty((block, height), np.float32)
        other = np.empty((block, height), np.float32)
        feet = np.empty((block, height), np.float32)
        sites = np.empty(height, np.float32)
        heights = np.empty(height, np.float32)
        starts = np.empty(height + 1, np.float32)
        for y in range(height):
            for i in range(block):
                columns[i, y] = places[y, first + i]
        for i in range(block):
            _lower_envelope(columns[i], np.float32(first + i), sites, heights, starts)
            _look_up(sites, heights, starts, other[i])
            site = 0
            for y in range(height):
                if other[i, y] < _NEAR or (cornered and other[i, y] < _FAR):
                    while starts[site + 1] <= y:
                        site += 1
                    feet[i, y] = sites[site]
        for y in range(height):
            for i in range(block):
                best, apart = distance[y, first + i], other[i, y]
                near = apart < _NEAR and apart < best + _SLACK
                if near or (cornered and apart < _FAR):
                    row = feet[i, y]
                    foot = columns[i, int(row)]
                    if near or beside[int(row), int(foot)]:
                        apart = _to_pieces_at(
                            across, down, corner, corners, foot, row, apart, first + i, y
                        )
                best = min(best, apart)
                if best < _NEAREST:
                    best = _to_pieces_around(across, down, corner, corners, best, first + i, y)
                away = min(np.sqrt(best), _FAR)
                distance[y, first + i] = -away if inside[y, first + i] else away


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
def _to_pieces_around(across, down, corner, corners, best, x, y):  # type: ignore[no-untyped-def]
    """The same to all pieces that may lie within the distance that is known already."""
    reach = int(np.sqrt(best)) + 1
    for row in range(y - reach, y + reach):
        for column in range(x - reach, x + reach):
            best = min(best, to_cell(across, down, corner, corners, column, row, x, y))
    return best
