"""The straight pieces of an edge between its crossings, and how far places are from them."""

import numpy as np

from mabrel.field.edge_crossings import NONE
from mabrel.kernels import kernel

REACH = 6
"""Pixels from a piece up to which it makes a difference whether it or its ends count."""
PAD = 8
"""Columns that `lay` needs on both sides of what it writes to."""


@kernel()
def pieces_in(across, down, corner, corners, column, row, found):  # type: ignore[no-untyped-def]
    """Puts the pieces of edge between the four centres of a cell into `found` (2, 4: x1, y1, x2,
    y2 from the upper left one), and returns how many there are.

    Where two edges pass through one cell, they cut off its upper left and its lower right corner.
    Where the shape has a corner there, its sides meet in it.
    """
    top, left = across[row, column], down[row, column]
    right, bottom = down[row, column + 1], across[row + 1, column]
    zero, one = np.float32(0), np.float32(1)
    if top != NONE and left != NONE and right != NONE and bottom != NONE:
        _put(found, 0, top, zero, zero, left)
        _put(found, 1, one, right, bottom, one)
        return 2
    ax, ay = (top, zero) if top != NONE else (zero, left) if left != NONE else (one, right)
    bx, by = (bottom, one) if bottom != NONE else (one, right) if right != NONE else (zero, left)
    if ax == NONE or ay == NONE or bx == NONE or by == NONE or (ax == bx and ay == by):
        return 0
    if corner.shape[0] > 0 and corner[row, column] >= 0:
        which = corner[row, column]
        cx, cy = corners[which, 0] - np.float32(column), corners[which, 1] - np.float32(row)
        _put(found, 0, ax, ay, cx, cy)
        _put(found, 1, cx, cy, bx, by)
        return 2
    _put(found, 0, ax, ay, bx, by)
    return 1


@kernel(inline="always")
def _put(found, which, ax, ay, bx, by):  # type: ignore[no-untyped-def]
    found[which, 0], found[which, 1] = ax, ay
    found[which, 2], found[which, 3] = bx, by


@kernel(fastmath={"contract"})
def lay(piece, column, row, squared, first, last):  # type: ignore[no-untyped-def]
    """Lowers squared distances around a cell to those from a piece (4: x1, y1, x2, y2) in it.

    `squared` ((H, W + 2 · PAD), in place) holds the rows from `first` to before `last`.
    """
    zero, one = np.float32(0), np.float32(1)
    ax, ay = piece[0], piece[1]
    ex, ey = piece[2] - ax, piece[3] - ay
    per_length = one / max(ex * ex + ey * ey, np.float32(1e-12))
    for y in range(max(row - REACH, first), min(row + REACH + 2, last)):
        dy = np.float32(y - row) - ay
        near = squared[y - first, PAD + column - 7 : PAD + column + 9]
        for i in range(16):  # as many as two registers hold
            dx = np.float32(i - 7) - ax
            share = min(max((dx * ex + dy * ey) * per_length, zero), one)
            off_x, off_y = dx - share * ex, dy - share * ey
            near[i] = min(near[i], off_x * off_x + off_y * off_y)


@kernel()
def nearest_at(  # type: ignore[no-untyped-def]
    across, down, corner, corners, foot_x, foot_y, x, y, found
):
    """The squared distance from a centre to the pieces of edge that meet at a crossing; 1e18 for
    none. `found` (2, 4) is room to work in."""
    height, width = across.shape
    best = np.float32(1e18)
    for row in range(int(np.ceil(foot_y)) - 1, int(np.floor(foot_y)) + 1):
        for column in range(int(np.ceil(foot_x)) - 1, int(np.floor(foot_x)) + 1):
            if 0 <= row < height - 1 and 0 <= column < width - 1:
                count = pieces_in(across, down, corner, corners, column, row, found)
                for which in range(count):
                    best = min(best, _to_piece(found[which], x - column, y - row))
    return best


@kernel()
def _to_piece(piece, x, y):  # type: ignore[no-untyped-def]
    """Squared distance from a place to a piece, both in one cell's coordinates."""
    ax, ay = piece[0], piece[1]
    ex, ey = piece[2] - ax, piece[3] - ay
    dx, dy = np.float32(x) - ax, np.float32(y) - ay
    share = (dx * ex + dy * ey) / max(ex * ex + ey * ey, np.float32(1e-12))
    share = min(max(share, np.float32(0)), np.float32(1))
    dx -= share * ex
    dy -= share * ey
    return dx * dx + dy * dy
