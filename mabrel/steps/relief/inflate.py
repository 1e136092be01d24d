"""Letters that swell like balloons."""

import math

import numpy as np

from mabrel.field import inflate as inflated
from mabrel.steps.extent import Bound, half_width
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Inflate(StepSettings):
    height: float = kinds.number(
        1.0, -4, 4, "How far it swells: at 1 a round stroke is half as high as it is wide."
    )
    tightness: float = kinds.fraction(
        0.0, "Pulls it tight: the rise gathers at the edge and the top gets flatter."
    )
    plateau: float = kinds.length(
        0, 0, 4000, "Flattens what would rise higher than this; 0 flattens nothing."
    )


def _after(bound: Bound, room: Margin, settings: Inflate, scene: Scene) -> Bound:
    # Over a long stroke, twice as wide as half of it, the membrane's height is √2 times that half.
    return bound.grown(room).raised(math.sqrt(2) * half_width(bound) * settings.height)


@step(
    "relief.inflate",
    "Inflate",
    words="puffy, balloon, inflated, bubble, swollen, round, 3d, foil",
    reads=("matte", "height"),
    writes=("height",),
    after=_after,
)
def inflate(piece: Piece, settings: Inflate, scene: Scene) -> Piece:
    """Blow the letters up like balloons; below 0 they are dented."""
    swell = piece.remembered(
        "swell", None, lambda: inflated(piece.matte, piece.distance, scene.pause)
    )
    if settings.tightness > 0:
        swell = _tight(swell, settings.tightness)
    if settings.plateau > 0:
        swell = _flattened(swell, settings.plateau * scene.scale)
    return piece.with_height(piece.height + swell * np.float32(settings.height))


def _tight(swell: Array, tightness: float) -> Array:
    """As a skin under pressure: the height to a power below 1, of the highest place."""
    top = max(float(swell.max()), 1e-6)
    share = np.maximum(swell, 0) / np.float32(top)
    return np.asarray(share ** np.float32(1 - 0.7 * tightness) * np.float32(top), np.float32)


def _flattened(swell: Array, plateau: float) -> Array:
    """Held below a plateau by a smooth minimum (Inigo Quilez' polynomial one), so no crease."""
    soft = np.float32(max(plateau * 0.35, 1e-3))
    share = np.clip(0.5 + 0.5 * (plateau - swell) / soft, 0, 1)
    held = plateau + (swell - plateau) * share - soft * share * (1 - share)
    return np.asarray(np.maximum(held, 0), np.float32)
