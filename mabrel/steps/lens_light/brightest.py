"""Where the highlights are: the same places at every scale."""

import math
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness
from mabrel.kernels import kernel
from mabrel.steps.piece import Array
from mabrel.steps.region import Region

Places = NDArray[np.int64]

_ALONG = 420  # samples along the longer side: what is searched, whatever the render's scale
_CELL = 10  # samples along a cell, in which the brightest place counts


def brightest_places(
    picture: Array, region: Region, count: int, *, apart: float, threshold: float, seed: int
) -> NDArray[np.float64]:
    """Up to `count` places (N, 3: x, y in pixels from the layer's centre, brightness) of
    highlights in a premultiplied picture ((H, W, 4), over `region`, at any scale), none nearer
    than `apart` to another.

    Only what is brighter than `threshold` counts; another `seed` prefers others among them.
    """
    longest = max(picture.shape[:2])
    size = [max(round(side * _ALONG / longest), 1) for side in (picture.shape[1], picture.shape[0])]
    how = cv2.INTER_AREA if longest > _ALONG else cv2.INTER_LINEAR
    small = np.asarray(cv2.resize(picture, size, interpolation=how), np.float32)
    level = cv2.GaussianBlur(brightness(small), (0, 0), 1.2)
    rows, columns, cells = _peaks(level, threshold)
    if not len(rows):
        return np.empty((0, 3))
    found = level[rows, columns]
    # A number that is drawn for each cell, the larger the brighter it is (Efraimidis and
    # Spirakis 2006, weighted sampling): bright ones come first, but not always the same ones.
    chance = [_chance(seed, int(cell)) for cell in cells]
    order = np.argsort(-np.power(chance, 1 / np.maximum(found, 1e-3) ** 6), kind="stable")
    x = (columns[order] + 0.5) * region.width / size[0] + region.left
    y = (rows[order] + 0.5) * region.height / size[1] + region.top
    chosen: list[tuple[float, float, float]] = []
    for place in zip(x, y, found[order], strict=True):
        near = (math.hypot(place[0] - a, place[1] - b) < apart for a, b, _ in chosen)
        if apart <= 0 or not any(near):
            chosen.append(place)
            if len(chosen) == count:
                break
    return np.array(chosen).reshape(-1, 3)


@lru_cache(maxsize=2**14)
def _chance(seed: int, cell: int) -> float:
    """The number drawn for a cell; to make its generator takes longer than all else about it."""
    return float(np.random.default_rng([seed, cell]).random())


def _peaks(level: Array, threshold: float) -> tuple[Places, Places, Places]:
    """Rows, columns and cell numbers of the brightest place in each cell, where no other cell
    beside it has a brighter one near by."""
    # In a wide highlight all is equally bright; its middle has the brightest surroundings.
    rank = level + np.float32(0.25) * cv2.GaussianBlur(level, (0, 0), 0.6 * _CELL)
    highest = cv2.dilate(rank, np.ones((_CELL, _CELL), np.uint8))
    rows, columns = np.nonzero((rank >= highest - 1e-5) & (level > threshold))
    across = level.shape[1] // _CELL + 1
    cells = rows // _CELL * across + columns // _CELL
    _, first = np.unique(cells, return_index=True)
    return rows[first], columns[first], cells[first]


def highest_spots(light: Array, *, largest: float, apart: float) -> Array:
    """(H, W), 0..1: round spots `largest` pixels wide on the local maxima of `light` (H, W, 3),
    none nearer than `apart` to another; soft at their edge.

    In a wide even part its middle counts as the highest, since its surroundings are brightest.
    """
    level = np.maximum(np.maximum(light[..., 0], light[..., 1]), light[..., 2])
    around = cv2.GaussianBlur(level, (0, 0), max(apart / 3, 0.5))
    rank = np.where(level > 0, level + np.float32(0.25) * around, 0)
    size = 2 * max(round(apart / 4), 1) + 1
    highest = cv2.dilate(rank, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    rows, columns = np.nonzero((rank >= highest - 1e-5) & (level > 0))
    order = np.lexsort((columns, rows, -rank[rows, columns]))
    spots = np.zeros(level.shape, np.float32)
    _set_spots(rows[order], columns[order], np.float32(max(largest / 2, 0.5)), apart, spots)
    return spots


@kernel()
def _set_spots(rows, columns, radius, apart, spots):  # type: ignore[no-untyped-def]
    """From the first place to the last, those that are not too near to one that was taken."""
    cell = max(apart, 1.0) / math.sqrt(2)  # no two that are far enough apart share one
    across, down = int(spots.shape[1] / cell) + 1, int(spots.shape[0] / cell) + 1
    taken = np.full((down + 4, across + 4, 2), -1e9)
    reach = int(radius + 1.5)
    for index in range(rows.shape[0]):
        y, x = rows[index], columns[index]
        j, i = int(y / cell) + 2, int(x / cell) + 2
        free = True
        for b in range(j - 2, j + 3):
            for a in range(i - 2, i + 3):
                dy, dx = taken[b, a, 0] - y, taken[b, a, 1] - x
                free = free and dy * dy + dx * dx >= apart * apart
        if not free:
            continue
        taken[j, i, 0], taken[j, i, 1] = y, x
        for row in range(max(y - reach, 0), min(y + reach + 1, spots.shape[0])):
            for column in range(max(x - reach, 0), min(x + reach + 1, spots.shape[1])):
                away = math.sqrt((row - y) ** 2 + (column - x) ** 2)
                share = min(max(radius + 0.5 - away, 0.0), 1.0)
                spots[row, column] = max(spots[row, column], share)
