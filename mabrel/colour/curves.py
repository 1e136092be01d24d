"""Tone curves: monotone cubics through points."""

from collections.abc import Sequence
from functools import lru_cache

import numba
import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

from mabrel.kernels import kernel

_ENTRIES = 4096


def curve_table(
    points: Sequence[tuple[float, float]], entries: int = _ENTRIES
) -> NDArray[np.float32]:
    """The curve at `entries` even inputs from 0 to 1.

    A piecewise cubic that never overshoots between its points (Fritsch and Carlson 1980, with
    the slopes of Fritsch and Butland 1984); level before the first point and after the last.
    Raises ValueError for fewer than two points or inputs that don't rise.
    """
    return _table(tuple((float(x), float(y)) for x, y in points), entries).copy()


@lru_cache(maxsize=64)
def _table(points: tuple[tuple[float, float], ...], entries: int) -> NDArray[np.float32]:
    if len(points) < 2:
        raise ValueError("a curve needs at least two points")
    inputs, outputs = (np.array(axis, np.float64) for axis in zip(*points, strict=True))
    if (np.diff(inputs) <= 0).any():
        raise ValueError("the inputs of a curve must rise")
    places = np.clip(np.linspace(0, 1, entries), inputs[0], inputs[-1])
    return np.asarray(PchipInterpolator(inputs, outputs)(places), np.float32)


def apply_table(values: NDArray[np.float32], table: NDArray[np.float32]) -> NDArray[np.float32]:
    """Look `values` (0..1, clamped) up in a table, linear between its entries."""
    values = np.ascontiguousarray(values, np.float32)
    out = np.empty(values.shape, np.float32)
    _look_up(values.ravel(), np.ascontiguousarray(table, np.float32), out.ravel())
    return out


@kernel(parallel=True)
def _look_up(values, table, out):  # type: ignore[no-untyped-def]
    last = len(table) - 1
    for number in numba.prange(len(values)):
        i = np.int64(number)
        place = min(max(values[i], np.float32(0)), np.float32(1)) * np.float32(last)
        low = min(int(place), last)
        high = min(low + 1, last)
        out[i] = table[low] + (table[high] - table[low]) * (place - np.float32(low))
