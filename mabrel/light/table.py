"""Lights as arrays, for the kernels that look at every pixel."""

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.light.light import Light, Vector

Array = NDArray[np.float32]
ABOVE = (0.0, 0.0, 1.0)


class LightTable(NamedTuple):
    """A row for each light."""

    directions: Array
    """(N, 3): unit vectors towards distant lights."""
    halfway: Array
    """(N, 3): unit vectors between those and the viewer."""
    places: Array
    """(N, 3): where the others stand, in pixels."""
    kinds: NDArray[np.int32]
    """(N,): 0 distant, 1 point, 2 spot."""
    axes: Array
    """(N, 3): unit vectors along which spots shine."""
    edges: Array
    """(N, 2): cosine of a spot's cone, and the exponent by which it is gathered."""
    viewer: Array
    """(3,): unit vector towards the viewer."""


def light_table(lights: Sequence[Light], viewer: Vector = ABOVE) -> LightTable:
    """Kept for the next that asks, and not to be written to: faces, sides and their mirror images
    all look at the same lights."""
    return _table_of(tuple(lights), (float(viewer[0]), float(viewer[1]), float(viewer[2])))


@lru_cache(maxsize=64)
def _table_of(lights: tuple[Light, ...], viewer: Vector) -> LightTable:
    places = [light.place or (0, 0, 0) for light in lights]
    axes = [
        np.subtract(light.aim, light.place) if light.place and light.aim else (0, 0, -1)
        for light in lights
    ]
    kinds = [0 if light.place is None else 1 if light.aim is None else 2 for light in lights]
    edges = [(math.cos(math.radians(light.cone)), light.gathered) for light in lights]
    directions = _table([light.direction for light in lights])
    seen = _unit(_table([viewer]))
    return LightTable(
        directions,
        _unit(directions + seen),
        _table(places),
        np.array(kinds, np.int32),
        _unit(_table(axes)),
        np.ascontiguousarray(np.array(edges, np.float32).reshape(-1, 2)),
        seen[0],
    )


def strengths_of(lights: Sequence[Light]) -> Array:
    """(N): none is below 0."""
    return np.array([max(light.strength, 0.0) for light in lights], np.float32)


def _unit(vectors: Array) -> Array:
    length = np.maximum(np.linalg.norm(vectors, axis=1, keepdims=True), 1e-6)
    return np.ascontiguousarray(vectors / length, dtype=np.float32)


def _table(rows: Sequence[object]) -> Array:
    return np.ascontiguousarray(np.array(rows, np.float32).reshape(-1, 3))
