"""Flashes, by the definition of WCAG 2.2, success criterion 2.3.1 (three flashes or below)."""

from bisect import bisect_left
from collections.abc import Sequence
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.spaces import to_linear

Array = NDArray[np.float32]
Masks = list[NDArray[np.bool_]]

MOST = 3
"""Flashes that any second may have."""
_STEP = 0.1  # of the largest relative luminance, that a change must have
_DARK = 0.8  # relative luminance below which the darker of the two must lie
_RED_SHARE = 0.8
_RED_STEP = 20.0
_FIELD = (341 / 1024, 256 / 768)  # ten degrees of vision, as shares of what fills a screen
_AREA = 0.25  # of such a field, that must flash at once


class Flashes(NamedTuple):
    """The most flashes in any second, and when that second begins."""

    most: int
    start: float


def flashes_in(
    frames: Sequence[Array], rate: float, numbers: Sequence[int] | None = None
) -> Flashes:
    """General flashes of frames (each (H, W, 3), sRGB-encoded, 0..1), `rate` to a second.

    `numbers` are those of the frames where some that are as the one before are left out.

    A flash is a pair of opposing changes in relative luminance of 10 % or more of its greatest
    value, the darker of the two below 0.80, of at least a quarter of any ten degrees of vision.
    """
    levels = [_luminance(frame) for frame in frames]
    return _counted(_changes(levels, _general), rate, numbers)


def red_flashes_in(
    frames: Sequence[Array], rate: float, numbers: Sequence[int] | None = None
) -> Flashes:
    """The same of changes to and from a saturated red: R / (R + G + B) of at least 0.8 at one end,
    and (R − G − B) · 320 differing by more than 20, in linear light."""
    reds = [_red(frame) for frame in frames]
    return _counted(_changes(reds, _saturated), rate, numbers)


def _luminance(frame: Array) -> Array:
    light = to_linear(np.clip(frame[..., :3], 0, 1))
    return np.asarray(light @ np.array([0.2126, 0.7152, 0.0722], np.float32), np.float32)


def _red(frame: Array) -> Array:
    """(H, W, 2): how red it is, and 1 where that is saturated."""
    light = to_linear(np.clip(frame[..., :3], 0, 1))
    red = np.maximum(light[..., 0] - light[..., 1] - light[..., 2], 0) * 320
    saturated = light[..., 0] >= _RED_SHARE * np.maximum(light.sum(axis=-1), 1e-6)
    return np.stack([red, saturated & (light[..., 0] > 0.01)], axis=-1).astype(np.float32)


def _general(now: Array, extreme: Array) -> Array:
    """How far a pixel has gone from its last turning point, −1 to 1; 0 where that is no change
    that counts."""
    far = now - extreme
    counts = (np.abs(far) >= _STEP - 1e-6) & (np.minimum(now, extreme) < _DARK)
    return np.where(counts, far, 0).astype(np.float32)


def _saturated(now: Array, extreme: Array) -> Array:
    far = now[..., 0] - extreme[..., 0]
    counts = (np.abs(far) > _RED_STEP) & ((now[..., 1] > 0) | (extreme[..., 1] > 0))
    return np.where(counts, far, 0).astype(np.float32)


def _changes(levels: Sequence[Array], step: object) -> list[tuple[int, int]]:
    """The frames at which enough of the picture has changed, each with the way: 1 or −1.

    Each pixel remembers the last turning point of its way, and whether it went up or down then.
    """
    found: list[tuple[int, int]] = []
    if not levels:
        return found
    extreme = levels[0].copy()
    going = np.zeros(levels[0].shape[:2], np.int8)
    for number, now in enumerate(levels[1:], start=1):
        far = step(now, extreme)  # type: ignore[operator]
        for way in (1, -1):
            turned = (np.sign(far) == way) & (going != way)
            if _enough(turned):
                found.append((number, way))
            going[turned] = way
        # A pixel that goes on its way takes its turning point along.
        first = now[..., 0] if now.ndim == 3 else now
        last = extreme[..., 0] if extreme.ndim == 3 else extreme
        on = ((first > last) & (going >= 0)) | ((first < last) & (going <= 0))
        on |= np.sign(far) == going
        extreme[on] = now[on]
    return found


def _enough(changed: NDArray[np.bool_]) -> bool:
    """Whether a quarter of any ten degrees of vision has changed at once."""
    if not changed.any():
        return False
    height, width = changed.shape
    size = (max(round(width * _FIELD[0]), 1), max(round(height * _FIELD[1]), 1))
    shares = cv2.blur(changed.astype(np.float32), size, borderType=cv2.BORDER_CONSTANT)
    return float(shares.max()) >= _AREA - 1e-6


def _counted(changes: list[tuple[int, int]], rate: float, numbers: Sequence[int] | None) -> Flashes:
    """Pairs of opposing changes in the worst second."""
    best = Flashes(0, 0.0)
    opposing: list[int] = []
    last = 0
    for index, way in changes:
        if way != last:
            opposing.append(index if numbers is None else numbers[index])
            last = way
    for index, first in enumerate(opposing):
        within = bisect_left(opposing, first + rate - 1e-6) - index
        if within // 2 > best.most:
            best = Flashes(within // 2, first / rate)
    return best
