"""Shading as change: which parts of a relief are lighter, and which darker, than a flat one."""

from collections.abc import Sequence
from dataclasses import dataclass

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel
from mabrel.light.light import Light
from mabrel.light.table import light_table, mirrored_share, power_table, powered, towards

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


@dataclass(frozen=True)
class Relief:
    """Where a relief lies, for lights that have a place."""

    height: Array
    """(H, W) in pixels."""
    origin: tuple[float, float]
    """Of the first pixel's centre, from the layer's own."""


def relative_shading(
    normal: Array,
    lights: Sequence[Light],
    tightness: float,
    *,
    ambient: float = 0.0,
    diffuse: float = 1.0,
    relief: Relief | None = None,
) -> RelativeShading:
    """Light unit normals (H, W, 3), relative to the surface lying flat.

    λ = Σ strength · N·L runs through Schlick's bias function ("Fast alternatives to Perlin's
    bias and gain functions", 1994), set so that a flat surface under the first light, seen from
    the layer's centre, gets ½: smooth everywhere, so no crease shows between the light and the
    dark part. Towards 90° of elevation nothing can be lighter than flat and the highlights fade;
    towards 0° flat parts darken, and a light below it lights nothing. What differs from ½ is
    multiplied by `diffuse`, and what is darker divided by 1 + 2 · `ambient`. Lights with a place
    need the `relief`; without it the relief counts as flat there.
    """
    lit = np.array([light.strength for light in lights], np.float32)
    colours = np.array([light.colour for light in lights], np.float32).reshape(-1, 3)
    flat = max(float(lights[0].direction[2]), 0.0) if len(lights) else 0.0
    level = min(max(flat, _LEAST_LEVEL), _MOST_LEVEL)
    gain = level / max(flat, _LEAST_LEVEL) if flat > level else 1.0
    white = bool((colours == 1).all())
    shape = normal.shape[:2]
    relief = relief or Relief(np.zeros(shape, np.float32), (0.0, 0.0))
    tone, gloss = np.empty(shape, np.float32), np.empty(shape, np.float32)
    tint = np.empty((0, 0, 3) if white else (*shape, 3), np.float32)
    bias = np.float32((2 * level - 1) / (1 - level))
    _relative(
        normal, relief.height, np.array(relief.origin, np.float32), light_table(lights), lit,
        colours, np.float32(1 / (1 + 2 * ambient)), np.float32(diffuse), np.float32(gain), bias,
        power_table(tightness), tone, gloss, tint,
    )  # fmt: skip
    return RelativeShading(tone, gloss, None if white else tint)


@kernel(parallel=True)
def _relative(  # type: ignore[no-untyped-def]
    normal, height, origin, table, lit, colours, spared, diffuse, gain, bias, powers,
    tone, gloss, tint,
):  # fmt: skip
    directions, halfway, places, kinds, axes, edges = table
    rows, columns = normal.shape[:2]
    tinted = tint.shape[0] > 0
    one = np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            nx, ny, nz = normal[y, x, 0], normal[y, x, 1], normal[y, x, 2]
            total, shine = np.float32(0), np.float32(0)
            red, green, blue = np.float32(0), np.float32(0), np.float32(0)
            for i in range(directions.shape[0]):
                lx, ly, lz, arrives = towards(
                    i, origin[0] + np.float32(x), origin[1] + np.float32(y), height[y, x],
                    directions, places, kinds, axes, edges,
                )  # fmt: skip
                facing = nx * lx + ny * ly + nz * lz
                if facing <= 0 or lz <= 0 or lit[i] <= 0 or arrives <= 0:
                    continue
                share = facing * lit[i] * arrives
                total += share
                mirrored = mirrored_share(i, nx, ny, nz, lx, ly, lz, kinds, halfway)
                shine += lit[i] * arrives * powered(powers, mirrored)
                if tinted:
                    red += share * colours[i, 0]
                    green += share * colours[i, 1]
                    blue += share * colours[i, 2]
            light = min(total * gain, one)
            off = (light / (bias * (one - light) + one) - np.float32(0.5)) * diffuse
            if off < 0:
                off *= spared
            tone[y, x] = min(max(np.float32(0.5) + off, np.float32(0)), one)
            gloss[y, x] = shine
            if tinted:
                scale = one / max(total, np.float32(1e-6))
                tint[y, x, 0] = red * scale
                tint[y, x, 1] = green * scale
                tint[y, x, 2] = blue * scale
