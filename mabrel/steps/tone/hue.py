"""Hue, saturation and lightness."""

from typing import Literal

import numpy as np

from mabrel.colour import from_oklab, in_gamut_below, to_oklab
from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_MOST_CHROMA = 0.25  # about what sRGB's strongest colours have


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
    turn = np.radians(settings.hue)

    def changed(colour: Array) -> Array:
        lab = to_oklab(colour)
        light, a, b = lab[..., 0], lab[..., 1], lab[..., 2]
        if settings.mode == "colourise":
            # Black and white have no colour: chroma swells between them.
            chroma = np.clip(4 * light * (1 - light), 0, 1) * (settings.saturation * 0.5)
            a, b = np.full_like(light, _MOST_CHROMA) * chroma, np.zeros_like(light)
        else:
            a, b = a * settings.saturation, b * settings.saturation
        turned = [a * np.cos(turn) - b * np.sin(turn), a * np.sin(turn) + b * np.cos(turn)]
        lab = np.stack([light + settings.lightness, *turned], axis=-1)
        return from_oklab(in_gamut_below(lab))

    return recoloured(piece, changed)
