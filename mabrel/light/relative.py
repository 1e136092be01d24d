"""Shading as change: which parts of a relief are lighter, and which darker, than a flat one."""

from collections.abc import Sequence
from dataclasses import dataclass

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.light.shading import Light

Array = NDArray[np.float32]
_LEAST_LEVEL, _MOST_LEVEL = 0.1, 0.9


@dataclass(frozen=True)
class RelativeShading:
    """`tone` (H, W), 0..1: ½ is a flat surface, 1 faces the light, 0 is turned away.

    `gloss` (H, W) is the mirror highlight of all lights, not clamped; `tint` (H, W, 3) the
    mean colour of what light falls there, or None where all lights are white.
    """

    tone: Array
    gloss: Array
    tint: Array | None


def relative_shading(normal: Array, lights: Sequence[Light], tightness: float) -> RelativeShading:
    """Light unit normals (H, W, 3) by distant lights, relative to the surface lying flat.

    The cosine λ = Σ strength · N·L runs through Schlick's bias function ("Fast alternatives to
    Perlin's bias and gain functions", 1994), set so that a flat surface under the first light
    gets ½: smooth everywhere, so no crease shows between the light and the dark part. Towards
    90° of elevation nothing can be lighter than flat and the highlights fade; towards 0° flat
    parts darken, and a light below it lights nothing.
    """
    directions = np.array([light.direction for light in lights], np.float32).reshape(-1, 3)
    directions = np.ascontiguousarray(directions)
    lit = np.array([light.strength for light in lights], np.float32)
    lit[directions[:, 2] <= 0] = 0
    colours = np.array([light.colour for light in lights], np.float32).reshape(-1, 3)
    flat = float(directions[0, 2]) if len(lights) else 0.0
    level = min(max(flat, _LEAST_LEVEL), _MOST_LEVEL)
    gain = level / max(flat, _LEAST_LEVEL) if flat > level else 1.0
    white = bool((colours == 1).all())
    between = directions + np.array([0, 0, 1], np.float32)
    between /= np.maximum(np.linalg.norm(between, axis=1, keepdims=True), 1e-6)
    shape = normal.shape[:2]
    tone, gloss = np.empty(shape, np.float32), np.empty(shape, np.float32)
    tint = np.empty((0, 0, 3) if white else (*shape, 3), np.float32)
    bias = np.float32((2 * level - 1) / (1 - level))
    _relative(
        normal, directions, between, lit, colours, np.float32(gain), bias, np.float32(tightness),
        tone, gloss, tint,
    )  # fmt: skip
    return RelativeShading(tone, gloss, None if white else tint)


@numba.njit(cache=True, parallel=True)
def _relative(normal, directions, halfway, lit, colours, gain, bias, tightness, tone, gloss, tint):  # type: ignore[no-untyped-def]
    rows, columns = normal.shape[:2]
    tinted = tint.shape[0] > 0
    for y in numba.prange(rows):
        for x in range(columns):
            nx, ny, nz = normal[y, x, 0], normal[y, x, 1], normal[y, x, 2]
            total, shine = np.float32(0), np.float32(0)
            red, green, blue = np.float32(0), np.float32(0), np.float32(0)
            for i in range(directions.shape[0]):
                facing = nx * directions[i, 0] + ny * directions[i, 1] + nz * directions[i, 2]
                if facing <= 0 or lit[i] <= 0:
                    continue
                share = facing * lit[i]
                total += share
                mirrored = nx * halfway[i, 0] + ny * halfway[i, 1] + nz * halfway[i, 2]
                shine += lit[i] * max(mirrored, np.float32(0)) ** tightness
                if tinted:
                    red += share * colours[i, 0]
                    green += share * colours[i, 1]
                    blue += share * colours[i, 2]
            light = min(total * gain, np.float32(1))
            tone[y, x] = light / (bias * (np.float32(1) - light) + np.float32(1))
            gloss[y, x] = shine
            if tinted:
                scale = np.float32(1) / max(total, np.float32(1e-6))
                tint[y, x, 0] = red * scale
                tint[y, x, 1] = green * scale
                tint[y, x, 2] = blue * scale
