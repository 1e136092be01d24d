"""Light that spreads from bright parts."""

import math

import numpy as np

from mabrel.field import blur_support, gaussian_blur
from mabrel.field.coarse import coarser, finer
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import (
    bright_light,
    linear_colour,
    spread,
    with_light,
)
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_WIDE = 8.0  # pixels of σ on the coarser grid
_COARSEST = 8


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
    before = flattened(piece)
    bright = bright_light(before, settings.threshold)
    scene.pause()
    sigma = settings.radius * scene.scale
    reach = blur_support(sigma)
    colour = linear_colour(settings.colour) * np.float32(settings.strength)
    glow = spread(
        bright, piece.region, reach, lambda part, where: _blurred(part, where, sigma, colour)
    )
    return with_light(piece, before, glow)


def _blurred(light: Array, region: Region, sigma: float, colour: Array) -> Array:
    """In a colour; wide blurs on a coarser grid, on which they still are so wide that nothing of it
    shows."""
    factor = min(2 ** max(math.floor(math.log2(max(sigma / _WIDE, 1.0))), 0), _COARSEST)
    origin = (region.left, region.top)
    small = coarser(light, origin, factor)
    corner = (region.left // factor, region.top // factor)
    glow = gaussian_blur(small, sigma / factor, corner) * colour
    return finer(glow, origin, light.shape, factor)
