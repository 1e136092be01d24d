"""Where the highlights are: the same places at every scale."""

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness
from mabrel.steps.piece import Array
from mabrel.steps.region import Region

_ALONG = 420  # samples along the longer side: what is searched, whatever the render's scale


def brightest_places(
    picture: Array, region: Region, count: int, *, apart: float, threshold: float, seed: int
) -> NDArray[np.float64]:
    """Up to `count` places (N, 3: x, y in pixels from the layer's centre, brightness) of
    highlights in a premultiplied picture ((H, W, 4), over `region`, at any scale), none nearer
    than `apart` to another.

    Only what is brighter than `threshold` counts; another `seed` prefers others among them.
    """
    longest = max(picture.shape[:2])
    factor = max(longest / _ALONG, 1.0)
    size = (max(round(picture.shape[1] / factor), 1), max(round(picture.shape[0] / factor), 1))
    small = np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)
    level = cv2.GaussianBlur(brightness(small), (0, 0), 0.8)
    peaks = (level >= cv2.dilate(level, np.ones((3, 3), np.uint8))) & (level > threshold)
    rows, columns = np.nonzero(peaks)
    if not len(rows):
        return np.empty((0, 3))
    found = level[rows, columns]
    chance = np.random.default_rng(seed).random(len(found))
    # A number that is drawn for each place, the larger the brighter it is (Efraimidis and
    # Spirakis 2006, weighted sampling): bright ones come first, but not always the same ones.
    order = np.argsort(-np.power(chance, 1 / np.maximum(found, 1e-3) ** 6), kind="stable")
    x = (columns[order] + 0.5) * region.width / size[0] + region.left
    y = (rows[order] + 0.5) * region.height / size[1] + region.top
    chosen: list[tuple[float, float, float]] = []
    for place in zip(x, y, found[order], strict=True):
        if all(np.hypot(place[0] - a, place[1] - b) >= apart for a, b, _ in chosen):
            chosen.append(place)
            if len(chosen) == count:
                break
    return np.array(chosen).reshape(-1, 3)
