"""Brightness to colour."""

from typing import Literal

import numpy as np

from mabrel.colour import brightness, straight
from mabrel.colour import gradient_map as mapped
from mabrel.steps.faces.stops import colour_stops
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.kinds import Stop

_STOPS = [
    Stop(place=0, colour="#1c0c05"),
    Stop(place=0.3, colour="#8a4a1b"),
    Stop(place=0.52, colour="#e0a04d"),
    Stop(place=0.66, colour="#7a3b12"),
    Stop(place=0.85, colour="#f7cf86"),
    Stop(place=1, colour="#fff6dd"),
]


class GradientMap(StepSettings):
    stops: kinds.Stops = kinds.stops(_STOPS, "The colours, from the darkest place to the lightest.")
    slide: float = kinds.fraction(
        0, "Moves the brightness along the stops.", low=-10, high=10, cycle=2
    )
    repeats: int = kinds.count(1, 1, 20, "How often it runs through the stops, there and back.")
    mix: Literal["srgb", "oklab"] = kinds.choice("srgb", "Where neighbouring colours mix.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step(
    "tone.gradient_map",
    "Gradient map",
    words="metal, gold, brass, chrome, copper, steel, silver, bronze, recolour",
    reads=("face",),
    writes=("face",),
)
def gradient_map(piece: Piece, settings: GradientMap, scene: Scene) -> Piece:
    """Give each brightness a colour. This is where metal happens."""
    return piece.recoloured(lambda colour: _recoloured(colour, settings))


def _recoloured(colour: Array, settings: GradientMap) -> Array:
    tones = mapped(
        brightness(straight(colour)),
        colour_stops(settings.stops),
        slide=settings.slide,
        repeats=settings.repeats,
        mix=settings.mix,
    )
    tones[..., 3] *= colour[..., 3]
    tones[..., :3] *= tones[..., 3:]
    share = np.float32(settings.opacity)
    return tones if share == 1 else colour + (tones - colour) * share
