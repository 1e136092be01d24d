"""Two colours for dark and light."""

from typing import Literal

import numpy as np

from mabrel.colour import ColourStop, brightness, from_code, gradient_map
from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Duotone(StepSettings):
    dark: kinds.Colour = kinds.colour("#12283a", "Colour of the darkest tones.")
    light: kinds.Colour = kinds.colour("#f4e6c8", "Colour of the lightest tones.")
    mix: Literal["srgb", "oklab"] = kinds.choice("srgb", "Where the two colours mix.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step(
    "tone.duotone", "Duotone", words="two colours, tint, sepia", reads=("face",), writes=("face",)
)
def duotone(piece: Piece, settings: Duotone, scene: Scene) -> Piece:
    """Tint the dark tones in one colour and the light ones in another."""
    ends = [ColourStop(0, from_code(settings.dark)), ColourStop(1, from_code(settings.light))]

    def tinted(colour: Array) -> Array:
        two = gradient_map(brightness(colour), ends, mix=settings.mix)[..., :3]
        return np.asarray(colour + (two - colour) * np.float32(settings.opacity), np.float32)

    return recoloured(piece, tinted)
