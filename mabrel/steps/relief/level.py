"""The relief scaled, held and smoothed."""

import numpy as np

from mabrel.field import softened
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.title import kinds


class Level(StepSettings):
    scale: float = kinds.number(1.0, -10, 10, "Multiplies the height.")
    floor: float = kinds.length(-4000, -4000, 4000, "Nothing lies lower than this.")
    ceiling: float = kinds.length(30, -4000, 4000, "Nothing rises higher than this: a plateau.")
    smooth: float = kinds.length(2, 0, 400, "Rounds what is left.")


@step(
    "relief.level",
    "Level",
    words="flatten, limit, clip, plateau, smooth",
    reads=("height", "matte"),
    writes=("height",),
)
def level(piece: Piece, settings: Level, scene: Scene) -> Piece:
    """Scale the relief, hold it between a floor and a ceiling, and smooth it."""
    low, high = sorted((settings.floor * scene.scale, settings.ceiling * scene.scale))
    held = np.clip(piece.height * np.float32(settings.scale), low, high).astype(np.float32)
    return piece.but(height=softened(held, piece.matte, settings.smooth * scene.scale))
