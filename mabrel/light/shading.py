"""Shading of a relief by lights: diffuse and highlight."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.normals import normals

Array = NDArray[np.float32]


@dataclass(frozen=True)
class Light:
    """A distant light, evaluated: angles in degrees, straight encoded RGB, strength 1 as given."""

    azimuth: float = 225.0
    elevation: float = 45.0
    colour: tuple[float, float, float] = (1.0, 1.0, 1.0)
    strength: float = 1.0

    @property
    def direction(self) -> tuple[float, float, float]:
        """Unit vector towards the light: x right, y down, z to the viewer."""
        around, up = math.radians(self.azimuth), math.radians(self.elevation)
        return (
            math.cos(around) * math.cos(up),
            math.sin(around) * math.cos(up),
            math.sin(up),
        )


@dataclass(frozen=True)
class Material:
    """How a surface answers light: shares of ambient, diffuse and highlight, its exponent."""

    ambient: float = 0.0
    diffuse: float = 1.0
    highlight: float = 1.0
    tightness: float = 20.0


class Shading(NamedTuple):
    """Light that leaves the surface towards the viewer; (H, W, 3) each, not clamped."""

    diffuse: Array
    highlight: Array


def shade(height: Array, lights: Sequence[Light], material: Material | None = None) -> Shading:
    """Light a relief ((H, W), height in pixels), the viewer straight above it.

    Blinn and Phong's model with the terms of the SVG filter specification (Filter Effects 1,
    feDiffuseLighting and feSpecularLighting): with N the normal, L the direction to the light
    and H halfway between L and the viewer, diffuse = kd · N·L · colour and highlight =
    ks · (N·H)^tightness · colour, summed over the lights; ambient is added to diffuse. A light
    behind the surface gives neither. N comes from central differences of float heights.
    """
    return shade_normals(normals(height), lights, material or Material())


def shade_normals(normal: Array, lights: Sequence[Light], material: Material) -> Shading:
    """`shade`, from unit normals (H, W, 3)."""
    directions = np.array([light.direction for light in lights], np.float32).reshape(-1, 3)
    colours = np.array(
        [[channel * light.strength for channel in light.colour] for light in lights], np.float32
    ).reshape(-1, 3)
    diffuse = np.empty(normal.shape, np.float32)
    highlight = np.empty(normal.shape, np.float32)
    _shade(
        normal,
        directions,
        _halfway(directions),
        colours,
        np.float32(material.ambient),
        np.float32(material.diffuse),
        np.float32(material.highlight),
        np.float32(material.tightness),
        diffuse,
        highlight,
    )
    return Shading(diffuse, highlight)


def _halfway(directions: Array) -> Array:
    """Unit vectors between the lights and the viewer at (0, 0, 1)."""
    between = directions + np.array([0, 0, 1], np.float32)
    length = np.maximum(np.linalg.norm(between, axis=1, keepdims=True), 1e-6)
    return np.asarray(between / length, np.float32)


@numba.njit(cache=True, parallel=True)
def _shade(normal, directions, halfway, colours, ambient, kd, ks, tightness, diffuse, highlight):  # type: ignore[no-untyped-def]
    rows, columns = normal.shape[:2]
    for y in numba.prange(rows):
        for x in range(columns):
            nx, ny, nz = normal[y, x, 0], normal[y, x, 1], normal[y, x, 2]
            for c in range(3):
                diffuse[y, x, c] = ambient
                highlight[y, x, c] = 0
            for i in range(directions.shape[0]):
                lx, ly, lz = directions[i, 0], directions[i, 1], directions[i, 2]
                facing = nx * lx + ny * ly + nz * lz
                if facing <= 0 or lz <= 0:
                    continue
                mirrored = nx * halfway[i, 0] + ny * halfway[i, 1] + nz * halfway[i, 2]
                shine = ks * max(mirrored, np.float32(0)) ** tightness if ks > 0 else np.float32(0)
                for c in range(3):
                    diffuse[y, x, c] += kd * facing * colours[i, c]
                    highlight[y, x, c] += shine * colours[i, c]
