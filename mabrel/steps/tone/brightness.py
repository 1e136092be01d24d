"""Brightness and contrast."""

import numpy as np

from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Brightness(StepSettings):
    brightness: float = kinds.fraction(0.0, "Lighter or darker, all alike.", low=-1)
    contrast: float = kinds.fraction(0.2, "Further from middle grey, or nearer.", low=-1, high=4)


@step(
    "tone.brightness",
    "Brightness and contrast",
    words="lighter, darker, contrast, exposure",
    reads=("face",),
    writes=("face",),
)
def brightness(piece: Piece, settings: Brightness, scene: Scene) -> Piece:
    """Make all tones lighter or darker, and spread them about middle grey."""
    gain = np.float32(1 + settings.contrast)

    def changed(colour: Array) -> Array:
        return (colour - np.float32(0.5)) * gain + np.float32(0.5 + settings.brightness)

    return recoloured(piece, changed)
