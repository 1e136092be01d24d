"""Light that spreads from bright parts."""

import numpy as np

from mabrel.field import blur_support, gaussian_blur
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import (
    bright_light,
    linear_colour,
    spread,
    with_light,
)
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Glow(StepSettings):
    threshold: float = kinds.fraction(0.55, "How bright a part must be to glow.")
    radius: float = kinds.length(26, 0, 1000, "How far it spreads: its standard deviation.")
    strength: float = kinds.fraction(0.7, "How bright the glow is.", high=8)
    colour: kinds.Colour = kinds.colour("#ffffff", "Tints it.")


def _margin(settings: Glow, scene: Scene) -> Margin:
    room = blur_support(settings.radius * scene.scale)
    return Margin(room, room, room, room)


@step(
    "lens.glow",
    "Glow",
    words="bloom, shine, halo, light, soft light, radiance",
    reads=("matte", "face", "behind", "front"),
    writes=("front",),
    margin=_margin,
)
def glow(piece: Piece, settings: Glow, scene: Scene) -> Piece:
    """Let bright parts shine beyond themselves; a tight one and a wide one look best."""
    bright = bright_light(piece, settings.threshold)
    scene.pause()
    sigma = settings.radius * scene.scale
    glow = spread(
        bright,
        piece.region,
        blur_support(sigma),
        lambda light, part: gaussian_blur(light, sigma, (part.left, part.top)),
    )
    glow *= linear_colour(settings.colour) * np.float32(settings.strength)
    return with_light(piece, glow)
