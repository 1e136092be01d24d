"""Fractal noise: clouds, and streaks when it is stretched."""

from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.noise import hashed

ROUND = 64
"""After so much phase the noise is the same again, so it can be run in a loop."""


def fractal_noise(
    shape: tuple[int, int],
    origin: tuple[float, float],
    size: tuple[float, float],
    *,
    octaves: int = 4,
    roughness: float = 0.5,
    phase: float = 0.0,
    seed: int = 0,
    ridged: bool = False,
) -> NDArray[np.float32]:
    """Smooth noise (H, W), about 0 to 1, its largest blobs `size` (x, y) pixels wide.

    Gradient noise (Perlin, "Improving noise", 2002) in three dimensions, the third being
    `phase`; each of the `octaves` is half as wide as the one before and weighs `roughness`
    times as much. `ridged` folds it about its middle, which makes veins. Octaves finer than the
    pixels fade out, so nothing flickers at any scale. It depends on the place in the noise's
    plane alone; `origin` is that of the first pixel. Over a phase of `ROUND` it comes round.
    """
    if not (size[0] > 0 and size[1] > 0):
        raise ValueError(f"size must be more than 0, not {size}")
    out = np.zeros(shape, np.float32)
    total, weight = 0.0, 1.0
    for octave in range(octaves):
        width, height = size[0] / 2**octave, size[1] / 2**octave
        shown = min(max(min(width, height) - 1.5, 0.0), 1.0)
        total += weight
        if shown > 0:
            _add_octave(
                out,
                float(origin[0]),
                float(origin[1]),
                1 / width,
                1 / height,
                float(phase * 2**octave),
                np.uint32(seed * 31 + octave),
                np.float32(weight * shown),
                ridged,
            )
        weight *= roughness
    # Gradient noise keeps within about ±0.7; a sum of octaves rarely leaves half of that.
    if ridged:
        return np.asarray(np.clip(1 - out / np.float32(total) * np.float32(2.2), 0, 1), np.float32)
    return np.asarray(0.5 + out / np.float32(total) * np.float32(0.95), np.float32)


@numba.njit(cache=True, inline="always")
def _slope(h, x, y, z):  # type: ignore[no-untyped-def]
    """One of twelve gradients towards the edges of a cube."""
    side = h % np.uint32(12)
    if side < 4:
        return (x if side & 1 else -x) + (y if side & 2 else -y)
    if side < 8:
        return (x if side & 1 else -x) + (z if side & 2 else -z)
    return (y if side & 1 else -y) + (z if side & 2 else -z)


@numba.njit(cache=True, inline="always")
def _fade(t):  # type: ignore[no-untyped-def]
    return t * t * t * (t * (t * 6 - 15) + 10)


@numba.njit(cache=True)
def _gradient_noise(u, v, z, seed):  # type: ignore[no-untyped-def]
    column, row, layer = int(np.floor(u)), int(np.floor(v)), int(np.floor(z))
    x, y, w = u - column, v - row, z - layer
    fx, fy, fz = _fade(x), _fade(y), _fade(w)
    total = 0.0
    for k in range(2):
        wz = fz if k else 1 - fz
        if wz == 0:
            continue
        salt = seed + np.uint32(((layer + k) & (ROUND - 1)) * 7919)
        for j in range(2):
            wy = fy if j else 1 - fy
            for i in range(2):
                wx = fx if i else 1 - fx
                h = hashed(column + i, row + j, salt)
                total += wx * wy * wz * _slope(h, x - i, y - j, w - k)
    return total


@numba.njit(cache=True, parallel=True)
def _add_octave(out, left, top, scale_x, scale_y, phase, seed, weight, ridged):  # type: ignore[no-untyped-def]
    rows, columns = out.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        v = (top + y) * scale_y
        for x in range(columns):
            value = _gradient_noise((left + x) * scale_x, v, phase, seed)
            out[y, x] += weight * (abs(value) if ridged else value)


def noise_at(
    x: NDArray[np.float64], y: NDArray[np.float64], phase: float, seed: int
) -> NDArray[np.float64]:
    """One octave of the same noise at any places, in blobs: about −1 to 1, the same shape."""
    flat_x, flat_y = np.ravel(x).astype(np.float64), np.ravel(y).astype(np.float64)
    out = np.empty(flat_x.shape, np.float64)
    _at_places(flat_x, flat_y, float(phase), np.uint32(seed), out)
    return out.reshape(np.shape(x))


def rough_noise(x: NDArray[Any], y: NDArray[Any], seed: int) -> NDArray[np.float32]:
    """Three octaves of it at any places, the same shape, about −1 to 1."""
    x, y = np.asarray(x, np.float64), np.asarray(y, np.float64)
    total = np.zeros(np.shape(x))
    for finer in (1, 2, 4):
        total += noise_at(x * finer, y * finer, 0.0, seed + finer) / finer
    return np.asarray(total, np.float32)


@numba.njit(cache=True, parallel=True)
def _at_places(x, y, phase, seed, out):  # type: ignore[no-untyped-def]
    for i in numba.prange(x.size):
        out[i] = 1.4 * _gradient_noise(x[i], y[i], phase, seed)
