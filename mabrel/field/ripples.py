"""A mirror image on a wet floor: broken up by ripples, and gone where the floor is dry."""

from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.field.fractal import ROUND, rough_picture

Array = NDArray[np.float32]
_FLAT = 0.18  # how much lower than wide ripples and patches are, seen along the floor
_DOWN = 0.35  # of their displacement across, how far they displace down


class Ripples(NamedTuple):
    """How wide ripples and patches are, in pixels, and which draw of them at which phase."""

    size: float
    seed: int
    phase: float = 0.0
    around: int = ROUND

    def noise(self, shape: tuple[int, int], origin: tuple[int, int], draw: int) -> Array:
        size, middle = (self.size, self.size * _FLAT), (origin[0] + 0.5, origin[1] + 0.5)
        return rough_picture(shape, middle, size, self.seed + draw, self.phase, self.around)


def rippled(image: Array, origin: tuple[int, int], reach: float, ripples: Ripples) -> Array:
    """`image` (H, W, C) displaced by up to `reach` pixels.

    Ripples are fixed to the plane in which the first pixel lies at `origin`.
    """
    rows, columns = image.shape[:2]
    across = ripples.noise((rows, columns), origin, 100) * np.float32(reach)
    down = ripples.noise((rows, columns), origin, 200) * np.float32(reach * _DOWN)
    across += np.arange(columns, dtype=np.float32)[None, :]
    down += np.arange(rows, dtype=np.float32)[:, None]
    return np.asarray(cv2.remap(image, across, down, cv2.INTER_LINEAR), np.float32)


def patched(image: Array, origin: tuple[int, int], share: float | Array, patches: Ripples) -> Array:
    """`image` (H, W, C) hidden in patches: about `share` (or (H, W)) of it."""
    noise = patches._replace(phase=0.0).noise(image.shape[:2], origin, 300)
    edge = np.float32(1.6) * share - np.float32(0.8)
    seen = np.clip((noise - edge) / np.float32(0.35) + np.float32(0.5), 0, 1)
    return np.asarray(image * seen[..., None], np.float32)
