"""The relief scaled, held and smoothed."""

from dataclasses import replace

import numpy as np

from mabrel.field import softened
from mabrel.steps.extent import Bound
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Level(StepSettings):
    scale: float = kinds.number(1.0, -10, 10, "Multiplies the height.")
    floor: float = kinds.length(-4000, -4000, 4000, "Nothing lies lower than this.")
    ceiling: float = kinds.length(30, -4000, 4000, "Nothing rises higher than this: a plateau.")
    smooth: float = kinds.length(2, 0, 400, "Rounds what is left.")


def _after(bound: Bound, room: Margin, settings: Level, scene: Scene) -> Bound:
    most = max(abs(settings.floor), abs(settings.ceiling)) * scene.scale
    return replace(bound.grown(room), rise=min(bound.rise * abs(settings.scale), most))


@step(
    "relief.level",
    "Level",
    words="flatten, limit, clip, plateau, smooth",
    reads=("height", "matte"),
    writes=("height",),
    after=_after,
)
def level(piece: Piece, settings: Level, scene: Scene) -> Piece:
    """Scale the relief, hold it between a floor and a ceiling, and smooth it."""
    low, high = sorted((settings.floor * scene.scale, settings.ceiling * scene.scale))
    held = np.clip(piece.height * np.float32(settings.scale), low, high).astype(np.float32)
    return piece.with_height(softened(held, piece.matte, settings.smooth * scene.scale))
