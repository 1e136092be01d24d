"""Noise that depends on the place alone, not on the order or the size of the array."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel


def value_noise(
    shape: tuple[int, int], origin: tuple[float, float], size: float, seed: int
) -> NDArray[np.float32]:
    """Smooth noise with mean 0 and deviation 1, made of grains of one size.

    A cubic B-spline of a lattice of normal variates, scaled back to unit deviation at each place.

    Parameters
    ----------
    shape : (int, int)
        Rows and columns.
    origin : (float, float)
        The place (x, y) of the first pixel in the noise's plane: two regions of one plane agree
        where they overlap.
    size : float
        How many pixels wide a grain is.
    seed : int
        Another draw.

    Returns
    -------
    `shape` float32

    Raises
    ------
    ValueError
        Where the size is not more than 0.

    Examples
    --------
    >>> whole = value_noise((40, 40), (0, 0), 3.0, 1)
    >>> part = value_noise((10, 10), (20, 5), 3.0, 1)
    >>> bool(abs(whole[5:15, 20:30] - part).max() < 1e-5)
    True
    """
    if not size > 0:
        raise ValueError(f"size must be more than 0, not {size}")
    left, top = (np.floor(axis / size) for axis in origin)
    columns = int(np.floor((origin[0] + shape[1] - 1) / size) - left) + 4
    rows = int(np.floor((origin[1] + shape[0] - 1) / size) - top) + 4
    lattice = np.empty((rows, columns), np.float32)
    _draw(lattice, int(left) - 1, int(top) - 1, np.uint32(seed))
    out = np.empty(shape, np.float32)
    across = _weights(shape[1], origin[0], left, size)
    down = _weights(shape[0], origin[1], top, size)
    _interpolate(lattice, *across, *down, out)
    return out


def _weights(
    count: int, start: float, first: float, size: float
) -> tuple[NDArray[np.int32], NDArray[np.float32]]:
    """For each pixel of an axis: its first knot, and four cubic B-spline weights.

    The weights are scaled so that the sum of their squares is 1: unit deviation everywhere.
    """
    place = (start + np.arange(count)) / size
    knot = np.floor(place)
    t = place - knot
    s = 1 - t
    middle, after = 3 * t**3 - 6 * t**2 + 4, 3 * s**3 - 6 * s**2 + 4
    weights = np.stack([s**3, middle, after, t**3], axis=1)
    weights /= np.sqrt((weights**2).sum(axis=1, keepdims=True))
    return (knot - first).astype(np.int32), weights.astype(np.float32)


@kernel(inline="always")
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


@kernel(inline="always")
def _variate(x, y, seed):  # type: ignore[no-untyped-def]
    """Nearly normal: the sum of four uniform bytes, with mean 0 and deviation 1."""
    h = hashed(x, y, seed)
    total = (h & np.uint32(255)) + ((h >> np.uint32(8)) & np.uint32(255))
    total += ((h >> np.uint32(16)) & np.uint32(255)) + (h >> np.uint32(24))
    return np.float32((np.float32(total) - np.float32(510)) / np.float32(147.8))


@kernel(parallel=True)
def _draw(lattice, left, top, seed):  # type: ignore[no-untyped-def]
    rows, columns = lattice.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            lattice[y, x] = _variate(left + x, top + y, seed)


@kernel(parallel=True)
def _interpolate(lattice, knots_x, weights_x, knots_y, weights_y, out):  # type: ignore[no-untyped-def]
    rows, columns = out.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        row = knots_y[y]
        blended = np.empty(lattice.shape[1], np.float32)
        for column in range(lattice.shape[1]):
            total = np.float32(0)
            for j in range(4):
                total += weights_y[y, j] * lattice[row + j, column]
            blended[column] = total
        for x in range(columns):
            column = knots_x[x]
            total = np.float32(0)
            for i in range(4):
                total += weights_x[x, i] * blended[column + i]
            out[y, x] = total
