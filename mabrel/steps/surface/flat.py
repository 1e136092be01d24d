"""A flat colour."""

import math

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.steps.faces.painting import paint
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Flat(StepSettings):
    colour: kinds.Colour = kinds.colour("#b4471f", "The colour.")
    blend: BlendMode = kinds.choice("normal", "How it is laid on the face.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step(
    "surface.flat",
    "Flat colour",
    words="colour, fill, paint, solid",
    reads=("face",),
    writes=("face",),
    finest=lambda settings: math.inf,
)
def flat(piece: Piece, settings: Flat, scene: Scene) -> Piece:
    """Paint the face in one colour."""
    colour, alpha = rgb_and_alpha(settings.colour)
    coverage = np.full(piece.matte.shape, alpha * settings.opacity, np.float32)
    return paint(piece, settings.blend, colour, coverage)
