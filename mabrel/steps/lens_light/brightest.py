"""Where the highlights are: the same places at every scale."""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness
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
    chance = [np.random.default_rng([seed, int(cell)]).random() for cell in cells]
    order = np.argsort(-np.power(chance, 1 / np.maximum(found, 1e-3) ** 6), kind="stable")
    x = (columns[order] + 0.5) * region.width / size[0] + region.left
    y = (rows[order] + 0.5) * region.height / size[1] + region.top
    chosen: list[tuple[float, float, float]] = []
    for place in zip(x, y, found[order], strict=True):
        if all(math.hypot(place[0] - a, place[1] - b) >= apart for a, b, _ in chosen):
            chosen.append(place)
            if len(chosen) == count:
                break
    return np.array(chosen).reshape(-1, 3)


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
