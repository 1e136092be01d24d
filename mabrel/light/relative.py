"""Shading as change: which parts of a relief are lighter, and which darker, than a flat one."""

from collections.abc import Sequence
from dataclasses import dataclass

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel
from mabrel.light.core import all_distant, answered, power_table
from mabrel.light.exposure import SHOULDER, exposure, tone_of
from mabrel.light.light import Light
from mabrel.light.rows import answer_row, go_on, uneven
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
        np.float32(tightness), power_table(tightness), tone, gloss, tint,
    )  # fmt: skip
    return RelativeShading(tone, gloss[..., 0] if white else gloss, None if white else tint)


@kernel(parallel=True)
def _relative(  # type: ignore[no-untyped-def]
    normal, height, origin, table, strengths, colours, wrap, exposed, spared, diffuse, tightness,
    powers, tone, gloss, tint,
):  # fmt: skip
    rows, columns = normal.shape[:2]
    tinted = tint.shape[0] > 0
    zero, one = np.float32(0), np.float32(1)
    distant = all_distant(table[3])
    for line in numba.prange(rows):
        y = np.int64(line)
        if distant:
            light = tint[y] if tinted else tint.reshape(-1, 3)
            _row(normal[y], table, strengths, colours, wrap, tightness, tone[y], gloss[y], light)
            _to_tones(exposed, spared, diffuse, tone[y])
            continue
        for x in range(columns):
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
            tone[y, x] = total
            if tinted:
                scale = one / max(total, np.float32(1e-6))
                tint[y, x, 0] = red * scale
                tint[y, x, 1] = green * scale
                tint[y, x, 2] = blue * scale
        _to_tones(exposed, spared, diffuse, tone[y])


@kernel()
def _row(normal, table, strengths, colours, wrap, tightness, total, gloss, tint):  # type: ignore[no-untyped-def]
    """A row (N) under distant lights: all that it receives, what it mirrors (N, 1 or 3), and in
    `tint` (N, 3), unless that is empty, the colour of what it receives."""
    count, tinted = uneven(normal), tint.shape[0] > 0
    shares, shines = np.empty(count, np.float32), np.empty(count, np.float32)
    total[:], gloss[:], tint[:] = 0, 0, 0
    for i in range(strengths.shape[0]):
        strength = strengths[i]
        if strength <= 0:
            continue
        answer_row(i, normal[:count], table, wrap, True, tightness, shares, shines)
        for x in range(count):
            total[x] += shares[x] * strength
        for c in range(gloss.shape[1]):
            own = strength * colours[i, c] if tinted else strength
            for x in range(count):
                gloss[x, c] += shines[x] * own
        for c in range(3 if tinted else 0):
            own = strength * colours[i, c]
            for x in range(count):
                tint[x, c] += shares[x] * own
    for c in range(3 if tinted else 0):
        for x in range(count):
            tint[x, c] /= max(total[x], np.float32(1e-6))
    total[count:] = total[0]
    go_on(gloss, count)
    if tinted:
        go_on(tint, count)


@kernel(inline="always")
def _to_tones(exposed, spared, diffuse, row):  # type: ignore[no-untyped-def]
    """From the light that a row receives to its tones, in place."""
    gain, bias, knee, white = exposed
    zero, half, one = np.float32(0), np.float32(0.5), np.float32(1)
    for x in range(row.shape[0]):
        off = (tone_of(row[x], gain, bias, knee, white) - half) * diffuse
        off = off * spared if off < zero else off
        row[x] = min(max(half + off, zero), one)
