"""The brightest places drawn out into crosses."""

import math

import numpy as np

from mabrel.field.coarse import coarser, finer
from mabrel.field.streaks import streaked_planes
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import bright_light, linear_colour, spread, with_light
from mabrel.steps.lens_light.brightest import highest_spots
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_TAIL = 0.17  # share of its length at which an arm has fallen to 1/e
_FINE = 1 / 48  # of its length: so wide may a pixel be on the grid that arms are drawn on
_GAIN = 6.0  # drawn out over its length, light would be too faint to be seen


class Glints(StepSettings):
    threshold: float = kinds.fraction(0.9, "How bright a part must be.")
    largest: float = kinds.length(
        16, 1, 1000, "How wide a part counts as one glint; a wider one glints at its brightest."
    )
    apart: float = kinds.length(60, 1, 4000, "How far one glint is from the next.")
    arms: int = kinds.count(4, 1, 12, "How many arms each has.")
    length: float = kinds.length(170, 1, 4000, "How long they are.")
    turn: float = kinds.angle(18, -360, 360, "Turns them.")
    strength: float = kinds.fraction(0.8, "How bright they are.", high=8)
    fringe: float = kinds.fraction(0.35, "How far their ends part into colours.")
    colour: kinds.Colour = kinds.colour("#ffffff", "Tints them.")


def _margin(settings: Glints, scene: Scene) -> Margin:
    room = math.ceil(settings.length * scene.scale) + 2
    return Margin(room, room, room, room)


@step(
    "lens.glints",
    "Glints",
    words="star, cross, sparkle, twinkle, starburst, highlights",
    reads=("matte", "face", "behind", "front"),
    writes=("front",),
    margin=_margin,
)
def glints(piece: Piece, settings: Glints, scene: Scene) -> Piece:
    """Draw the brightest places out into crosses of light."""
    reach = math.ceil(settings.length * scene.scale) + 2
    before = flattened(piece)
    bright = bright_light(before, settings.threshold)
    light = spread(
        bright, piece.region, reach, lambda part, where: _arms(part, where, settings, scene)
    )
    return with_light(piece, before, light)


def _arms(bright: Array, region: Region, settings: Glints, scene: Scene) -> Array:
    """Light drawn out to all sides, on a grid as fine as the length of the arms needs."""
    length = settings.length * scene.scale
    factor = 2 ** max(math.floor(math.log2(max(length * _FINE, 1.0))), 0)
    origin = (region.left, region.top)
    small = coarser(bright, origin, factor)
    spots = highest_spots(
        small,
        largest=settings.largest * scene.scale / factor,
        apart=settings.apart * scene.scale / factor,
    )
    planes = np.ascontiguousarray(np.moveaxis(small * spots[..., None], 2, 0))
    total = np.zeros_like(planes)
    tails = [_TAIL * (1 + settings.fringe * longer) for longer in (0.5, 0.0, -0.5)]
    for arm in range(settings.arms):
        scene.pause()
        angle = settings.turn + 360 * arm / settings.arms
        total += streaked_planes(planes, angle, length / factor, tails)
    gain = np.float32(settings.strength * _GAIN / math.sqrt(max(settings.arms, 1)))
    light = np.moveaxis(total, 0, 2) * (linear_colour(settings.colour) * gain)
    return finer(np.ascontiguousarray(light), origin, bright.shape, factor)
