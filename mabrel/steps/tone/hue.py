"""Hue, saturation and lightness."""

import math
from typing import Literal

from mabrel.colour import with_hues
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Hue(StepSettings):
    mode: Literal["shift", "colourise"] = kinds.choice(
        "shift", "Turn the colours that are there, or give all of them one hue."
    )
    hue: float = kinds.angle(
        20,
        -360,
        360,
        "How far the hues turn; or the hue that all get, on the scale of OKLab: 30° red, "
        "50° copper, 70° orange, 85° gold, 110° yellow, 145° green, 195° cyan, 265° blue, "
        "305° violet, 350° pink.",
    )
    saturation: float = kinds.fraction(1.0, "How strong the colours are.", high=4)
    lightness: float = kinds.fraction(0.0, "Lighter or darker.", low=-1)


@step(
    "tone.hue",
    "Hue and saturation",
    words="colour, recolour, saturation, colourise, tint",
    reads=("face",),
    writes=("face",),
)
def hue(piece: Piece, settings: Hue, scene: Scene) -> Piece:
    """Turn, strengthen or fade the colours, or give all of them one hue, their lightness kept."""
    turn, one_hue = math.radians(settings.hue), settings.mode == "colourise"

    def changed(colour: Array) -> Array:
        return with_hues(colour, turn, settings.saturation, settings.lightness, one_hue)

    return piece.recoloured(changed)
