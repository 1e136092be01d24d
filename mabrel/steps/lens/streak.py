"""A blurred copy drawn out one way and laid over."""

import math
from typing import Literal

import numpy as np

from mabrel.field.streaks import streaked, zoomed
from mabrel.steps.extent import Extent
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import bright_light, linear_colour, with_light
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_TAIL = 0.28  # share of its length at which it has fallen to 1/e


class Streak(StepSettings):
    towards: Literal["direction", "point"] = kinds.choice(
        "direction", "Drawn out in one direction, or in rays away from a point."
    )
    angle: float = kinds.angle(
        0, -360, 360, "The direction.", when={"towards": "direction"}, grip="turn"
    )
    sides: Literal["both", "one"] = kinds.choice(
        "both", "To both sides, or only in that direction.", when={"towards": "direction"}
    )
    length: float = kinds.length(
        260, 0, 4000, "How far it is drawn out.", when={"towards": "direction"}, grip="tip"
    )
    point: tuple[float, float] = kinds.point(
        (0, 0), "Where the rays come from, from the lettering's centre.", when={"towards": "point"}
    )
    rays: float = kinds.fraction(
        0.6, "How far they reach, as a share of their way from it.", high=4,
        when={"towards": "point"},
    )  # fmt: skip
    threshold: float = kinds.fraction(0.4, "How bright a part must be.")
    strength: float = kinds.fraction(1.2, "How bright the copy is.", high=8)
    colour: kinds.Colour = kinds.colour("#ffffff", "Tints it.")


def _room(piece: Extent, settings: Streak, scene: Scene) -> Margin:
    if settings.towards == "direction":
        turn, reach = math.radians(settings.angle), settings.length * scene.scale
        x, y = math.cos(turn) * reach, math.sin(turn) * reach
        both = settings.sides == "both"
        sides = (
            max(-x, x if both else 0, 0), max(-y, y if both else 0, 0),
            max(x, -x if both else 0, 0), max(y, -y if both else 0, 0),
        )  # fmt: skip
        left, top, right, bottom = (math.ceil(side) + 2 for side in sides)
        return Margin(left, top, right, bottom)
    region = piece.region
    x, y = settings.point[0] * scene.scale, settings.point[1] * scene.scale
    away = (x - region.left, y - region.top, region.right - x, region.bottom - y)
    left, top, right, bottom = (math.ceil(max(side, 0) * settings.rays) + 2 for side in away)
    return Margin(left, top, right, bottom)


@step(
    "lens.streak",
    "Streak blur",
    words="light rays, god rays, motion, smear, zoom blur, speed, directional blur",
    reads=("matte", "face", "behind", "front"),
    writes=("front",),
    room=_room,
)
def streak(piece: Piece, settings: Streak, scene: Scene) -> Piece:
    """Draw the bright parts out into streaks or rays and add them."""
    before = flattened(piece)
    light = bright_light(before, settings.threshold)
    scene.pause()
    if settings.towards == "point":
        x, y = settings.point[0] * scene.scale, settings.point[1] * scene.scale
        centre = (x - piece.region.left - 0.5, y - piece.region.top - 0.5)
        drawn = zoomed(light, centre, settings.rays, _TAIL) if settings.rays > 0 else light
    else:
        reach = settings.length * scene.scale
        drawn = streaked(light, settings.angle, reach, _TAIL)
        if settings.sides == "both":
            other = streaked(light, settings.angle + 180, reach, _TAIL)
            drawn = np.asarray((drawn + other) / 2, np.float32)
    tint = linear_colour(settings.colour) * np.float32(settings.strength)
    return with_light(piece, before, np.asarray(drawn * tint, np.float32))
