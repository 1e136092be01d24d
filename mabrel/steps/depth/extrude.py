"""Sides: the lettering pushed back out of the picture plane."""

import math
from typing import Literal

import numpy as np

from mabrel.colour import over, rgb_and_alpha
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
    colour: kinds.Colour = kinds.colour("#8a4f22", "Colour of the sides at the face.")
    fade: float = kinds.fraction(0.85, "How far it has gone over to the other colour at the end.")
    fade_colour: kinds.Colour = kinds.colour("#140a05", "Colour that it fades to.")
    lit: float = kinds.fraction(0.6, "How much the key light models the sides.")


def _vanishing(settings: Extrude, scene: Scene) -> tuple[float, float, float]:
    """The vanishing point in render pixels from the layer's centre, and how much the last copy
    has shrunk: t / (D + t) at depth t for a viewer at distance D."""
    depth = settings.length * scene.scale
    x, y = settings.point
    return x * scene.scale, y * scene.scale, depth / (scene.viewer + depth)


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
        return traced(
            piece.distance,
            towards=_direction(settings),
            length=settings.length * scene.scale,
            pause=scene.pause,
        )
    x, y, shrink = _vanishing(settings, scene)
    at = (x - piece.region.left - 0.5, y - piece.region.top - 0.5)
    return traced(piece.distance, towards=at, shrink=shrink, pause=scene.pause)


def _coloured(sides: Sides, matte: Array, settings: Extrude, scene: Scene) -> Array:
    """Premultiplied colour of what the face leaves to see of the silhouette.

    Under a face that covers f of a pixel, sides that cover s = (u − f) / (1 − f) of the rest
    make up the silhouette's own coverage u: no seam at the lower edge, no rim at the upper one.
    """
    (near, near_alpha), (far, far_alpha) = map(
        rgb_and_alpha, (settings.colour, settings.fade_colour)
    )
    fade = (sides.depth * np.float32(settings.fade))[..., None]
    ends = np.array([[*near, near_alpha], [*far, far_alpha]], np.float32)
    colour = ends[0] + (ends[1] - ends[0]) * fade
    colour[..., :3] *= _light(sides, settings, scene)
    rest = np.maximum(1 - matte, np.float32(1 / 512))
    shown = np.where(matte > 0.998, 1, np.clip((sides.coverage - matte) / rest, 0, 1))
    colour[..., 3] *= shown
    colour[..., :3] *= colour[..., 3:]
    return np.asarray(colour, np.float32)


def _light(sides: Sides, settings: Extrude, scene: Scene) -> Array:
    """(H, W, 3): 1 on a side edge-on to the key light, more or less where it is turned."""
    if scene.key is None or settings.lit == 0:
        return np.ones((1, 1, 3), np.float32)
    x, y, _ = scene.key.direction
    facing = sides.normal[..., 0] * np.float32(x) + sides.normal[..., 1] * np.float32(y)
    tint = 1 + np.float32(settings.lit) * (np.array(scene.key.colour, np.float32) - 1)
    strength = 1 + settings.lit * (min(scene.key.strength, 2) - 1)
    level = np.clip(1 + np.float32(settings.lit) * facing, 0, 2) * np.float32(strength)
    return np.asarray(level[..., None] * tint, np.float32)
