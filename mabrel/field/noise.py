"""Noise that depends on the place alone, not on the order or the size of the array."""

import numba
import numpy as np
from numpy.typing import NDArray


def value_noise(
    shape: tuple[int, int], origin: tuple[float, float], size: float, seed: int
) -> NDArray[np.float32]:
    """Smooth noise (H, W) with mean 0 and deviation 1, made of grains `size` pixels wide.

    `origin` is the place (x, y) of the array's first pixel in the noise's plane: two regions of
    one plane agree where they overlap. Cubic B-spline of a lattice of normal variates, scaled
    back to unit deviation at each place.
    """
    if not size > 0:
        raise ValueError(f"size must be more than 0, not {size}")
    out = np.empty(shape, np.float32)
    _fill(out, float(origin[0]), float(origin[1]), 1.0 / float(size), np.uint32(seed))
    return out


@numba.njit(cache=True, inline="always")
def hashed(x, y, seed):  # type: ignore[no-untyped-def]
    """A random 32-bit number for each place: the integer hash of Wellons (2018), twice."""
    h = np.uint32(x) * np.uint32(0x9E3779B1) ^ seed * np.uint32(0x85EBCA6B)
    for _ in range(2):
        h ^= h >> np.uint32(16)
        h *= np.uint32(0x7FEB352D)
        h ^= h >> np.uint32(15)
        h *= np.uint32(0x846CA68B)
        h ^= h >> np.uint32(16)
        h += np.uint32(y) * np.uint32(0xC2B2AE35)
    h ^= h >> np.uint32(16)
    h *= np.uint32(0x7FEB352D)
    return np.uint32(h ^ (h >> np.uint32(15)))


@numba.njit(cache=True, inline="always")
def _variate(x, y, seed):  # type: ignore[no-untyped-def]
    """Nearly normal: the sum of four uniform bytes, with mean 0 and deviation 1."""
    h = hashed(x, y, seed)
    total = (h & np.uint32(255)) + ((h >> np.uint32(8)) & np.uint32(255))
    total += ((h >> np.uint32(16)) & np.uint32(255)) + (h >> np.uint32(24))
    return np.float32((np.float32(total) - np.float32(510)) / np.float32(147.8))


@numba.njit(cache=True, inline="always")
def _weights(t):  # type: ignore[no-untyped-def]
    s = 1 - t
    return (
        s * s * s / 6,
        (3 * t * t * t - 6 * t * t + 4) / 6,
        (3 * s * s * s - 6 * s * s + 4) / 6,
        t * t * t / 6,
    )


@numba.njit(cache=True, parallel=True)
def _fill(out, left, top, scale, seed):  # type: ignore[no-untyped-def]
    rows, columns = out.shape
    for line in numba.prange(rows):
        v = (top + np.int64(line)) * scale
        row = np.int64(np.floor(v))
        wy = _weights(v - row)
        for x in range(columns):
            u = (left + x) * scale
            column = np.int64(np.floor(u))
            wx = _weights(u - column)
            total, power = 0.0, 0.0
            for j in range(4):
                for i in range(4):
                    weight = wx[i] * wy[j]
                    total += weight * _variate(column + i - 1, row + j - 1, seed)
                    power += weight * weight
            out[line, x] = total / np.sqrt(power)
