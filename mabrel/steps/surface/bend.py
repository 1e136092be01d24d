"""The surface bent by the relief."""

import cv2
import numpy as np

from mabrel.field import normals, softened
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.title import kinds


class Bend(StepSettings):
    amount: float = kinds.length(60, -4000, 4000, "How far the relief's slope pushes the surface.")
    soften: float = kinds.length(6, 0, 400, "Rounds the relief before, for a calmer flow.")


@step("surface.bend", "Bend by relief", reads=("face", "height", "matte"), writes=("face",))
def bend(piece: Piece, settings: Bend, scene: Scene) -> Piece:
    """Push the surface aside where the relief slopes, so that streaks flow around the letters."""
    height = softened(piece.height, piece.matte, settings.soften * scene.scale)
    slope = normals(height, piece.matte)
    reach = np.float32(settings.amount * scene.scale)
    rows, columns = piece.matte.shape
    across = np.arange(columns, dtype=np.float32)[None, :] + slope[..., 0] * reach
    down = np.arange(rows, dtype=np.float32)[:, None] + slope[..., 1] * reach

    def looked_up(colour: Array) -> Array:
        bent = cv2.remap(colour, across, down, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REFLECT_101)
        return np.asarray(bent, np.float32)

    return piece.but(face=looked_up(piece.face))
