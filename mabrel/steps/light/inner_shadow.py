"""A shadow that the surroundings throw into the letters."""

import math
from typing import Literal

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import gaussian_blur
from mabrel.field.shift import shifted
from mabrel.steps.faces.painting import paint
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class InnerShadow(StepSettings):
    light: Literal["key", "own"] = kinds.choice(
        "key", "Falls away from the key light, or in a direction of its own."
    )
    angle: float = kinds.angle(
        45,
        -360,
        360,
        "Direction in which it falls.",
        when={"light": "own"},
        direction="away from the light",
    )
    offset: float = kinds.length(8, 0, 2000, "How far it falls into the letters.")
    blur: float = kinds.length(6, 0, 1000, "How soft it is: the standard deviation of its blur.")
    spread: float = kinds.length(0, -400, 400, "Grows or shrinks what throws it.")
    colour: kinds.Colour = kinds.colour("#05070a", "Its colour.")
    blend: BlendMode = kinds.choice("multiply", "How it is laid on.")
    opacity: float = kinds.fraction(0.7, "How dark it is.")


@step(
    "light.inner_shadow",
    "Inner shadow",
    words="cut out, engraved, sunk, hollow, pressed in, letterpress",
    reads=("matte", "face"),
    writes=("face",),
    asks=lambda settings, scene: _fall(settings, scene),
)
def inner_shadow(piece: Piece, settings: InnerShadow, scene: Scene) -> Piece:
    """Let the edge throw a shadow into the letters, as if they were cut out of a plate."""
    x, y = _fall(settings, scene)
    inside = np.clip(np.float32(0.5 - settings.spread * scene.scale) - piece.distance, 0, 1)
    # What is beyond the array is outside, and throws its shadow in.
    thrown = 1 - gaussian_blur(shifted(inside, x, y), settings.blur * scene.scale)
    colour, alpha = rgb_and_alpha(settings.colour)
    cover: Array = np.clip(thrown, 0, 1) * np.float32(settings.opacity * alpha)
    return paint(piece, settings.blend, colour, cover)


def _fall(settings: InnerShadow, scene: Scene) -> tuple[float, float]:
    reach = settings.offset * scene.scale
    turn = math.radians(settings.angle)
    key = scene.key if settings.light == "key" else None
    if key is not None:
        turn = math.radians(key.azimuth + 180)
    return math.cos(turn) * reach, math.sin(turn) * reach
