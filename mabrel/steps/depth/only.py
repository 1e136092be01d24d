"""One part of what was built, and nothing else."""

from dataclasses import replace
from typing import Literal

import numpy as np

from mabrel.field import normals
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import covered
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_FLAT, _STEEP = 0.02, 0.08  # tilts of the relief between which a bevel begins


class Only(StepSettings):
    part: Literal["rim", "bevel", "sides", "face"] = kinds.choice(
        "rim",
        "What stays: a rim along the face's edge, parts of it that lean, the sides behind it, or "
        "the face alone.",
    )
    width: float = kinds.length(8, 0.5, 1000, "How wide the rim is.", when={"part": "rim"})


@step(
    "depth.only",
    "Only a part",
    words="isolate, bevel alone, rim alone, sides alone, hollow, frame, cut out the face",
    reads=("matte", "height", "behind"),
    writes=("matte", "behind", "front", "body"),
)
def only(piece: Piece, settings: Only, scene: Scene) -> Piece:
    """Keep only the bevel, the rim, the sides or the face; what is seen through it is empty."""
    if settings.part == "sides":
        return _sides(piece)
    if settings.part == "face":
        return piece.without_planes()
    share = _rim(piece, settings.width * scene.scale) if settings.part == "rim" else _leaning(piece)
    left = replace(piece, behind=None, front=None, body=None, plate=None)
    return left.cut_off(share, None)


def _sides(piece: Piece) -> Piece:
    """What lies behind the face, without what the face hides."""
    gap = (1 - piece.matte)[..., None]
    behind = None if piece.behind is None else piece.behind * gap
    body = np.asarray(piece.solid * gap[..., 0], np.float32)
    bare = piece.reshaped(np.zeros_like(piece.matte), box=piece.box)
    return replace(bare, behind=behind, front=None, body=body, plate=body)


def _rim(piece: Piece, width: float) -> Array:
    return np.asarray(1 - covered(piece.distance + np.float32(width)), np.float32)


def _leaning(piece: Piece) -> Array:
    """0 where the relief lies as the card does, 1 where it leans."""
    up = normals(piece.height, piece.matte)[..., 2]
    lean = np.sqrt(np.maximum(1 - up * up, 0))
    share = np.clip((lean - _FLAT) / (_STEEP - _FLAT), 0, 1)
    return np.asarray(share * share * (3 - 2 * share), np.float32)
