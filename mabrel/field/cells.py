"""Cells of a grid on the grid of pixels: what each pixel has of each cell, exactly."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]


def overlaps(
    start: int, pixels: int, corner: float, size: float, first: int, cells: int, gap: float = 0.0
) -> Array:
    """What of each pixel along an axis is covered by each cell: (pixels, cells), 0..1.

    The first pixel reaches from `start` to `start + 1`; cell n, of `cells` from number `first` on,
    begins at `corner + n · size` pixels, and a `gap` (0..1, a share of its size) is left free, half
    of it on each side. The coverage of a pixel by a cell in the plane is the product of both axes'.
    """
    places = corner + size * np.arange(first, first + cells, dtype=np.float64)
    low, high = places + size * gap / 2, places + size * (1 - gap / 2)
    edge = start + np.arange(pixels, dtype=np.float64)[:, None]
    shared = np.minimum(high, edge + 1) - np.maximum(low, edge)
    return np.asarray(np.clip(shared, 0, 1), np.float32)


def laid_out(down: Array, across: Array, cells: Array) -> Array:
    """A picture (H, W, ...) of values of cells ((R, C, ...)), by the overlaps (H, R) and (W, C)."""
    along = np.tensordot(down, cells, axes=(1, 0))
    both = np.tensordot(across, along, axes=(1, 1))
    return np.ascontiguousarray(np.swapaxes(both, 0, 1), np.float32)


def shares(down: Array, across: Array, coverage: Array) -> Array:
    """How much of each cell ((R, C), 0..1) a shape covers, whose coverage of pixels is (H, W)."""
    inside = down.T @ coverage @ across
    areas = np.outer(down.sum(axis=0), across.sum(axis=0))
    return np.asarray(inside / np.maximum(areas, 1e-6), np.float32)


def divided(cells: Array, parts: int) -> Array:
    """Each cell ((R, C, ...)) as `parts` × `parts` equal ones."""
    return np.repeat(np.repeat(cells, parts, axis=0), parts, axis=1)
