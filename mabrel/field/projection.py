"""Flat pictures seen in perspective, in one resampling."""

import math

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
Matrix = NDArray[np.float64]
Pair = tuple[float, float]
_MOST = 24  # samples a pixel along one axis; what is smaller still has faded into its mean
_FEW = 2.0  # rows of the level it looks at that a pixel of the picture spans at least
_DEEPEST = 6
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
    if not math.isfinite(determinant) or abs(determinant) < 1e-12 or not layers.size:
        return out if image.ndim == 3 else out[..., 0]
    back = np.asarray(np.linalg.inv(matrix), np.float64)
    across, down = _least_spans(layers.shape, back, size)
    if across > max(
        down, 2 * _FEW
    ):  # only rows are reduced: what spans more columns is laid on its side
        layers, back = np.ascontiguousarray(layers.swapaxes(0, 1)), back[[1, 0, 2]]
    levels, starts = _levels(layers, back, size)
    back /= np.abs(back).max()
    _project(levels, starts, back, _busy_tiles(layers), out)
    return out if image.ndim == 3 else out[..., 0]


def _levels(image: Array, back: Matrix, size: tuple[int, int]) -> tuple[Array, NDArray[np.int64]]:
    """The image, and beneath it the same by means over 2, 4, 8 … of its rows, as far as any pixel
    of the picture spans so many; and the row at which each begins, and ends."""
    most = _spans(image.shape, back, size)[1]
    count = max(math.floor(math.log2(max(most / _FEW, 1.0))), 0)
    found = [image]
    for _ in range(min(count, _DEEPEST)):
        last = found[-1]
        even = last if len(last) % 2 == 0 else np.pad(last, ((0, 1), (0, 0), (0, 0)))
        half = np.empty((len(even) // 2, *even.shape[1:]), np.float32)
        _halve(even, half)
        found.append(half)
    starts = np.cumsum([0, *(len(each) for each in found)])
    return (image if len(found) == 1 else np.concatenate(found)), starts


@numba.njit(cache=True, parallel=True)
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
    x, y = np.meshgrid(np.linspace(0, size[0] - 1, _LOOKS), np.linspace(0, size[1] - 1, _LOOKS))
    u, v, w = (row[0] * x + row[1] * y + row[2] for row in back)
    with np.errstate(divide="ignore", invalid="ignore"):
        u, v = u / w, v / w
        down = (np.abs(back[1, 0] - v * back[2, 0]) + np.abs(back[1, 1] - v * back[2, 1])) / w
    wide, high = (shape[1], shape[0]) if rows else (shape[0], shape[1])
    near = (u > -wide) & (u < 2 * wide) & (v > -high) & (v < 2 * high) & (w > 0)
    if not near.any():
        return 1.0, 1.0
    return float(down[near].min()), float(down[near].max())


def _busy_tiles(image: Array) -> NDArray[np.bool_]:
    """For each tile of the image whether anything lies in it or in one beside it."""
    height, width = image.shape[:2]
    found = np.zeros(((height + _TILE - 1) // _TILE, (width + _TILE - 1) // _TILE), np.uint8)
    _look_into_tiles(image, found)
    return np.asarray(cv2.dilate(found, np.ones((3, 3), np.uint8)), np.bool_)


@numba.njit(cache=True, parallel=True)
def _look_into_tiles(image, found):  # type: ignore[no-untyped-def]
    height, width, channels = image.shape
    for tile in numba.prange(found.shape[0]):
        first = np.int64(tile) * _TILE
        for y in range(first, min(first + _TILE, height)):
            for x in range(width):
                for c in range(channels):
                    if image[y, x, c] != np.float32(0):
                        found[tile, x // _TILE] = 1


@numba.njit(cache=True, inline="always")
def _is_busy(busy, u, v, reach_u, reach_v):  # type: ignore[no-untyped-def]
    """Whether anything lies within so many pixels of a place; tiles tell of their neighbours."""
    if reach_u > _TILE - 3 or reach_v > _TILE - 3:
        return True
    row = min(max(int(v) // _TILE, 0), busy.shape[0] - 1)
    column = min(max(int(u) // _TILE, 0), busy.shape[1] - 1)
    return busy[row, column]


@numba.njit(cache=True, inline="always")
def _level(span, count):  # type: ignore[no-untyped-def]
    """The level of which a pixel still spans enough rows, and how many of its rows make one."""
    level, fewer = 0, 1.0
    while level + 1 < count and span * fewer >= 2 * _FEW:
        level, fewer = level + 1, fewer * 0.5
    return level, fewer


@numba.njit(cache=True, inline="always")
def _samples(span):  # type: ignore[no-untyped-def]
    return min(max(math.ceil(span - 0.1), 1), _MOST)


@numba.njit(cache=True, parallel=True)
def _project(levels, starts, back, busy, out):  # type: ignore[no-untyped-def]
    width = levels.shape[1]
    height = starts[1] - starts[0]
    rows, columns, channels = out.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        pixel = np.empty(channels, np.float32)
        for x in range(columns):
            w = back[2, 0] * x + back[2, 1] * y + back[2, 2]
            if w <= 1e-12:
                continue
            u = (back[0, 0] * x + back[0, 1] * y + back[0, 2]) / w
            v = (back[1, 0] * x + back[1, 1] * y + back[1, 2]) / w
            ux, uy = (back[0, 0] - u * back[2, 0]) / w, (back[0, 1] - u * back[2, 1]) / w
            vx, vy = (back[1, 0] - v * back[2, 0]) / w, (back[1, 1] - v * back[2, 1]) / w
            reach_u = 0.5 * (abs(ux) + abs(uy)) + 2.0
            reach_v = 0.5 * (abs(vx) + abs(vy)) + 2.0
            if u < -reach_u or u > width - 1 + reach_u or v < -reach_v or v > height - 1 + reach_v:
                continue
            if not _is_busy(busy, u, v, reach_u, reach_v):
                continue
            level, fewer = _level(abs(vx) + abs(vy), len(starts) - 1)
            image = levels[starts[level] : starts[level + 1]]
            v, vx, vy = (v + 0.5) * fewer - 0.5, vx * fewer, vy * fewer
            nx, ny = _samples(math.hypot(ux, vx)), _samples(math.hypot(uy, vy))
            pixel[:] = 0
            for j in range(ny):
                dy = (j + 0.5) / ny - 0.5
                for i in range(nx):
                    dx = (i + 0.5) / nx - 0.5
                    at_u, at_v = u + ux * dx + uy * dy, v + vx * dx + vy * dy
                    if channels == 4:
                        _add_four(image, at_u, at_v, pixel)
                    else:
                        _add_any(image, at_u, at_v, pixel)
            share = np.float32(1.0 / (nx * ny))
            for c in range(channels):
                out[y, x, c] = pixel[c] * share


@numba.njit(cache=True, inline="always")
def _weights(t):  # type: ignore[no-untyped-def]
    half, one = np.float32(0.5), np.float32(1)
    a = ((-half * t + one) * t - half) * t
    b = (np.float32(1.5) * t - np.float32(2.5)) * t * t + one
    c = ((np.float32(-1.5) * t + np.float32(2)) * t + half) * t
    return a, b, c, one - a - b - c


@numba.njit(cache=True)
def _add_four(image, u, v, pixel):  # type: ignore[no-untyped-def]
    """Add the four channels of what lies at (u, v)."""
    height, width = image.shape[:2]
    left, top = math.floor(u), math.floor(v)
    if left < 1 or left > width - 3 or top < 1 or top > height - 3:
        _add_any(image, u, v, pixel)
        return
    across, down = _weights(np.float32(u - left)), _weights(np.float32(v - top))
    for c in range(4):
        total = np.float32(0)
        for j in range(4):
            row = top + j - 1
            total += down[j] * (
                across[0] * image[row, left - 1, c] + across[1] * image[row, left, c]
                + across[2] * image[row, left + 1, c] + across[3] * image[row, left + 2, c]
            )  # fmt: skip
        one, two = image[top, left, c], image[top, left + 1, c]
        three, four = image[top + 1, left, c], image[top + 1, left + 1, c]
        low, high = min(min(one, two), min(three, four)), max(max(one, two), max(three, four))
        pixel[c] += min(max(total, low), high)


@numba.njit(cache=True)
def _add_any(image, u, v, pixel):  # type: ignore[no-untyped-def]
    """Add what lies at (u, v), also beside the border."""
    height, width, channels = image.shape
    left, top = math.floor(u), math.floor(v)
    if left < -2 or left > width or top < -2 or top > height:
        return
    across, down = _weights(np.float32(u - left)), _weights(np.float32(v - top))
    for c in range(channels):
        total = np.float32(0)
        low, high = np.float32(np.inf), np.float32(-np.inf)
        for j in range(4):
            row = top + j - 1
            if row < 0 or row >= height:
                if j == 1 or j == 2:
                    low, high = min(low, np.float32(0)), max(high, np.float32(0))
                continue
            for i in range(4):
                column = left + i - 1
                value = np.float32(0)
                if column >= 0 and column < width:
                    value = image[row, column, c]
                    total += value * across[i] * down[j]
                if (i == 1 or i == 2) and (j == 1 or j == 2):
                    low, high = min(low, value), max(high, value)
        pixel[c] += min(max(total, low), high)
