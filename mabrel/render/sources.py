"""The piece that a build starts from."""

import math

import numpy as np

from mabrel.colour import from_code
from mabrel.render.errors import RenderError
from mabrel.render.plan import PlannedLayer
from mabrel.source import Outline, coverage, outline_text
from mabrel.steps import Array, Piece, Region

LARGEST_PIECE = 64_000_000
UNPAINTED = 0.5
"""The grey of lettering before any surface: half way, so light and shade have equal room."""


def lettering_outline(planned: PlannedLayer) -> Outline:
    """Raises FontError where the font is not there."""
    assert planned.lettering is not None
    text, style = planned.lettering
    return outline_text(text, style)


def lettering_region(outline: Outline) -> Region:
    """Whole pixels around the ink, one to spare for its antialiasing and shift."""
    left, top, right, bottom = outline.bounds
    x, y = math.floor(left) - 2, math.floor(top) - 2
    return Region(x, y, math.ceil(right) + 2 - x, math.ceil(bottom) + 2 - y)


def lettering_piece(planned: PlannedLayer) -> Piece:
    """Words, grey and flat."""
    outline = lettering_outline(planned)
    region = lettering_region(outline)
    if region.area > LARGEST_PIECE:
        raise RenderError(
            f"the lettering of layer {planned.layer.name or planned.layer.id!r} would take "
            f"{region.width} × {region.height} pixels; make it smaller or render at a lower scale"
        )
    matte = coverage(outline, region, planned.shift)
    face = np.ones((*matte.shape, 4), np.float32)
    face[..., :3] = UNPAINTED
    left, top, right, bottom = outline.bounds
    x, y = planned.shift
    box = (left + x, top + y, right + x, bottom + y)
    added = np.zeros_like(face) if planned.tracks_added else None
    return Piece(region, box, matte, face, np.zeros_like(matte), added=added)


def full_piece(region: Region, frame: Region, face: Array) -> Piece:
    """A plane that fills the picture: what backdrops and washes start from."""
    matte = np.ones(face.shape[:2], np.float32)
    box = (float(frame.left), float(frame.top), float(frame.right), float(frame.bottom))
    return Piece(region, box, matte, face, np.zeros_like(matte))


def ground_face(code: str, shape: tuple[int, int]) -> Array:
    *colour, alpha = from_code(code)
    face = np.empty((*shape, 4), np.float32)
    face[:] = [*(channel * alpha for channel in colour), alpha]
    return face
