"""Pictures at the size at which they are used."""

import math
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
_SEEN = 1 / 128


@dataclass(frozen=True)
class Image:
    """A picture in memory: (H, W, 4), premultiplied, sRGB-encoded, not clamped."""

    pixels: Array
    framed: bool = False
    """Whether all of it counts as its ink, as of a clip, whose frames must not wander."""
    _memo: dict[str, tuple[Hashable, Array]] = field(
        default_factory=dict, repr=False, compare=False
    )

    def remembered(self, name: str, key: Hashable, make: Callable[[], Array]) -> Array:
        """What follows from the picture alone, and `key`: made once, the last one kept."""
        if name not in self._memo or self._memo[name][0] != key:
            self._memo[name] = (key, make())
        return self._memo[name][1]

    @property
    def ink(self) -> tuple[float, float]:
        """Width and height of its ink, with the shares of its outermost pixels."""
        if self.framed:
            return float(self.width), float(self.height)
        return ink_size(self.pixels[..., 3])

    @property
    def width(self) -> int:
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        return int(self.pixels.shape[0])

    @property
    def arrays(self) -> list[Array]:
        return [self.pixels, *(made for _, made in self._memo.values())]


def resampled(pixels: Array, width: float, height: float) -> Array:
    """Scaled to about `width` × `height` pixels, at least one each.

    Down by the mean over areas, up by cubic interpolation. Premultiplied colours go in and
    come out.
    """
    size = max(math.ceil(width - 1e-6), 1), max(math.ceil(height - 1e-6), 1)
    rows, columns = pixels.shape[:2]
    if size == (columns, rows):
        return pixels
    down = size[0] <= columns and size[1] <= rows
    how = cv2.INTER_AREA if down else cv2.INTER_CUBIC
    scaled = np.asarray(cv2.resize(pixels, size, interpolation=how), np.float32)
    if not down:  # cubic interpolation overshoots at edges: no alpha beyond its range
        scaled[..., 3] = np.clip(scaled[..., 3], 0, 1)
    return scaled


def ink_box(matte: Array, least: float = 1 / 64) -> tuple[int, int, int, int]:
    """Left, top, right, bottom of all that is covered; zeros where nothing is."""
    rows = np.flatnonzero((matte > least).any(axis=1))
    columns = np.flatnonzero((matte > least).any(axis=0))
    if not len(rows):
        return 0, 0, 0, 0
    return int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1


def ink_size(matte: Array) -> tuple[float, float]:
    """Width and height of a matte that is trimmed to its ink, with the shares of its outermost
    pixels."""
    if not matte.size:
        return 0.0, 0.0
    rows, columns = matte.max(axis=1), matte.max(axis=0)
    width = len(columns) - (1 - columns[0]) - (1 - columns[-1])
    height = len(rows) - (1 - rows[0]) - (1 - rows[-1])
    return max(float(width), 0.1), max(float(height), 0.1)


def spread_colour(premultiplied: Array) -> Array:
    """Straight colour carried on beyond what is covered: (H, W, 4), alpha 1 everywhere.

    Pull and push through a pyramid of means (Gortler and others, "The Lumigraph", 1996): what
    is not covered takes the mean of what is nearest to it.
    """
    levels = [np.ascontiguousarray(premultiplied, np.float32)]
    while min(levels[-1].shape[:2]) > 1:
        rows, columns = levels[-1].shape[:2]
        half = (max(columns // 2, 1), max(rows // 2, 1))
        levels.append(cv2.resize(levels[-1], half, interpolation=cv2.INTER_AREA))
    whole = _opaque(levels[-1])
    for level in reversed(levels[:-1]):
        rows, columns = level.shape[:2]
        coarse = cv2.resize(whole, (columns, rows), interpolation=cv2.INTER_LINEAR)
        whole = _opaque(level + coarse * np.maximum(1 - level[..., 3:], 0))
    # What is covered at all keeps the colour that it has.
    own = premultiplied[..., 3:] > _SEEN
    return np.asarray(np.where(own, _opaque(levels[0]), whole), np.float32)


def _opaque(premultiplied: Array) -> Array:
    alpha = premultiplied[..., 3:]
    out = premultiplied / np.maximum(alpha, np.float32(1e-6))
    out[..., 3] = 1
    return np.asarray(out, np.float32)
