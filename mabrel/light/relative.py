"""Shading as change: which parts of a relief are lighter, and which darker, than a flat one."""

from collections.abc import Sequence
from dataclasses import dataclass

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel
from mabrel.light.core import all_distant, answered, faces_as_beside, power_table
from mabrel.light.exposure import SHOULDER, exposure, tone_of
from mabrel.light.light import Light
from mabrel.light.table import ABOVE, light_table, strengths_of

Array = NDArray[np.float32]


@dataclass(frozen=True)
class RelativeShading:
    """`tone` (H, W), 0..1: ½ is a flat surface, 1 faces the light, 0 is turned away.

    `gloss` (H, W), or (H, W, 3) where lights have colours, is the mirror highlight of all lights,
    not clamped; `tint` (H, W, 3) the mean colour of what light falls there, or None where all
    lights are white.
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
    wrap: float = 0.0,
    shoulder: float = SHOULDER,
    relief: Relief | None = None,
) -> RelativeShading:
    """Light unit normals (H, W, 3), relative to the surface lying flat.

    Light adds up as `shade` has it, and its tone follows by `exposure`, so that a flat surface
    under the first light, seen from the layer's centre, gets ½: smooth everywhere, so no crease
    shows between the light and the dark part. Towards 90° of elevation nothing can be lighter
    than flat and the highlights fade; towards 0° flat parts darken, and a light below it lights
    nothing. What differs from ½ is multiplied by `diffuse`, and what is darker divided by
    1 + 2 · `ambient`; `wrap` is how far light reaches around. Lights with a place need the
    `relief`; without it the relief counts as flat there.
    """
    table, strengths = light_table(lights), strengths_of(lights)
    exposed = exposure(
        lights, table, strengths, plain=ABOVE, wrap=wrap, stands=True, shoulder=shoulder
    )
    colours = np.array([light.colour for light in lights], np.float32).reshape(-1, 3)
    white = bool((colours == 1).all())
    shape = normal.shape[:2]
    relief = relief or Relief(np.zeros(shape, np.float32), (0.0, 0.0))
    tone = np.empty(shape, np.float32)
    gloss = np.empty((*shape, 1 if white else 3), np.float32)
    tint = np.empty((0, 0, 3) if white else (*shape, 3), np.float32)
    _relative(
        normal, relief.height, np.array(relief.origin, np.float32), table, strengths, colours,
        np.float32(wrap), exposed, np.float32(1 / (1 + 2 * ambient)), np.float32(diffuse),
        power_table(tightness), tone, gloss, tint,
    )  # fmt: skip
    return RelativeShading(tone, gloss[..., 0] if white else gloss, None if white else tint)


@kernel(parallel=True)
def _relative(  # type: ignore[no-untyped-def]
    normal, height, origin, table, strengths, colours, wrap, exposed, spared, diffuse, powers,
    tone, gloss, tint,
):  # fmt: skip
    gain, bias, knee, white = exposed
    rows, columns = normal.shape[:2]
    tinted = tint.shape[0] > 0
    zero, half, one = np.float32(0), np.float32(0.5), np.float32(1)
    distant = all_distant(table[3])
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            if distant and faces_as_beside(normal, y, x):
                tone[y, x] = tone[y, x - 1]
                for c in range(gloss.shape[2]):
                    gloss[y, x, c] = gloss[y, x - 1, c]
                if tinted:
                    for c in range(3):
                        tint[y, x, c] = tint[y, x - 1, c]
                continue
            nx, ny, nz = normal[y, x, 0], normal[y, x, 1], normal[y, x, 2]
            total, shine = zero, zero
            red, green, blue = zero, zero, zero
            for c in range(gloss.shape[2]):
                gloss[y, x, c] = zero
            for i in range(strengths.shape[0]):
                if strengths[i] <= 0:
                    continue
                share, shine = answered(
                    i, nx, ny, nz, origin[0] + np.float32(x), origin[1] + np.float32(y),
                    height[y, x], table, wrap, True, True, powers,
                )  # fmt: skip
                share *= strengths[i]
                shine *= strengths[i]
                total += share
                if not tinted:
                    gloss[y, x, 0] += shine
                    continue
                red += share * colours[i, 0]
                green += share * colours[i, 1]
                blue += share * colours[i, 2]
                for c in range(gloss.shape[2]):
                    gloss[y, x, c] += shine * colours[i, c]
            off = (tone_of(total, gain, bias, knee, white) - half) * diffuse
            if off < 0:
                off *= spared
            tone[y, x] = min(max(half + off, zero), one)
            if tinted:
                scale = one / max(total, np.float32(1e-6))
                tint[y, x, 0] = red * scale
                tint[y, x, 1] = green * scale
                tint[y, x, 2] = blue * scale
