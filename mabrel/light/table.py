"""Lights as arrays, for the kernels that look at every pixel."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel
from mabrel.light.light import Light

Array = NDArray[np.float32]


class LightTable(NamedTuple):
    """A row for each light."""

    directions: Array
    """(N, 3): unit vectors towards distant lights."""
    halfway: Array
    """(N, 3): unit vectors between those and the viewer at (0, 0, 1)."""
    places: Array
    """(N, 3): where the others stand, in pixels."""
    kinds: NDArray[np.int32]
    """(N,): 0 distant, 1 point, 2 spot."""
    axes: Array
    """(N, 3): unit vectors along which spots shine."""
    edges: Array
    """(N, 2): cosine of a spot's cone, and the exponent by which it is gathered."""


def light_table(lights: Sequence[Light]) -> LightTable:
    places = [light.place or (0, 0, 0) for light in lights]
    axes = [
        np.subtract(light.aim, light.place) if light.place and light.aim else (0, 0, -1)
        for light in lights
    ]
    kinds = [0 if light.place is None else 1 if light.aim is None else 2 for light in lights]
    edges = [(math.cos(math.radians(light.cone)), light.gathered) for light in lights]
    directions = _table([light.direction for light in lights])
    return LightTable(
        directions,
        _unit(directions + np.array([0, 0, 1], np.float32)),
        _table(places),
        np.array(kinds, np.int32),
        _unit(_table(axes)),
        np.ascontiguousarray(np.array(edges, np.float32).reshape(-1, 2)),
    )


def _unit(vectors: Array) -> Array:
    length = np.maximum(np.linalg.norm(vectors, axis=1, keepdims=True), 1e-6)
    return np.ascontiguousarray(vectors / length, dtype=np.float32)


def _table(rows: Sequence[object]) -> Array:
    return np.ascontiguousarray(np.array(rows, np.float32).reshape(-1, 3))


@kernel(inline="always")
def towards(i, x, y, z, directions, places, kinds, axes, edges):  # type: ignore[no-untyped-def]
    """Unit vector from a place on the relief to light `i`, and the share that arrives there.

    Filter Effects 1, light sources: a spot's light is (−L·S)^specularExponent inside its cone
    and nothing outside; the edge is softened over a degree or so, as it allows.
    """
    if kinds[i] == 0:
        return directions[i, 0], directions[i, 1], directions[i, 2], np.float32(1)
    dx, dy, dz = places[i, 0] - x, places[i, 1] - y, places[i, 2] - z
    scale = np.float32(1) / np.sqrt(max(dx * dx + dy * dy + dz * dz, np.float32(1e-6)))
    dx, dy, dz = dx * scale, dy * scale, dz * scale
    if kinds[i] == 1:
        return dx, dy, dz, np.float32(1)
    along = -(dx * axes[i, 0] + dy * axes[i, 1] + dz * axes[i, 2])
    inside = (along - edges[i, 0]) / np.float32(0.016) + np.float32(0.5)
    if inside <= 0 or along <= 0:
        return dx, dy, dz, np.float32(0)
    return dx, dy, dz, min(inside, np.float32(1)) * along ** edges[i, 1]


@kernel(inline="always")
def mirrored_share(i, nx, ny, nz, lx, ly, lz, kinds, halfway):  # type: ignore[no-untyped-def]
    """N·H, with H halfway between the light and the viewer."""
    if kinds[i] == 0:
        return nx * halfway[i, 0] + ny * halfway[i, 1] + nz * halfway[i, 2]
    up = lz + np.float32(1)
    length = np.sqrt(lx * lx + ly * ly + up * up)
    return (nx * lx + ny * ly + nz * up) / max(length, np.float32(1e-6))


_POWERS = 16_384


def power_table(exponent: float) -> NDArray[np.float32]:
    """Powers of even places from 0 to 1, for `powered`: within 0.0005 up to an exponent of 1000."""
    places = np.append(np.arange(_POWERS + 1) / _POWERS, 1.0)
    return np.asarray(places**exponent, np.float32)


@kernel(inline="always")
def powered(table, value):  # type: ignore[no-untyped-def]
    """A value of 0..1 to the power that the table was made for."""
    place = min(max(value, np.float32(0)), np.float32(1)) * np.float32(len(table) - 2)
    low = int(place)
    return table[low] + (table[low + 1] - table[low]) * (place - np.float32(low))
