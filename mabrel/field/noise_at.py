"""Fractal noise at any places: where a shape or a body is, instead of over a picture."""

from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.fractal import ROUND, fade, slope_towards
from mabrel.field.noise import hashed
from mabrel.kernels import kernel

_FLAT = np.array(
    [(-1, -1), (1, -1), (-1, 1), (1, 1), (-1, 0), (1, 0), (-1, 0), (1, 0), (0, -1), (0, 1), (0, -1),
     (0, 1)], np.float32,
)  # fmt: skip
"""The gradients of `slope_towards` across and down."""


def noise_at(
    x: NDArray[np.float64],
    y: NDArray[np.float64],
    phase: float,
    seed: int,
    around: int = ROUND,
) -> NDArray[np.float64]:
    """One octave of the same noise at any places, in blobs: about −1 to 1, the same shape."""
    flat_x, flat_y = np.ravel(x).astype(np.float64), np.ravel(y).astype(np.float64)
    out = np.empty(flat_x.shape, np.float64)
    _at_places(flat_x, flat_y, float(phase), np.uint32(seed), around, out)
    return out.reshape(np.shape(x))


def rough_noise(x: NDArray[Any], y: NDArray[Any], seed: int) -> NDArray[np.float32]:
    """Three octaves of it, each half as wide and as strong as the one before, at phase 0: at any
    places, the same shape, about −1 to 1."""
    flat_x, flat_y = np.ravel(x).astype(np.float64), np.ravel(y).astype(np.float64)
    out = np.empty(flat_x.shape, np.float32)
    _rough_at(flat_x, flat_y, seed, out)
    return out.reshape(np.shape(x))


@kernel()
def _gradient_noise(u, v, z, seed, around):  # type: ignore[no-untyped-def]
    column, row, layer = int(np.floor(u)), int(np.floor(v)), int(np.floor(z))
    x, y, w = u - column, v - row, z - layer
    fx, fy, fz = fade(x), fade(y), fade(w)
    total = 0.0
    for k in range(2):
        wz = fz if k else 1 - fz
        if wz == 0:
            continue
        salt = seed + np.uint32(((layer + k) % around) * 7919)
        for j in range(2):
            wy = fy if j else 1 - fy
            for i in range(2):
                wx = fx if i else 1 - fx
                h = hashed(column + i, row + j, salt)
                total += wx * wy * wz * slope_towards(h, x - i, y - j, w - k)
    return total


@kernel(parallel=True)
def _rough_at(x, y, seed, out):  # type: ignore[no-untyped-def]
    for i in numba.prange(x.size):
        total = np.float32(0)
        for octave in range(3):
            finer = 1 << octave
            noise = _flat_noise(x[i] * finer, y[i] * finer, np.uint32(seed + finer))
            total += np.float32(1.4) / np.float32(finer) * noise
        out[i] = total


@kernel(inline="always")
def _flat_slope(h, x, y):  # type: ignore[no-untyped-def]
    """`slope_towards` at z = 0, looked up: which one it is can't be foreseen."""
    side = h % np.uint32(12)
    return _FLAT[side, 0] * x + _FLAT[side, 1] * y


@kernel(inline="always")
def _flat_noise(u, v, seed):  # type: ignore[no-untyped-def]
    """`_gradient_noise` in its first layer."""
    column, row = np.floor(u), np.floor(v)
    x, y = np.float32(u - column), np.float32(v - row)
    left, top, one = int(column), int(row), np.float32(1)
    fx, fy = np.float32(fade(x)), np.float32(fade(y))
    a = _flat_slope(hashed(left, top, seed), x, y)
    b = _flat_slope(hashed(left + 1, top, seed), x - one, y)
    c = _flat_slope(hashed(left, top + 1, seed), x, y - one)
    d = _flat_slope(hashed(left + 1, top + 1, seed), x - one, y - one)
    above, below = a + (b - a) * fx, c + (d - c) * fx
    return above + (below - above) * fy


@kernel(parallel=True)
def _at_places(x, y, phase, seed, around, out):  # type: ignore[no-untyped-def]
    for i in numba.prange(x.size):
        out[i] = 1.4 * _gradient_noise(x[i], y[i], phase, seed, around)
