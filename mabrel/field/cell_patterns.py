"""Patterns that paint cells by themselves.

Each takes which cells of a letter have ink ((R, C) bool) and gives which of two colours each cell
gets: (R, C) int8, 0 for none, 1 for the first and 2 for the second. Cells without ink get none.
"""

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import distance_transform_cdt

Cells = NDArray[np.bool_]
Marks = NDArray[np.int8]
_SLANT = 0.38  # of a direction's length that its part along an axis has before the axis counts
# Bayer's matrix (An optimum method for two-level rendition of continuous-tone pictures, 1973)
_BAYER = np.array([[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]]) / 16 + 1 / 32


def towards(ink: Cells, way: tuple[float, float], reach: int) -> NDArray[np.int64]:
    """How many cells away the outside is that way (x right, y down), 0 where it is not within
    `reach`; slanting ways look along both axes, and the nearer one counts."""
    rows, columns = ink.shape
    wide = np.pad(ink, reach)
    length = max(float(np.hypot(*way)), 1e-9)
    steps = [round(np.sign(part)) if abs(part) > _SLANT * length else 0 for part in way]
    found = np.zeros(ink.shape, np.int64)
    for x, y in ((steps[0], 0), (0, steps[1])):
        if not (x or y):
            continue
        for away in range(reach, 0, -1):
            top, left = reach + y * away, reach + x * away
            out = ~wide[top : top + rows, left : left + columns]
            found = np.where(out & ink & ((found == 0) | (found >= away)), away, found)
    return found


def edges(ink: Cells, light: tuple[float, float], reach: int) -> Marks:
    """1 along edges that face the light, 2 along those that don't; `reach` cells deep."""
    lit = towards(ink, light, reach)
    shaded = towards(ink, (-light[0], -light[1]), reach)
    nearer = (lit > 0) & ((shaded == 0) | (lit <= shaded))
    return np.asarray(np.where(nearer, 1, np.where(shaded > 0, 2, 0)), np.int8)


def corners(ink: Cells, reach: int, amount: float, draw: np.random.Generator) -> Marks:
    """1 on worn corners: cells near one that is open on two sides, more ragged the farther in;
    `amount` is the share of corners that are worn."""
    up, down, left, right = (towards(ink, way, 1) > 0 for way in ((0, -1), (0, 1), (-1, 0), (1, 0)))
    tips = (up | down) & (left | right) & (draw.random(ink.shape) < amount)
    if not tips.any():
        return np.zeros(ink.shape, np.int8)
    away = distance_transform_cdt(~tips, metric="taxicab")
    kept = draw.random(ink.shape) < 1 - away / (reach + 0.5)
    return np.asarray(ink & (away < reach) & kept, np.int8)


def cracks(ink: Cells, reach: int, amount: float, draw: np.random.Generator) -> Marks:
    """1 on cracks that run from an edge into the ink and branch, about `reach` cells long;
    `amount` is how many begin, in sixths of the cells along the edge."""
    marks = np.zeros(ink.shape, np.int8)
    ways = ((0, 1), (0, -1), (1, 0), (-1, 0))
    starts = [
        (int(row), int(column), way)
        for way in ways
        for row, column in np.argwhere(towards(ink, (-way[0], -way[1]), 1) > 0)
    ]
    count = round(len(starts) * amount / 6)
    for index in draw.permutation(len(starts))[:count]:
        _crack(marks, ink, starts[index], reach, draw)
    return marks


def _crack(
    marks: Marks,
    ink: Cells,
    start: tuple[int, int, tuple[int, int]],
    reach: int,
    draw: np.random.Generator,
) -> None:
    """One that goes on its way, now and then to a side, and at times leaves a branch."""
    row, column, (x, y) = start
    rows, columns = ink.shape
    for walked in range(int(draw.integers(max(reach // 2, 1), reach + 1))):
        if not (0 <= row < rows and 0 <= column < columns and ink[row, column]):
            return
        marks[row, column] = 1
        turn = int(draw.integers(-1, 2))
        if turn and draw.random() < 0.6:
            aside_row, aside_column = row + turn * abs(x), column + turn * abs(y)
            inside = 0 <= aside_row < rows and 0 <= aside_column < columns
            if inside and ink[aside_row, aside_column]:
                row, column = aside_row, aside_column
                marks[row, column] = 1
                if walked > 1 and draw.random() < 0.3:
                    side = (turn * abs(y), turn * abs(x))
                    branch = (row + side[1], column + side[0], side)
                    _crack(marks, ink, branch, max(reach // 3, 1), draw)
        row, column = row + y, column + x


def dither(ink: Cells, way: tuple[float, float], amount: float) -> Marks:
    """1 and 2 mixed by an ordered dither, from all 1 where `way` points to all 2 at the other end;
    `amount` moves the middle: 0 is all 2, 1 all 1."""
    rows, columns = ink.shape
    y, x = np.mgrid[:rows, :columns] + 0.5
    length = max(float(np.hypot(*way)), 1e-9)
    along = ((x - columns / 2) * way[0] + (y - rows / 2) * way[1]) / length
    span = (columns * abs(way[0]) + rows * abs(way[1])) / length
    share = 0.5 + along / max(span, 1e-9) + 2 * (amount - 0.5)
    tiles = np.tile(_BAYER, (-(-rows // 4), -(-columns // 4)))[:rows, :columns]
    return np.asarray(np.where(ink, np.where(share > tiles, 1, 2), 0), np.int8)


def noise(ink: Cells, amount: float, draw: np.random.Generator) -> Marks:
    """1 or 2 on single cells here and there: on a share `amount` of them."""
    marked = ink & (draw.random(ink.shape) < amount)
    return np.asarray(np.where(marked, 1 + draw.integers(0, 2, ink.shape), 0), np.int8)
