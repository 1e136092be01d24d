"""Letters that swell like balloons."""

import numpy as np

from mabrel.field import inflate as inflated
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.title import kinds


class Inflate(StepSettings):
    height: float = kinds.number(
        1.0, -4, 4, "How far it swells: at 1 a round stroke is half as high as it is wide."
    )


@step("relief.inflate", "Inflate", reads=("matte", "height"), writes=("height",))
def inflate(piece: Piece, settings: Inflate, scene: Scene) -> Piece:
    """Blow the letters up like balloons; below 0 they are dented."""
    swell = inflated(piece.matte, piece.distance, scene.pause)
    return piece.but(height=piece.height + swell * np.float32(settings.height))
