"""Sides: the lettering pushed back out of the picture plane."""

import math
from typing import Literal

import numba
import numpy as np

from mabrel.colour import from_code, over
from mabrel.field.extrusion import Sides
from mabrel.field.extrusion import extrude as traced
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.title import kinds


class Extrude(StepSettings):
    towards: Literal["direction", "point"] = kinds.choice(
        "direction", "Straight in one direction, or towards a vanishing point."
    )
    angle: float = kinds.angle(
        90, -360, 360, "Direction in which the sides run.", when={"towards": "direction"}
    )
    point: tuple[float, float] = kinds.point(
        (0, 900),
        "The vanishing point, from the lettering's centre.",
        when={"towards": "point"},
    )
    length: float = kinds.length(60, 0, 4000, "How deep the lettering is.")
    eye: float = kinds.length(
        2000,
        10,
        100_000,
        "How far away the eye is: the nearer, the sooner the sides narrow.",
        when={"towards": "point"},
    )
    colour: kinds.Colour = kinds.colour("#8a4f22", "Colour of the sides at the face.")
    fade: float = kinds.fraction(0.85, "How far it has gone over to the other colour at the end.")
    fade_colour: kinds.Colour = kinds.colour("#140a05", "Colour that it fades to.")
    lit: float = kinds.fraction(0.6, "How much the key light models the sides.")


def _vanishing(settings: Extrude, scene: Scene) -> tuple[float, float, float]:
    """The vanishing point in render pixels from the layer's centre, and how much the last copy
    has shrunk: t / (D + t) at depth t for an eye at distance D."""
    x, y = settings.point
    shrink = settings.length / (settings.eye + settings.length)
    return x * scene.scale, y * scene.scale, shrink


def _direction(settings: Extrude) -> tuple[float, float]:
    turn = math.radians(settings.angle)
    return math.cos(turn), math.sin(turn)


def _margin(settings: Extrude, scene: Scene) -> Margin:
    if settings.towards == "direction":
        x, y = _direction(settings)
        reach = settings.length * scene.scale
        return _room(x * reach, y * reach)
    x, y, shrink = _vanishing(settings, scene)
    return _room(x * shrink, y * shrink)


def _room(x: float, y: float) -> Margin:
    return Margin(
        math.ceil(max(-x, 0)) + 2,
        math.ceil(max(-y, 0)) + 2,
        math.ceil(max(x, 0)) + 2,
        math.ceil(max(y, 0)) + 2,
    )


@step(
    "depth.extrude",
    "Extrude",
    words="3d, deep, thick, sides, block letters, push out, long",
    reads=("matte", "behind"),
    writes=("behind", "body"),
    lit=True,
    margin=_margin,
)
def extrude(piece: Piece, settings: Extrude, scene: Scene) -> Piece:
    """Push the lettering back out of the picture, with sides that the key light models."""
    if settings.length * scene.scale < 0.01:
        return piece
    sides = _sides(piece, settings, scene)
    colour = _coloured(sides, piece.matte, settings, scene)
    behind = colour if piece.behind is None else over(piece.behind, colour)
    return piece.but(behind=behind, body=np.maximum(piece.solid, sides.coverage))


def _sides(piece: Piece, settings: Extrude, scene: Scene) -> Sides:
    if settings.towards == "direction":
        towards, length, shrink = _direction(settings), settings.length * scene.scale, 0.0
    else:
        x, y, shrink = _vanishing(settings, scene)
        towards = (x - piece.region.left - 0.5, y - piece.region.top - 0.5)
        length = 0.0

    def trace() -> Sides:
        return traced(
            piece.distance, towards=towards, length=length, shrink=shrink, pause=scene.pause
        )

    return piece.remembered("sides", (towards, length, shrink), trace)


def _coloured(sides: Sides, matte: Array, settings: Extrude, scene: Scene) -> Array:
    """Premultiplied colour of what the face leaves to see of the silhouette."""
    ends = np.array([from_code(settings.colour), from_code(settings.fade_colour)], np.float32)
    light, tint = np.zeros(2, np.float32), np.ones(3, np.float32)
    if scene.key is not None:
        lit = settings.lit
        light = np.array(scene.key.direction[:2], np.float32) * np.float32(lit)
        strength = 1 + lit * (min(scene.key.strength, 2) - 1)
        tint = ((1 + lit * (np.array(scene.key.colour) - 1)) * strength).astype(np.float32)
    out = np.empty((*matte.shape, 4), np.float32)
    _paint_sides(*sides, matte, ends, np.float32(settings.fade), light, tint, out)
    return out


@numba.njit(cache=True, parallel=True)
def _paint_sides(coverage, depth, normal, matte, ends, fade, light, tint, out):  # type: ignore[no-untyped-def]
    """Colours that fade along the depth, lit by how far a side is turned to the key light.

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
            share = depth[y, x] * fade
            level = one + normal[y, x, 0] * light[0] + normal[y, x, 1] * light[1]
            alpha = (ends[0, 3] + (ends[1, 3] - ends[0, 3]) * share) * shown
            for c in range(3):
                colour = ends[0, c] + (ends[1, c] - ends[0, c]) * share
                out[y, x, c] = colour * max(level, zero) * tint[c] * alpha
            out[y, x, 3] = alpha
