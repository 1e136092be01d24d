"""Above which height rays from a card to a viewer are clear of its relief, tile by tile."""

import math

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import LANES, kernel

Array = NDArray[np.float32]
_FAR, NEAR = 16, 4
"""Pixels along the tiles of which the highest place is known."""


def where_rays_begin(
    relief: Array, place: NDArray[np.float64], low: float, high: float
) -> tuple[Array, Array]:
    """How high the rays of each tile begin, above which they meet nothing, and the highest place
    near each, below which they may go on.

    `relief` (H, W) lies between `low` and `high` (pixels); `place` is the viewer's (x, y, z), in
    pixels from the first one. Both arrays hold a number for each `NEAR` × `NEAR` pixels.
    """
    tiles = _tiles(relief)
    return _begins(tiles, place, low, high), _peaks(tiles, place, relief.shape)


@kernel(inline="always")
def of_tile(heights, x, y):  # type: ignore[no-untyped-def]
    """What is known of the tile in which a place lies."""
    row = min(max(int(y) // NEAR, 0), heights.shape[0] - 1)
    return heights[row, min(max(int(x) // NEAR, 0), heights.shape[1] - 1)]


def _tiles(relief: Array) -> Array:
    """The highest place of each tile, and of what is looked up with it."""
    looked_up = cv2.dilate(relief, np.ones((2, 2), np.uint8), anchor=(0, 0))
    return _highest(np.asarray(looked_up, np.float32), NEAR)


def _begins(tiles: Array, place: NDArray[np.float64], low: float, high: float) -> Array:
    """How high the rays of each tile begin, above which they meet nothing.

    What large ones come down to, in few steps, is where the small ones in them begin.
    """
    ratio = _FAR // NEAR
    large = _highest(tiles, ratio)
    begins = np.full(large.shape, high, np.float32)
    _come_down(large, place, _FAR, np.float32(low), begins)
    begins = begins.repeat(ratio, 0).repeat(ratio, 1)
    begins = np.ascontiguousarray(begins[: tiles.shape[0], : tiles.shape[1]])
    _come_down(tiles, place, NEAR, np.float32(low), begins)
    return begins


@kernel(parallel=True)
def _come_down(highest, view, size, low, begins):  # type: ignore[no-untyped-def]
    """Lower what the rays of each tile begin at, until they may meet something."""
    rows, columns = begins.shape
    for lane in numba.prange(LANES):
        for j in range(np.int64(lane), rows, LANES):
            for i in range(columns):
                begins[j, i] = _lowered(highest, view, size, low, i, j, begins[j, i])


@kernel()
def _lowered(highest, view, size, low, i, j, z):  # type: ignore[no-untyped-def]
    lean = max(abs(view[0] - i * size), abs(view[1] - j * size), np.float64(size))
    fall = view[2] * size / lean  # in which a ray passes one tile
    while z > low:
        lower = max(z - fall, np.float64(low))
        top = _highest_passed(highest, view, size, i, j, z, lower)
        if top >= lower:
            return min(z, max(top, np.float64(low)))
        z = lower
    return z


@kernel(inline="always")
def _highest_passed(highest, view, size, i, j, upper, lower):  # type: ignore[no-untyped-def]
    """The highest place of the tiles that the rays of one pass between two heights."""
    left, right = _passed(view[0], view[2], size, i, upper, lower, highest.shape[1])
    above, below = _passed(view[1], view[2], size, j, upper, lower, highest.shape[0])
    top = highest[above, left]
    for row in range(above, below + 1):
        for column in range(left, right + 1):
            top = max(top, highest[row, column])
    return np.float64(top)


@kernel(inline="always")
def _passed(view, away, size, tile, upper, lower, count):  # type: ignore[no-untyped-def]
    """The first and the last tile that rays pass, along one axis."""
    first, last = np.float64(tile * size) - 0.5, np.float64(tile * size + size)
    a, b = first + (view - first) / away * upper, first + (view - first) / away * lower
    c, d = last + (view - last) / away * upper, last + (view - last) / away * lower
    begin, end = math.floor(min(a, b, c, d) / size), math.floor(max(a, b, c, d) / size)
    return min(max(begin, 0), count - 1), min(max(end, 0), count - 1)


def _peaks(tiles: Array, place: NDArray[np.float64], shape: tuple[int, ...]) -> Array:
    """For each tile, the highest place in it and in those beside it that a ray may go on to, from
    a viewer at `place`."""
    (left, right), (above, below) = _goes_on(place[0], shape[1]), _goes_on(place[1], shape[0])
    kernel = np.ones((above + 1 + below, left + 1 + right), np.uint8)
    return np.asarray(cv2.dilate(tiles, kernel, anchor=(left, above)), np.float32)


def _goes_on(place: float, size: int) -> tuple[int, int]:
    """Whether rays that come down from there go on to lower and to higher pixels of an axis."""
    return int(place > 0), int(place < size - 1)


def _highest(relief: Array, size: int) -> Array:
    """The highest place of each tile, which has `size` × `size` pixels."""
    rows, columns = relief.shape
    highest = np.empty((-(-rows // size), -(-columns // size)), np.float32)
    _find_highest(relief, size, highest)
    return highest


@kernel(parallel=True)
def _find_highest(relief, size, highest):  # type: ignore[no-untyped-def]
    rows, columns = relief.shape
    for line in numba.prange(highest.shape[0]):
        row = np.int64(line)
        highest[row] = -np.inf
        for y in range(row * size, min((row + 1) * size, rows)):
            for tile in range(highest.shape[1]):
                top = highest[row, tile]
                for x in range(tile * size, min((tile + 1) * size, columns)):
                    top = max(top, relief[y, x])
                highest[row, tile] = top
