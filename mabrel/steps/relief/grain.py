"""Roughness in the relief."""

import numpy as np

from mabrel.steps.kind import Scene, step
from mabrel.steps.made import Made, made_texture
from mabrel.steps.piece import Piece
from mabrel.title import kinds


class Grain(Made):
    width: float = kinds.length(14, 0.5, 8000, "How wide its parts are.")
    height: float = kinds.length(14, 0.5, 8000, "How high its parts are.")
    amount: float = kinds.length(3, -400, 400, "How far it raises and lowers the relief.")


@step(
    "relief.grain",
    "Rough relief",
    words="hammered, cast, rough, brushed, bumpy, stone, texture",
    reads=("height",),
    writes=("height",),
)
def grain(piece: Piece, settings: Grain, scene: Scene) -> Piece:
    """Roughen the relief with a made texture: cast, hammered, brushed or woven."""
    rough = made_texture(piece, settings, scene) - np.float32(0.5)
    return piece.but(height=piece.height + rough * np.float32(settings.amount * scene.scale))
