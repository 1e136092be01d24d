"""The blurred shape as height."""

import numpy as np

from mabrel.field import gaussian_blur
from mabrel.steps.extent import Bound
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Soft(StepSettings):
    radius: float = kinds.length(14, 0.2, 1000, "How soft it is.")
    height: float = kinds.length(50, -2000, 2000, "How high it rises where it is widest.")


def _after(bound: Bound, room: Margin, settings: Soft, scene: Scene) -> Bound:
    return bound.grown(room).raised(settings.height * scene.scale)


@step(
    "relief.soft",
    "Soft relief",
    words="soft, pillow, puffy, blur, gentle",
    reads=("matte", "height"),
    writes=("height",),
    after=_after,
)
def soft(piece: Piece, settings: Soft, scene: Scene) -> Piece:
    """Take the blurred shape as height: as soft as the word can bear and still be read."""
    blurred = gaussian_blur(piece.matte, settings.radius * scene.scale)
    # At the edge of a wide stroke the blur is ½: from there to its top it rises.
    rise = np.maximum(2 * blurred - 1, 0) * np.float32(settings.height * scene.scale)
    return piece.with_height(piece.height + rise)
