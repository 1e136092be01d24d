"""Where closed outlines cross the lines between pixels' centres, and their sharp corners."""

import math
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.edge_crossings import NONE, crossings
from mabrel.kernels import kernel

Array = NDArray[np.float32]
Lines = NDArray[np.float64]
_SHARP = math.radians(12)  # turns from which two straight lines meet in a corner


class Edge(NamedTuple):
    """The edge of a shape, below the pixel, on the grid of centres."""

    inside: NDArray[np.bool_]
    """(H, W): whether a centre is inside."""
    across: Array
    """(H, W): where it crosses from each centre to its right neighbour: the share of the way, or
    `NONE`."""
    down: Array
    """The same to the lower neighbour."""
    corner: NDArray[np.int32]
    """(H, W): which corner lies between each centre, its right and its lower neighbours; −1 for
    none. Empty where no corner is known."""
    beside: NDArray[np.bool_]
    """(H, W): whether a corner lies in one of the cells that meet at a centre; empty likewise."""
    corners: Array
    """(N, 2): x and y of corners, from the first centre."""


_NO_CORNERS = (
    np.empty((0, 0), np.int32),
    np.empty((0, 0), np.bool_),
    np.empty((0, 2), np.float32),
)


def edge_of(coverage: Array) -> Edge:
    """The edge of what a matte ((H, W), 0..1) covers to a half; its corners are not known."""
    return Edge(*crossings(coverage), *_NO_CORNERS)


def edge_of_outline(lines: Lines, shape: tuple[int, int]) -> Edge:
    """The edge of closed outlines (N, 4: x1, y1, x2, y2, in pixels from the first centre) over an
    array (H, W), exactly; inside is where they wind around a place at all."""
    rows, columns = shape
    inside = np.zeros(shape, np.bool_)
    across, down = np.full(shape, NONE, np.float32), np.full(shape, NONE, np.float32)
    _sweep(*_by_row(lines, rows), inside, across)
    turned = np.zeros((columns, rows), np.bool_)
    over = np.full((columns, rows), NONE, np.float32)
    _sweep(*_by_row(lines[:, [1, 0, 3, 2]], columns), turned, over)
    down[:] = over.T
    _agree(inside, across, down)
    places = _sharp_corners(lines)
    index = np.full(shape, -1, np.int32)
    cells = np.floor(places).astype(int)
    there = (cells >= 0).all(axis=1) & (cells[:, 0] < columns - 1) & (cells[:, 1] < rows - 1)
    places, cells = places[there], cells[there]
    _set_corners(places, cells, across, down, index)
    beside = np.zeros(shape, np.bool_)
    at_y, at_x = np.nonzero(index >= 0)
    for y, x in ((0, 0), (0, 1), (1, 0), (1, 1)):
        beside[at_y + y, at_x + x] = True
    return Edge(inside, across, down, index, beside, np.ascontiguousarray(places, np.float32))


def _by_row(lines: Lines, rows: int) -> tuple[NDArray[np.int64], Lines, NDArray[np.int8]]:
    """All places where lines cross rows of centres: where those of each row begin (rows + 1), how
    far to the right they are, and which way they run."""
    lines = np.ascontiguousarray(lines, np.float64)
    counts = np.zeros(rows + 1, np.int64)
    _count(lines, counts)
    starts = np.cumsum(counts) - counts
    places = np.empty(int(counts.sum()), np.float64)
    ways = np.empty(len(places), np.int8)
    _place(lines, starts.copy(), places, ways)
    return starts, places, ways


@kernel()
def _count(lines, counts):  # type: ignore[no-untyped-def]
    rows = counts.shape[0] - 1
    for i in range(lines.shape[0]):
        low, high = min(lines[i, 1], lines[i, 3]), max(lines[i, 1], lines[i, 3])
        for row in range(max(math.ceil(low), 0), min(math.ceil(high), rows)):
            counts[row] += 1


@kernel()
def _place(lines, ends, places, ways):  # type: ignore[no-untyped-def]
    rows = ends.shape[0] - 1
    for i in range(lines.shape[0]):
        x1, y1, x2, y2 = lines[i]
        low, high = min(y1, y2), max(y1, y2)
        for row in range(max(math.ceil(low), 0), min(math.ceil(high), rows)):
            places[ends[row]] = x1 + (x2 - x1) * (row - y1) / (y2 - y1)
            ways[ends[row]] = 1 if y2 > y1 else -1
            ends[row] += 1


@kernel(parallel=True)
def _sweep(starts, places, ways, inside, across):  # type: ignore[no-untyped-def]
    """Along each row: where the winding leaves 0 or comes back to it."""
    rows, columns = inside.shape
    for line in numba.prange(rows):
        row = np.int64(line)
        first, end = starts[row], starts[row + 1]
        order = np.argsort(places[first:end])
        winding, since = 0, 0
        for k in range(end - first):
            before = winding
            winding += ways[first + order[k]]
            if (before == 0) == (winding == 0):
                continue
            x = places[first + order[k]]
            right = int(min(max(math.ceil(x), 0), columns))
            if 0 < right < columns:
                again = across[row, right - 1] != NONE
                across[row, right - 1] = NONE if again else np.float32(x - (right - 1))
            if winding == 0:
                inside[row, since:right] = True
            since = right


@kernel(parallel=True)
def _agree(inside, across, down):  # type: ignore[no-untyped-def]
    """A crossing between centres of which one is inside, none between others."""
    rows, columns = inside.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            if x + 1 < columns:
                differs = inside[y, x] != inside[y, x + 1]
                across[y, x] = _where(across[y, x], differs)
            else:
                across[y, x] = NONE
            if y + 1 < rows:
                differs = inside[y, x] != inside[y + 1, x]
                down[y, x] = _where(down[y, x], differs)
            else:
                down[y, x] = NONE


@kernel(inline="always")
def _where(found, differs):  # type: ignore[no-untyped-def]
    if not differs:
        return NONE
    return np.float32(0.5) if found == NONE else found


@kernel()
def _set_corners(places, cells, across, down, index):  # type: ignore[no-untyped-def]
    """Each corner where the edge is that meets in it: in its own cell; for a tip that reaches no
    centre, in the cell beside it that it comes out of. A second one in a cell is left out."""
    rows, columns = index.shape
    for i in range(places.shape[0]):
        column, row = cells[i]
        count, _, _ = _middle(across, down, column, row)
        if count == 2 and index[row, column] < 0:
            index[row, column] = i
        if count > 0:
            continue
        best, there_x, there_y = 2.0, -1, -1
        for y in range(max(row - 1, 0), min(row + 2, rows - 1)):
            for x in range(max(column - 1, 0), min(column + 2, columns - 1)):
                count, u, v = _middle(across, down, x, y)
                if count != 2 or index[y, x] >= 0:
                    continue
                away = (x + u - places[i, 0]) ** 2 + (y + v - places[i, 1]) ** 2
                if away < best:
                    best, there_x, there_y = away, x, y
        if there_x >= 0:
            index[there_y, there_x] = i


@kernel()
def _middle(across, down, x, y):  # type: ignore[no-untyped-def]
    """How many crossings a cell has, and where their middle is in it."""
    count, u, v = 0, 0.0, 0.0
    if across[y, x] != NONE:
        count, u = count + 1, u + across[y, x]
    if across[y + 1, x] != NONE:
        count, u, v = count + 1, u + across[y + 1, x], v + 1
    if down[y, x] != NONE:
        count, v = count + 1, v + down[y, x]
    if down[y, x + 1] != NONE:
        count, u, v = count + 1, u + 1, v + down[y, x + 1]
    many = max(count, 1)
    return count, u / many, v / many


def _sharp_corners(lines: Lines) -> Lines:
    """(N, 2): where one line goes over into the next at an angle."""
    if not len(lines):
        return np.empty((0, 2))
    after = following(lines)
    way = lines[:, 2:] - lines[:, :2]
    turn = np.arctan2(way[:, 1], way[:, 0])
    turned = np.abs((turn[after] - turn + np.pi) % (2 * np.pi) - np.pi)
    return lines[turned > _SHARP, 2:]


def following(lines: Lines) -> NDArray[np.int64]:
    """(N): the line that goes on where each one ends, in closed outlines whose lines follow one
    another."""
    count = len(lines)
    goes_on = (lines[:-1, 2:] == lines[1:, :2]).all(axis=1)
    starts = np.concatenate([[0], np.flatnonzero(~goes_on) + 1])
    after = np.arange(1, count + 1)
    ends = np.append(starts[1:] - 1, count - 1)
    after[ends] = starts
    return after
