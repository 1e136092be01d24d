"""Light to dark and dark to light."""

import numpy as np

from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Invert(StepSettings):
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step("tone.invert", "Invert", words="negative, opposite", reads=("face",), writes=("face",))
def invert(piece: Piece, settings: Invert, scene: Scene) -> Piece:
    """Turn light into dark, and every colour into its opposite."""
    share = np.float32(settings.opacity)
    return recoloured(piece, lambda colour: colour + (1 - 2 * colour) * share)
