"""Colour for the sides of an extrusion: by depth, by facing, textured, lit."""

import math
from typing import NamedTuple

import numba
import numpy as np

from mabrel.colour import from_code
from mabrel.colour.gradients import ColourStop, gradient_table
from mabrel.kernels import kernel
from mabrel.light import Light
from mabrel.light.core import answered, between, power_table, with_end
from mabrel.light.exposure import exposure, tone_of
from mabrel.light.table import light_table, strengths_of
from mabrel.steps.piece import Array

FACINGS, DEPTHS = 360, 64
_EDGE_ON = (0.0, 0.0, 0.0)
_SHARPNESS = 4.0  # degrees over which one facing's paint goes over into the next


class Lit(NamedTuple):
    """How the rig models sides, seen by a `viewer` at that place in the card's axes."""

    lights: tuple[Light, ...]
    share: float
    """How much of its tones they show."""
    wrap: float
    shoulder: float
    response: Array
    """From how much light falls there to how light it looks, a table."""
    gloss: float
    tightness: float
    metal: float
    viewer: tuple[float, float, float]


def fading(near: Array, far: Array, fade: float) -> Array:
    """Paint (FACINGS, DEPTHS, 4) that goes from `near` (FACINGS, 4), straight, towards `far` (4)
    as far as `fade`."""
    share = np.linspace(0, fade, DEPTHS, dtype=np.float32)[None, :, None]
    return np.asarray(near[:, None] * (1 - share) + far * share, np.float32)


def one_colour(code: str) -> Array:
    return np.tile(np.array(from_code(code), np.float32), (FACINGS, 1))


def by_side(right: str, down: str, left: str, up: str) -> Array:
    """Four colours by the way that a side faces, (FACINGS, 4)."""
    angles = np.arange(FACINGS) * (360 / FACINGS)
    total = np.zeros((FACINGS, 4))
    for quarter, code in enumerate((right, down, left, up)):
        apart = np.abs((angles - 90 * quarter + 180) % 360 - 180)
        share = np.clip((45 + _SHARPNESS - apart) / (2 * _SHARPNESS), 0, 1)
        total += share[:, None] * np.array(from_code(code))
    return np.asarray(total, np.float32)


def around(stops: list[ColourStop]) -> Array:
    """Stops once around, from the right over below, (FACINGS, 4)."""
    table = gradient_table(stops)
    return np.asarray(table[np.linspace(0, len(table) - 1, FACINGS).astype(int)], np.float32)


def along(stops: list[ColourStop]) -> Array:
    """Stops from the face to the far end, (FACINGS, DEPTHS, 4)."""
    table = gradient_table(stops)
    places = np.linspace(0, len(table) - 1, DEPTHS).astype(int)
    return np.ascontiguousarray(np.tile(table[places], (FACINGS, 1, 1)))


class Facing(NamedTuple):
    """Where places on sides are, and which way they face."""

    depth: Array
    """(N): 0 at the face to 1 at the far end."""
    normal: Array
    """(N, 2): the outline's outward unit normal; 0 where a place faces straight back."""
    place: Array
    """(N, 3): in the card's axes."""


def lit_up(colour: Array, facing: Facing, slope: Array, lit: Lit) -> None:
    """Multiply colours (N, 4) of sides by the light that falls there, and add what they mirror,
    in place.

    `slope` (N) is how much the outline grows with the depth, pixel for pixel, at even depths. Sides
    answer the lights as faces do
    (`mabrel.light.core`): what the first light meets edge on keeps its colour.
    """
    table, strengths = light_table(lit.lights, lit.viewer), strengths_of(lit.lights)
    exposed = exposure(
        lit.lights, table, strengths, plain=_EDGE_ON, wrap=lit.wrap, stands=False,
        shoulder=lit.shoulder,
    )  # fmt: skip
    tints = np.array([light.colour for light in lit.lights], np.float32).reshape(-1, 3)
    _light(
        colour, *facing, slope.astype(np.float32), table, strengths, tints,
        np.float32(lit.wrap), exposed, with_end(lit.response), np.float32(lit.share),
        np.float32(lit.gloss), np.float32(lit.metal), power_table(lit.tightness),
    )  # fmt: skip


@kernel(parallel=True)
def _light(  # type: ignore[no-untyped-def]
    colour, depth, normal, places, slope, table, strengths, tints, wrap, exposed,
    response, share, gloss, metal, powers,
):  # fmt: skip
    gain, bias, knee, white = exposed
    zero, one, two = np.float32(0), np.float32(1), np.float32(2)
    for index in numba.prange(depth.shape[0]):
        n = np.int64(index)
        alpha = colour[n, 3]
        if alpha > zero:
            deep = depth[n]
            nx, ny = normal[n, 0], normal[n, 1]
            lean = slope[min(int(deep * len(slope)), len(slope) - 1)]
            size = one / np.sqrt(nx * nx + ny * ny + lean * lean + np.float32(1e-12))
            nx, ny, nz = nx * size, ny * size, lean * size
            u, v, w = places[n, 0], places[n, 1], places[n, 2]
            total, red, green, blue = zero, zero, zero, zero
            shine_r, shine_g, shine_b = zero, zero, zero
            for i in range(strengths.shape[0]):
                falls, shine = answered(
                    i, nx, ny, nz, u, v, w, table, wrap, False, gloss > 0, powers
                )
                falls *= strengths[i]
                shine *= strengths[i] * gloss
                total += falls
                red += falls * tints[i, 0]
                green += falls * tints[i, 1]
                blue += falls * tints[i, 2]
                shine_r += shine * tints[i, 0]
                shine_g += shine * tints[i, 1]
                shine_b += shine * tints[i, 2]
            tone = between(response, tone_of(total, gain, bias, knee, white))
            level = max(one + share * (two * tone - one), zero)
            scale = one / max(total, np.float32(1e-6))
            own = max(colour[n, 0], colour[n, 1], colour[n, 2], np.float32(1e-4))
            for c in range(3):
                tint = red if c == 0 else green if c == 1 else blue
                shine = shine_r if c == 0 else shine_g if c == 1 else shine_b
                hue = one + (colour[n, c] / own - one) * metal
                tinted = one + share * (tint * scale - one) if total > 0 else one
                colour[n, c] = colour[n, c] * level * tinted + shine * hue * alpha


def looked_up(paint: Array, normal: Array, depth: Array) -> Array:
    """Straight colours (N, 4) of sides that face (N, 2) and are so deep (N)."""
    out = np.empty((len(depth), 4), np.float32)
    _look_up(np.ascontiguousarray(paint, np.float32), normal, depth, out)
    return out


@kernel(parallel=True)
def _look_up(paint, normal, depth, out):  # type: ignore[no-untyped-def]
    for index in numba.prange(depth.shape[0]):
        i = np.int64(index)
        out[i, 0], out[i, 1], out[i, 2], out[i, 3] = _looked_up(
            paint, normal[i, 0], normal[i, 1], depth[i]
        )


@kernel(inline="always")
def _looked_up(paint, nx, ny, depth):  # type: ignore[no-untyped-def]
    """Between the nearest facings and depths."""
    facings, depths = paint.shape[:2]
    place = _turn(nx, ny) * np.float32(facings)
    i = min(int(place), facings - 1)
    u = place - np.float32(i)
    k = i + 1 if i + 1 < facings else 0
    deep = min(max(depth, np.float32(0)), np.float32(1)) * np.float32(depths - 1)
    j = min(int(deep), depths - 2)
    v = deep - np.float32(j)
    one = np.float32(1)
    p, q, r, s = (one - u) * (one - v), u * (one - v), (one - u) * v, u * v
    return (
        p * paint[i, j, 0] + q * paint[k, j, 0] + r * paint[i, j + 1, 0] + s * paint[k, j + 1, 0],
        p * paint[i, j, 1] + q * paint[k, j, 1] + r * paint[i, j + 1, 1] + s * paint[k, j + 1, 1],
        p * paint[i, j, 2] + q * paint[k, j, 2] + r * paint[i, j + 1, 2] + s * paint[k, j + 1, 2],
        p * paint[i, j, 3] + q * paint[k, j, 3] + r * paint[i, j + 1, 3] + s * paint[k, j + 1, 3],
    )


@kernel(inline="always")
def _turn(x, y):  # type: ignore[no-untyped-def]
    """The direction of (x, y) as a share of a whole turn, from the right over below, within a
    thousandth of a degree: the arc tangent by a polynomial (Abramowitz and Stegun 1964, 4.4.49)."""
    across, down = abs(x), abs(y)
    a = min(across, down) / max(max(across, down), np.float32(1e-20))
    s = a * a
    p = np.float32(-0.0161657367) + np.float32(0.0028662257) * s
    p = np.float32(-0.0752896400) + (np.float32(0.0429096138) + p * s) * s
    p = np.float32(-0.1420889944) + (np.float32(0.1065626393) + p * s) * s
    p = np.float32(-0.3333314528) + (np.float32(0.1999355085) + p * s) * s
    turn = (a + a * s * p) * np.float32(0.5 / math.pi)
    turn = np.float32(0.25) - turn if down > across else turn
    turn = np.float32(0.5) - turn if x < np.float32(0) else turn
    return np.float32(1) - turn if y < np.float32(0) else turn
