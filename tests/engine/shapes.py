"""Shapes whose truth is known, with coverage measured by fine subsampling."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
Inside = Callable[[NDArray[np.float64], NDArray[np.float64]], NDArray[np.bool_]]
FINE = 16


def centres(shape: tuple[int, int]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """x and y of the pixel centres, as (H, W) arrays."""
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]].astype(float)
    return x, y


def coverage_of(shape: tuple[int, int], inside: Inside) -> Array:
    """Share of each pixel for which `inside(x, y)` holds."""
    height, width = shape
    y, x = np.mgrid[0 : height * FINE, 0 : width * FINE].astype(float)
    covered = inside((x + 0.5) / FINE - 0.5, (y + 0.5) / FINE - 0.5)
    return covered.reshape(height, FINE, width, FINE).mean(axis=(1, 3)).astype(np.float32)


def disc(radius: float, size: int, x: float, y: float) -> Array:
    return coverage_of((size, size), lambda px, py: np.hypot(px - x, py - y) < radius)


def turned_square(half: float, size: int, x: float, y: float, degrees: float) -> Array:
    turn = np.radians(degrees)

    def inside(px: NDArray[np.float64], py: NDArray[np.float64]) -> NDArray[np.bool_]:
        u, v = in_square(px, py, x, y, turn)
        return (np.abs(u) < half) & (np.abs(v) < half)

    return coverage_of((size, size), inside)


def in_square(px, py, x: float, y: float, turn: float):
    """Coordinates along the sides of a square turned by `turn` about (x, y)."""
    dx, dy = px - x, py - y
    return dx * np.cos(turn) + dy * np.sin(turn), dy * np.cos(turn) - dx * np.sin(turn)
