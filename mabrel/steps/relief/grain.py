"""Roughness in the relief."""

import numpy as np

from mabrel.steps.extent import Bound
from mabrel.steps.kind import step
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.steps.textures.patterns import HIGH, WIDE, Made, made_texture
from mabrel.title import kinds


class Grain(Made):
    width: float = kinds.length(14, 0.5, 8000, "How wide its parts are.", called=WIDE)
    height: float = kinds.length(14, 0.5, 8000, "How high its parts are.", called=HIGH)
    amount: float = kinds.length(3, -400, 400, "How far it raises and lowers the relief.")


def _after(bound: Bound, room: Margin, settings: Grain, scene: Scene) -> Bound:
    return bound.grown(room).raised(settings.amount * scene.scale)


@step(
    "relief.grain",
    "Rough relief",
    words="hammered, cast, rough, brushed, bumpy, stone, texture",
    reads=("height",),
    writes=("height",),
    after=_after,
)
def grain(piece: Piece, settings: Grain, scene: Scene) -> Piece:
    """Roughen the relief with a made texture: cast, hammered, brushed or woven."""
    rough = made_texture(piece, settings, scene) - np.float32(0.5)
    return piece.with_height(piece.height + rough * np.float32(settings.amount * scene.scale))
