"""A mirror image on a wet floor: broken up by ripples, and gone where the floor is dry."""

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.field.fractal import rough_picture

Array = NDArray[np.float32]
_FLAT = 0.18  # how much lower than wide ripples and patches are, seen along the floor
_DOWN = 0.35  # of their displacement across, how far they displace down


def rippled(image: Array, origin: tuple[int, int], reach: float, size: float, seed: int) -> Array:
    """`image` (H, W, C) displaced by up to `reach` pixels by ripples `size` pixels wide.

    They are fixed to the plane in which the first pixel lies at `origin`.
    """
    rows, columns = image.shape[:2]
    across = rough_picture((rows, columns), _middle(origin), (size, size * _FLAT), seed + 100)
    down = rough_picture((rows, columns), _middle(origin), (size, size * _FLAT), seed + 200)
    across *= np.float32(reach)
    down *= np.float32(reach * _DOWN)
    across += np.arange(columns, dtype=np.float32)[None, :]
    down += np.arange(rows, dtype=np.float32)[:, None]
    return np.asarray(cv2.remap(image, across, down, cv2.INTER_LINEAR), np.float32)


def patched(image: Array, origin: tuple[int, int], share: float, size: float, seed: int) -> Array:
    """`image` (H, W, C) hidden in patches `size` pixels wide: about `share` of it."""
    noise = rough_picture(image.shape[:2], _middle(origin), (size, size * _FLAT), seed + 300)
    edge = np.float32(1.6 * share - 0.8)
    seen = np.clip((noise - edge) / np.float32(0.35) + np.float32(0.5), 0, 1)
    return np.asarray(image * seen[..., None], np.float32)


def _middle(origin: tuple[int, int]) -> tuple[float, float]:
    return origin[0] + 0.5, origin[1] + 0.5
