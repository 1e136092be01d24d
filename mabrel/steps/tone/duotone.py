"""Two colours for dark and light."""

import numpy as np

from mabrel.colour import brightness, rgb_and_alpha
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.recolour import recoloured
from mabrel.title import kinds


class Duotone(StepSettings):
    dark: kinds.Colour = kinds.colour("#12283a", "Colour of the darkest tones.")
    light: kinds.Colour = kinds.colour("#f4e6c8", "Colour of the lightest tones.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step("tone.duotone", "Duotone", reads=("face",), writes=("face",))
def duotone(piece: Piece, settings: Duotone, scene: Scene) -> Piece:
    """Tint the dark tones in one colour and the light ones in another."""
    dark, light = (
        np.array(rgb_and_alpha(code)[0], np.float32) for code in (settings.dark, settings.light)
    )

    def tinted(colour: Array) -> Array:
        tones = np.clip(brightness(colour), 0, 1)[..., None]
        two = dark + (light - dark) * tones
        return np.asarray(colour + (two - colour) * np.float32(settings.opacity), np.float32)

    return recoloured(piece, tinted)
