"""Flat pictures seen in perspective, in one resampling."""

import math

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.footprint import level_for
from mabrel.field.lookups import add_over, colour_over
from mabrel.field.scanlines import keeps_rows, project_rows
from mabrel.kernels import LANES, kernel

Array = NDArray[np.float32]
Matrix = NDArray[np.float64]
Pair = tuple[float, float]
_DEEPEST = 6
_FEW = 2.0  # rows of the level it looks at that a pixel of the picture spans at least
_MANY = 8.0  # the same where whole rows are averaged, which is cheap
_TILE = 16  # pixels along the tiles in which the kernel looks whether there is anything
_LOOKS = 9  # places along each side of the picture at which its footprint is looked up


def projected(image: Array, matrix: Matrix, size: tuple[int, int]) -> Array:
    """`image` ((H, W) or (H, W, C)) through a homography onto a picture of `size` (width, height).

    `matrix` (3 × 3) takes pixel places of the image, whole numbers at pixel centres, to those of
    the picture; its third coordinate is positive before the viewer. Where the image is larger
    than what is seen of it, each pixel is the mean of as many lookups as it spans, so nothing
    flickers or frays; where it spans many, they are looked up in means over 2, 4, 8 … rows or
    columns (Williams, "Pyramidal parametrics", 1983, along one axis). Lookups are cubic (Keys 1981,
    a = −½), held within the four pixels around them: no ringing at edges. Beyond the image there
    is nothing; nor is there behind the viewer.
    """
    layers = np.ascontiguousarray(image if image.ndim == 3 else image[..., None], np.float32)
    out = np.zeros((size[1], size[0], layers.shape[2]), np.float32)
    determinant = float(np.linalg.det(matrix))
    if not math.isfinite(determinant) or abs(determinant) < 1e-12 or not (layers.size and out.size):
        return out if image.ndim == 3 else out[..., 0]
    back = np.asarray(np.linalg.inv(matrix), np.float64)
    if layers.shape[2] in (1, 4) and keeps_rows(back, size):
        _by_rows(layers, back, out)
    elif layers.shape[2] in (1, 4) and keeps_rows(_on_its_side(back), size[::-1]):
        aside = np.zeros((size[0], size[1], layers.shape[2]), np.float32)
        _by_rows(_transposed(layers), _on_its_side(back), aside)
        out = _transposed(aside)
    else:
        _by_pixels(layers, back, out)
    return out if image.ndim == 3 else out[..., 0]


def _transposed(image: Array) -> Array:
    return np.asarray(cv2.transpose(image), np.float32).reshape(image.shape[1], image.shape[0], -1)


def _on_its_side(back: Matrix) -> Matrix:
    """The same for the transposed image and picture."""
    return np.ascontiguousarray(back[[1, 0, 2]][:, [1, 0, 2]])


def _by_rows(image: Array, back: Matrix, out: Array) -> None:
    levels, starts = _levels(image, back, out.shape[1::-1], _MANY)
    project_rows(levels, starts, back / np.abs(back).max(), _MANY, out)


def _by_pixels(image: Array, back: Matrix, out: Array) -> None:
    size = out.shape[1::-1]
    across, down = _least_spans(image.shape, back, size)
    if across > max(down, 2 * _FEW):  # only rows are reduced: laid on its side
        image, back = np.ascontiguousarray(image.swapaxes(0, 1)), back[[1, 0, 2]]
    levels, starts = _levels(image, back, size, _FEW)
    _project(levels, starts, back / np.abs(back).max(), _busy_tiles(image), out)


def _levels(
    image: Array, back: Matrix, size: tuple[int, int], few: float
) -> tuple[Array, NDArray[np.int64]]:
    """The image, and beneath it the same by means over 2, 4, 8 … of its rows, as far as any pixel
    of the picture spans `few` of those; and the row at which each begins, and ends."""
    most = _spans(image.shape, back, size)[1]
    count = max(math.floor(math.log2(max(most / few, 1.0))), 0)
    found = [image]
    for _ in range(min(count, _DEEPEST)):
        last = found[-1]
        even = last if len(last) % 2 == 0 else np.pad(last, ((0, 1), (0, 0), (0, 0)))
        half = np.empty((len(even) // 2, *even.shape[1:]), np.float32)
        _halve(even, half)
        found.append(half)
    starts = np.cumsum([0, *(len(each) for each in found)])
    return (image if len(found) == 1 else np.concatenate(found)), starts


@kernel(parallel=True)
def _halve(image, out):  # type: ignore[no-untyped-def]
    half = np.float32(0.5)
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        out[y] = (image[2 * y] + image[2 * y + 1]) * half


def _least_spans(shape: tuple[int, ...], back: Matrix, size: tuple[int, int]) -> Pair:
    """The fewest columns, and the fewest rows, of the image that a pixel of the picture spans."""
    return _spans(shape, back[[1, 0, 2]], size, False)[0], _spans(shape, back, size)[0]


def _spans(shape: tuple[int, ...], back: Matrix, size: tuple[int, int], rows: bool = True) -> Pair:
    """The fewest and the most rows of the image that a pixel of the picture spans."""
    wide, high = (shape[1], shape[0]) if rows else (shape[0], shape[1])
    least, most = _spans_of(np.asarray(back, np.float64), wide, high, size[0], size[1])
    return float(least), float(most)


@kernel()
def _spans_of(back, wide, high, columns, rows):  # type: ignore[no-untyped-def]
    least, most = np.inf, 0.0
    for i in range(_LOOKS):
        y = (rows - 1) * i / (_LOOKS - 1)
        for j in range(_LOOKS):
            x = (columns - 1) * j / (_LOOKS - 1)
            w = back[2, 0] * x + back[2, 1] * y + back[2, 2]
            if w <= 0:
                continue
            u = (back[0, 0] * x + back[0, 1] * y + back[0, 2]) / w
            v = (back[1, 0] * x + back[1, 1] * y + back[1, 2]) / w
            if -wide < u < 2 * wide and -high < v < 2 * high:
                down = abs(back[1, 0] - v * back[2, 0]) + abs(back[1, 1] - v * back[2, 1])
                least, most = min(least, down / w), max(most, down / w)
    return (least, most) if most > 0 else (1.0, 1.0)


def _busy_tiles(image: Array) -> NDArray[np.bool_]:
    """For each tile of the image whether anything lies in it or in one beside it."""
    height, width = image.shape[:2]
    found = np.zeros(((height + _TILE - 1) // _TILE, (width + _TILE - 1) // _TILE), np.uint8)
    _look_into_tiles(image, found)
    return np.asarray(cv2.dilate(found, np.ones((3, 3), np.uint8)), np.bool_)


@kernel(parallel=True)
def _look_into_tiles(image, found):  # type: ignore[no-untyped-def]
    height, width, channels = image.shape
    for tile in numba.prange(found.shape[0]):
        first = np.int64(tile) * _TILE
        for y in range(first, min(first + _TILE, height)):
            for x in range(width):
                for c in range(channels):
                    if image[y, x, c] != np.float32(0):
                        found[tile, x // _TILE] = 1


@kernel(inline="always")
def _is_busy(busy, u, v, reach_u, reach_v):  # type: ignore[no-untyped-def]
    """Whether anything lies within so many pixels of a place; tiles tell of their neighbours."""
    if reach_u > _TILE - 3 or reach_v > _TILE - 3:
        return True
    row = min(max(int(v) // _TILE, 0), busy.shape[0] - 1)
    column = min(max(int(u) // _TILE, 0), busy.shape[1] - 1)
    return busy[row, column]


@kernel(parallel=True)
def _project(levels, starts, back, busy, out):  # type: ignore[no-untyped-def]
    width = levels.shape[1]
    height = starts[1] - starts[0]
    rows, columns, channels = out.shape
    for lane in numba.prange(LANES):
        pixel = np.empty(channels, np.float32)
        for y in range(np.int64(lane), rows, LANES):
            for x in range(columns):
                w = back[2, 0] * x + back[2, 1] * y + back[2, 2]
                if w <= 1e-12:
                    continue
                per = 1 / w
                u = (back[0, 0] * x + back[0, 1] * y + back[0, 2]) * per
                v = (back[1, 0] * x + back[1, 1] * y + back[1, 2]) * per
                ux, uy = (back[0, 0] - u * back[2, 0]) * per, (back[0, 1] - u * back[2, 1]) * per
                vx, vy = (back[1, 0] - v * back[2, 0]) * per, (back[1, 1] - v * back[2, 1]) * per
                reach_u = 0.5 * (abs(ux) + abs(uy)) + 2.0
                reach_v = 0.5 * (abs(vx) + abs(vy)) + 2.0
                if (
                    u < -reach_u
                    or u > width - 1 + reach_u
                    or v < -reach_v
                    or v > height - 1 + reach_v
                ):
                    continue
                if not _is_busy(busy, u, v, reach_u, reach_v):
                    continue
                level, fewer = level_for(abs(vx) + abs(vy), len(starts) - 1, _FEW)
                image = levels[starts[level] : starts[level + 1]]
                v, vx, vy = (v + 0.5) * fewer - 0.5, vx * fewer, vy * fewer
                if channels == 4:
                    r, g, b, a = colour_over(image, u, v, ux, uy, vx, vy, pixel)
                    out[y, x, 0], out[y, x, 1], out[y, x, 2], out[y, x, 3] = r, g, b, a
                else:
                    add_over(image, u, v, ux, uy, vx, vy, channels, pixel)
                    for c in range(channels):
                        out[y, x, c] = pixel[c]
