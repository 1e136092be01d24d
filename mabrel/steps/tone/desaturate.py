"""Colour to grey."""

import numpy as np

from mabrel.colour import brightness
from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Desaturate(StepSettings):
    amount: float = kinds.fraction(1.0, "From full colour to grey.")


@step(
    "tone.desaturate",
    "Desaturate",
    words="grey, black and white, monochrome, silver",
    reads=("face",),
    writes=("face",),
)
def desaturate(piece: Piece, settings: Desaturate, scene: Scene) -> Piece:
    """Take the colour out and keep the brightness."""

    def greyed(colour: Array) -> Array:
        grey = brightness(colour)[..., None]
        return np.asarray(colour + (grey - colour) * np.float32(settings.amount), np.float32)

    return recoloured(piece, greyed)
