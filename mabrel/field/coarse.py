"""A coarser grid, fixed to the place where a layer's centre lies."""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
Origin = tuple[int, int]
_SOFT = 1.5  # pixels of σ that something soft still has on a coarser grid
_COARSEST = 8


def coarseness(sigma: float) -> int:
    """How many times as coarse a grid does, for what is as soft as a blur of σ pixels."""
    halvings = max(math.floor(math.log2(max(sigma / _SOFT, 1.0))), 0)
    return min(int(2**halvings), _COARSEST)


def coarser(picture: Array, origin: Origin, factor: int, goes_on: bool = False) -> Array:
    """(H, W) or (H, W, C), whose first pixel lies at `origin` (x, y), by means of `factor` ×
    `factor` pixels; what lies beyond it counts as 0, or as its border where it `goes_on`.

    The first pixel of the coarse picture is that at `origin` // `factor`, so it doesn't matter
    where the fine one begins.
    """
    if factor == 1:
        return picture
    rows, columns = picture.shape[:2]
    left, top = origin[0] % factor, origin[1] % factor
    right, bottom = -(origin[0] + columns) % factor, -(origin[1] + rows) % factor
    whole = picture
    if left or top or right or bottom:
        beyond = cv2.BORDER_REPLICATE if goes_on else cv2.BORDER_CONSTANT
        whole = np.asarray(cv2.copyMakeBorder(picture, top, bottom, left, right, beyond))
    size = (whole.shape[1] // factor, whole.shape[0] // factor)
    return np.asarray(cv2.resize(whole, size, interpolation=cv2.INTER_AREA), np.float32)


def finer(picture: Array, origin: Origin, shape: tuple[int, ...], factor: int) -> Array:
    """Back from `coarser`, between its pixels, to `shape` (H, W) pixels from `origin` on."""
    if factor == 1:
        return picture
    rows, columns = picture.shape[:2]
    whole = cv2.resize(picture, (columns * factor, rows * factor), interpolation=cv2.INTER_LINEAR)
    left, top = origin[0] % factor, origin[1] % factor
    part = whole[top : top + shape[0], left : left + shape[1]]
    return np.ascontiguousarray(part, dtype=np.float32)
