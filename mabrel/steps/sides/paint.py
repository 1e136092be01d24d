"""Colour for the sides of an extrusion: by depth, by facing, textured, lit."""

import math
from typing import NamedTuple

import numba
import numpy as np
from scipy.spatial import cKDTree

from mabrel.colour import from_code
from mabrel.colour.gradients import ColourStop, gradient_table
from mabrel.field.contours import contours
from mabrel.field.extrusion import Sides
from mabrel.kernels import kernel
from mabrel.light import Light
from mabrel.steps.extent import Lines
from mabrel.steps.piece import Array, Piece

FACINGS, DEPTHS = 360, 64
_SHARPNESS = 4.0  # degrees over which one facing's paint goes over into the next


class Lit(NamedTuple):
    """How the rig models sides: `share` of it, and highlights as strong as `gloss`, seen by a
    `viewer` at that place in the card's axes."""

    lights: tuple[Light, ...]
    share: float
    gloss: float
    viewer: tuple[float, float, float] | None


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


def painted(
    sides: Sides, matte: Array, paint: Array, slope: Array, lit: Lit, texture: Array | None
) -> Array:
    """Premultiplied colour (H, W, 4) of what the face leaves to see of the silhouette.

    `paint` (FACINGS, DEPTHS, 4) is straight; `slope` (N) is how much the outline grows with the
    depth, pixel for pixel, at even depths; `texture` (H, W, 4) is laid over, straight, its alpha
    the share of it.
    """
    directions = np.array([light.direction for light in lit.lights], np.float32).reshape(-1, 3)
    colours = np.array(
        [[channel * min(light.strength, 2) for channel in light.colour] for light in lit.lights],
        np.float32,
    ).reshape(-1, 3)
    out = np.empty((*matte.shape, 4), np.float32)
    seen = np.zeros(3) if lit.viewer is None else np.array(lit.viewer)
    halfway = directions + seen / max(float(np.linalg.norm(seen)), 1e-9)
    halfway = halfway / np.maximum(np.linalg.norm(halfway, axis=1, keepdims=True), 1e-6)
    over = np.zeros((0, 0, 4), np.float32) if texture is None else texture
    _paint(
        *sides, matte, np.ascontiguousarray(paint, np.float32), slope.astype(np.float32),
        directions, halfway.astype(np.float32), colours,
        np.float32(lit.share), np.float32(lit.gloss), over, out,
    )  # fmt: skip
    return out


@kernel(parallel=True)
def _paint(  # type: ignore[no-untyped-def]
    coverage,
    depth,
    normal,
    matte,
    paint,
    slope,
    directions,
    halfway,
    colours,
    share,
    gloss,
    texture,
    out,
):
    """The first light models signed, darkening what is turned away; others only add.

    Under a face that covers f of a pixel, sides that cover s = (u − f) / (1 − f) of the rest
    make up the silhouette's own coverage u: no seam at the lower edge, no rim at the upper one.
    """
    rows, columns = matte.shape
    zero, one = np.float32(0), np.float32(1)
    for y in numba.prange(rows):
        for x in range(columns):
            f = matte[y, x]
            shown = one
            if f < np.float32(0.998):
                shown = min(max((coverage[y, x] - f) / (one - f), zero), one)
            if shown <= 0:
                out[y, x, 0] = out[y, x, 1] = out[y, x, 2] = out[y, x, 3] = 0
                continue
            nx, ny = normal[y, x, 0], normal[y, x, 1]
            red, green, blue, alpha = _looked_up(paint, nx, ny, depth[y, x])
            if texture.shape[0] > 0:
                laid = texture[y, x, 3]
                red += (texture[y, x, 0] - red) * laid
                green += (texture[y, x, 1] - green) * laid
                blue += (texture[y, x, 2] - blue) * laid
            lean = slope[min(int(depth[y, x] * len(slope)), len(slope) - 1)]
            size = one / np.sqrt(nx * nx + ny * ny + lean * lean + np.float32(1e-12))
            nx, ny, nz = nx * size, ny * size, lean * size
            a, b, c = one, one, one
            shine = zero
            for i in range(directions.shape[0]):
                facing = nx * directions[i, 0] + ny * directions[i, 1] + nz * directions[i, 2]
                if i == 0:
                    level = one + share * facing
                    a = level * (one + share * (colours[0, 0] - one))
                    b = level * (one + share * (colours[0, 1] - one))
                    c = level * (one + share * (colours[0, 2] - one))
                elif facing > 0:
                    a += share * facing * colours[i, 0]
                    b += share * facing * colours[i, 1]
                    c += share * facing * colours[i, 2]
                if gloss > 0:
                    mirrored = nx * halfway[i, 0] + ny * halfway[i, 1] + nz * halfway[i, 2]
                    shine += gloss * colours[i, 1] * max(mirrored, zero) ** 24
            alpha *= shown
            out[y, x, 0] = (red * max(a, zero) + shine) * alpha
            out[y, x, 1] = (green * max(b, zero) + shine) * alpha
            out[y, x, 2] = (blue * max(c, zero) + shine) * alpha
            out[y, x, 3] = alpha


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


def run_along(piece: Piece, places: Lines) -> tuple[Array, float]:
    """How far along its outline each place (N, 2: x, y from the layer's centre) lies, in pixels,
    and how long all outlines are together."""
    lines = piece.outline
    if lines is None:
        lines = contours(piece.matte) + np.array([piece.region.left, piece.region.top] * 2)
    if not len(lines):
        return np.zeros(len(places), np.float32), 1.0
    way = lines[:, 2:] - lines[:, :2]
    lengths = np.maximum(np.hypot(way[:, 0], way[:, 1]), 1e-9)
    starts = np.concatenate([[0.0], np.cumsum(lengths)])
    marks = np.arange(0.5, starts[-1])
    line = np.searchsorted(starts, marks, side="right") - 1
    unit = way[line] / lengths[line, None]
    points = lines[line, :2] + unit * (marks - starts[line])[:, None]
    _, nearest = cKDTree(points).query(places, workers=-1)
    beyond = ((places - points[nearest]) * unit[nearest]).sum(axis=1)
    return np.asarray(marks[nearest] + np.clip(beyond, -1, 1), np.float32), float(starts[-1])
