"""Putting colour on a piece."""

import numpy as np

from mabrel.colour import blend, blend_colour, over
from mabrel.steps.piece import Array, Piece


def paint(piece: Piece, mode: str, colour: tuple[float, float, float], coverage: Array) -> Piece:
    """Paint one straight colour on the face, as much as `coverage` ((H, W), 0..1)."""
    face = blend_colour(mode, piece.face, colour, coverage)
    if piece.added is None:
        return piece.but(face=face)
    return piece.but(face=face, added=blend_colour("normal", piece.added, colour, coverage))


def paint_colours(piece: Piece, mode: str, source: Array) -> Piece:
    """Paint premultiplied colours ((H, W, 4)) on the face."""
    face = blend(mode, piece.face, source)
    if piece.added is None:
        return piece.but(face=face)
    return piece.but(face=face, added=over(piece.added, source))


def beneath(piece: Piece, colour: tuple[float, float, float], coverage: Array) -> Piece:
    """Lay one straight colour under all that is already behind the face."""
    empty = np.zeros((*coverage.shape, 4), np.float32)
    source = blend_colour("normal", empty, colour, coverage)
    return piece.but(behind=source if piece.behind is None else over(source, piece.behind))


def light_beneath(piece: Piece, colour: tuple[float, float, float], share: Array) -> Piece:
    """Add light under all that is behind the face: colour without cover, so that it is added to
    whatever the layer is laid on."""
    light = np.zeros((*share.shape, 4), np.float32)
    light[..., :3] = share[..., None] * np.array(colour, np.float32)
    return piece.but(behind=light if piece.behind is None else over(light, piece.behind))
