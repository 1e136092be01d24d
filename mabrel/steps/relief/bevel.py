"""Slanted, rounded or stepped rims."""

from typing import Literal

import numpy as np

from mabrel.colour import apply_table, curve_table
from mabrel.field import softened
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.title import kinds

_ROUNDED = [(0.0, 0.0), (0.15, 0.53), (0.4, 0.8), (0.7, 0.95), (1.0, 1.0)]


class Bevel(StepSettings):
    width: float = kinds.length(28, 0, 2000, "How far it reaches inwards from the edge.")
    height: float = kinds.length(20, 0, 2000, "How high it rises over that width.")
    profile: kinds.CurvePoints = kinds.curve(
        _ROUNDED, "Its cross-section: from the edge (left) inwards."
    )
    soften: float = kinds.length(0, 0, 400, "Rounds its creases.")
    direction: Literal["raised", "sunk"] = kinds.choice("raised", "Out of the face or into it.")
    combine: Literal["add", "greater", "lesser", "replace"] = kinds.choice(
        "add", "How it joins the relief that is there."
    )


@step("relief.bevel", "Bevel", reads=("matte", "height"), writes=("height",))
def bevel(piece: Piece, settings: Bevel, scene: Scene) -> Piece:
    """Cut a rim along the inside of the edge, with a profile of any shape."""
    rise = rim(piece, settings, scene)
    if settings.direction == "sunk":
        rise = -rise
    return piece.but(height=_combined(settings.combine, piece.height, rise))


def rim(piece: Piece, settings: Bevel, scene: Scene) -> Array:
    """Height of the rim alone, in render pixels; 0 outside the lettering."""
    width = max(settings.width * scene.scale, 1e-3)
    share = np.clip(-piece.distance / np.float32(width), 0, 1)
    rise = apply_table(share, curve_table(settings.profile))
    rise *= np.float32(settings.height * scene.scale)
    rise[piece.distance >= 0] = 0
    return softened(rise, piece.matte, settings.soften * scene.scale)


def _combined(how: str, before: Array, rise: Array) -> Array:
    if how == "greater":
        return np.maximum(before, rise)
    if how == "lesser":
        return np.minimum(before, rise)
    return rise if how == "replace" else before + rise
