"""Levels."""

import numpy as np

from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Levels(StepSettings):
    black: float = kinds.fraction(0.1, "What becomes black.")
    white: float = kinds.fraction(0.9, "What becomes white.")
    gamma: float = kinds.number(1.0, 0.1, 10, "Lightens (above 1) or darkens what is between.")
    lowest: float = kinds.fraction(0.0, "The darkest tone that comes out.")
    highest: float = kinds.fraction(1.0, "The lightest tone that comes out.")


@step(
    "tone.levels",
    "Levels",
    words="contrast, black point, white point, stronger",
    reads=("face",),
    writes=("face",),
)
def levels(piece: Piece, settings: Levels, scene: Scene) -> Piece:
    """Stretch the tones between two of them, and hold what comes out between two others."""
    span = settings.white - settings.black
    span = np.copysign(max(abs(span), 1e-3), span if span else 1)

    def stretched(colour: Array) -> Array:
        share = np.clip((colour - np.float32(settings.black)) / np.float32(span), 0, 1)
        share = share ** np.float32(1 / settings.gamma)
        out = settings.lowest + share * (settings.highest - settings.lowest)
        return np.asarray(out, np.float32)

    return recoloured(piece, stretched)
