"""Sharpening by an unsharp mask."""

import numpy as np

from mabrel.field import softened
from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Sharpen(StepSettings):
    radius: float = kinds.length(4, 0.2, 200, "How wide the details are that it brings out.")
    amount: float = kinds.fraction(0.6, "How much of them.", high=5)


@step(
    "tone.sharpen",
    "Sharpen",
    words="crisp, detail, sharper, clarity",
    reads=("face", "matte"),
    writes=("face",),
)
def sharpen(piece: Piece, settings: Sharpen, scene: Scene) -> Piece:
    """Bring out the details of the surface: what differs from its blurred self."""
    sigma = settings.radius * scene.scale

    def crisp(colour: Array) -> Array:
        soft = np.stack(
            [softened(np.ascontiguousarray(colour[..., c]), piece.matte, sigma) for c in range(3)],
            axis=-1,
        )
        inside = piece.matte[..., None] > 0
        detail = np.where(inside, colour - soft, 0) * np.float32(settings.amount)
        return np.asarray(colour + detail, np.float32)

    return recoloured(piece, crisp)
