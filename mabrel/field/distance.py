"""Signed distance to the edge of a matte, below the pixel."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.edge_crossings import NONE
from mabrel.field.edge_pieces import PAD, REACH, lay, nearest_at, pieces_in
from mabrel.field.lower_envelope import FAR, end_of, look_up, lower_envelope
from mabrel.field.outline_crossings import Edge, edge_of
from mabrel.kernels import LANES, kernel

_WIDE = 64  # columns that are worked on together where each row is touched once
_BLOCK = 16  # and where they are laid on their side: one line of the cache
_BAND = 64  # rows that are worked on together


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
    crossed = np.empty(len(coverage), np.bool_)
    _find_crossed(edge.inside, crossed)
    rows = np.flatnonzero(crossed)
    places, distance = np.empty_like(coverage), np.empty_like(coverage)
    _nearest_on_columns(edge.down, crossed, places)
    _spread_along_rows(*edge, crossed, rows, places, distance)
    _nearest_on_rows(edge.across, rows, places)
    _spread_along_columns(*edge, rows, places, distance)
    return distance


@kernel(parallel=True)
def _find_crossed(inside, crossed):  # type: ignore[no-untyped-def]
    """Which rows have crossings, on them or to the next one."""
    height, width = inside.shape
    for y in numba.prange(height):
        row, below = inside[y], inside[min(y + 1, height - 1)]
        found = row[width - 1] != below[width - 1]
        for x in range(width - 1):
            found |= (row[x] != row[x + 1]) | (row[x] != below[x])
        crossed[y] = found


@kernel(parallel=True)
def _nearest_on_columns(down, crossed, places):  # type: ignore[no-untyped-def]
    """For each centre, the height of the nearest crossing on its column; ±1e9 for none."""
    height, width = down.shape
    for b in numba.prange((width + _WIDE - 1) // _WIDE):
        first, last = b * _WIDE, min(b * _WIDE + _WIDE, width)
        passed = np.full(last - first, -FAR, np.float32)
        for y in range(height):
            places[y, first:last] = passed
            if crossed[y]:
                _pass(down[y, first:last], np.float32(y), passed)
        passed[:] = FAR
        for y in range(height - 1, -1, -1):
            row, nearest = np.float32(y), places[y, first:last]
            if crossed[y]:
                _pass(down[y, first:last], row, passed)
            for i in range(passed.shape[0]):
                nearest[i] = passed[i] if passed[i] - row < row - nearest[i] else nearest[i]


@kernel(inline="always")
def _pass(crossings, row, passed):  # type: ignore[no-untyped-def]
    for i in range(passed.shape[0]):
        passed[i] = row + crossings[i] if crossings[i] != NONE else passed[i]


@kernel(parallel=True)
def _nearest_on_rows(across, rows, places):  # type: ignore[no-untyped-def]
    """For each centre of those `rows`, the nearest crossing on it, from the left; ±1e9 for none."""
    width = across.shape[1]
    for which in numba.prange(rows.shape[0]):
        y = rows[which]
        passed, begin = -FAR, 0
        for x in range(width):
            if across[y, x] != NONE:
                crossing = np.float32(x) + across[y, x]
                nearer = max(int(np.floor((passed + crossing) / 2)) + 1, begin)
                places[y, begin:nearer] = passed
                passed, begin = crossing, nearer
        places[y, begin:] = passed


@kernel(parallel=True)
def _spread_along_rows(  # type: ignore[no-untyped-def]
    inside, across, down, corner, beside, corners, crossed, rows, places, squared
):
    """The squared distance to the nearest of the crossings on columns, and near the edge to the
    nearest of its pieces. `rows` are those that are `crossed`."""
    height, width = places.shape
    top = rows[0] if rows.shape[0] > 0 else height
    bottom = rows[-1] + 1 if rows.shape[0] > 0 else height
    for lane in numba.prange(LANES):  # a shape lies in some bands that are beside one another
        for b in range(np.int64(lane) * 7 % LANES, (height + _BAND - 1) // _BAND, LANES):
            first, last = b * _BAND, min(b * _BAND + _BAND, height)
            edge = across, down, corner, beside, corners
            band = np.empty((last - first, width + 2 * PAD), np.float32)
            sites, heights = np.empty(width, np.float32), np.empty(width, np.float32)
            starts = np.empty(width + 1, np.float32)
            # What is nearest nowhere on a row is so on none that is further from all crossings.
            among = _take_all(sites)
            for y in range(min(last, top) - 1, first - 1, -1):
                line = band[y - first, PAD:]
                among = _spread(edge, True, places[y], y, sites, among, heights, starts, line)
            for y in range(max(first, top), last):
                among = among if y > max(first, bottom) else _take_all(sites)
                line = band[y - first, PAD:]
                among = _spread(edge, True, places[y], y, sites, among, heights, starts, line)
            _lay_pieces(inside, across, down, corner, corners, crossed, first, last, band)
            for y in range(first, last):
                squared[y] = band[y - first, PAD : PAD + width]


@kernel(parallel=True)
def _spread_along_columns(  # type: ignore[no-untyped-def]
    inside, across, down, corner, beside, corners, rows, places, distance
):
    """From that to the signed distance, to crossings on rows too."""
    height, width = distance.shape
    for b in numba.prange((width + _BLOCK - 1) // _BLOCK):
        first = b * _BLOCK
        block = min(_BLOCK, width - first)
        edge = across, down, corner, beside, corners
        columns = np.empty((block, height), np.float32)
        squared = np.empty((block, height + PAD), np.float32)
        sites, heights = np.empty(height, np.float32), np.empty(height, np.float32)
        starts = np.empty(height + 1, np.float32)
        for y in rows:
            for i in range(block):
                columns[i, y] = places[y, first + i]
        for i in range(block):
            sites[: rows.shape[0]] = rows
            _spread(
                edge, False, columns[i], first + i, sites, rows.shape[0], heights, starts,
                squared[i],
            )  # fmt: skip
        for y in range(height):
            for i in range(block):
                away = min(np.sqrt(min(distance[y, first + i], squared[i, y])), FAR)
                distance[y, first + i] = -away if inside[y, first + i] else away


@kernel(inline="always")
def _take_all(sites):  # type: ignore[no-untyped-def]
    for i in range(sites.shape[0]):
        sites[i] = i
    return sites.shape[0]


@kernel()
def _spread(edge, lying, places, line, sites, among, heights, starts, squared):  # type: ignore[no-untyped-def]
    """The squared distance of each centre on a line, `lying` or upright, to the crossings across
    it that are nearest at the first `among` of `sites`. Returns how many count, which come first
    in `sites` then."""
    count = lower_envelope(places, np.float32(line), sites, among, heights, starts)
    look_up(sites, heights, starts, squared)
    if edge[4].shape[0] > 0:
        _reach_corners(edge, lying, places, line, sites[:count], starts, squared)
    return count


@kernel()
def _reach_corners(edge, lying, places, line, sites, starts, squared):  # type: ignore[no-untyped-def]
    """Lowers squared distances on a line where what is nearest is a crossing beside a corner: to
    those from the pieces that meet in that."""
    across, down, corner, beside, corners = edge
    found = np.empty((2, 4), np.float32)
    x = 0
    for i in range(sites.shape[0]):
        last = end_of(starts, i, squared.shape[0] - PAD)
        at, foot = sites[i], places[int(sites[i])]
        row, column = (foot, at) if lying else (at, foot)
        if beside[int(row), int(column)]:
            for other in range(x, last):
                px, py = (other, line) if lying else (line, other)
                to_it = nearest_at(across, down, corner, corners, column, row, px, py, found)
                squared[other] = min(squared[other], to_it)
        x = max(last, x)


@kernel()
def _lay_pieces(inside, across, down, corner, corners, crossed, first, last, band):  # type: ignore[no-untyped-def]
    """Lowers squared distances in a band of rows to those from all pieces of edge near it."""
    found = np.empty((2, 4), np.float32)
    height, width = inside.shape
    for row in range(max(first - REACH - 1, 0), min(last + REACH, height - 1)):
        if not (crossed[row] or crossed[row + 1]):
            continue
        for column in range(width - 1):
            here = inside[row, column]
            if (
                here != inside[row, column + 1]
                or here != inside[row + 1, column]
                or here != inside[row + 1, column + 1]
            ):
                count = pieces_in(across, down, corner, corners, column, row, found)
                for which in range(count):
                    lay(found[which], column, row, band, first, last)
