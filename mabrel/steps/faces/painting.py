"""Putting colour on a piece."""

import numba
import numpy as np

from mabrel.colour import ColourStop, blend, blend_colour, blend_map, over
from mabrel.kernels import kernel
from mabrel.steps.cast import Cast
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region

Rgb = tuple[float, float, float]


def paint(piece: Piece, mode: str, colour: Rgb, coverage: Array) -> Piece:
    """Paint one straight colour on the face, as much as `coverage` ((H, W), 0..1)."""
    face = blend_colour(mode, piece.face, colour, coverage)
    return piece.painted(face, lambda added: blend_colour("normal", added, colour, coverage))


def paint_colours(piece: Piece, mode: str, source: Array) -> Piece:
    """Paint premultiplied colours ((H, W, 4)) on the face."""
    return piece.painted(blend(mode, piece.face, source), lambda added: over(added, source))


def paint_tones(
    piece: Piece, mode: str, tones: Array, stops: list[ColourStop], mix: str, opacity: float
) -> Piece:
    """Paint the colours that stops give to tones ((H, W), 0..1) on the face."""

    def laid(how: str, plane: Array) -> Array:
        return blend_map(how, plane, tones, stops, opacity=opacity, mix=mix)

    return piece.painted(laid(mode, piece.face), lambda added: laid("normal", added))


def ink(colour: Rgb, coverage: Array) -> Array:
    """One straight colour as much as `coverage` ((H, W), 0..1): premultiplied (H, W, 4)."""
    out = np.empty((*coverage.shape, 4), np.float32)
    _spread(np.ascontiguousarray(coverage, np.float32), np.array((*colour, 1), np.float32), out)
    return out


@kernel(parallel=True)
def _spread(coverage, colour, out):  # type: ignore[no-untyped-def]
    rows, columns = coverage.shape
    for y in numba.prange(rows):
        for x in range(columns):
            for c in range(4):
                out[y, x, c] = coverage[y, x] * colour[c]


def beneath(piece: Piece, colour: Rgb, coverage: Array) -> Piece:
    """Lay one straight colour under all that is already behind the face."""
    return piece.beneath(ink(colour, coverage))


def light_beneath(piece: Piece, colour: Rgb, share: Array) -> Piece:
    """Add light under all that is behind the face: colour without cover, so that it is added to
    whatever the layer is laid on."""
    light = ink(colour, share)
    light[..., 3] = 0
    return piece.beneath(light)


def darkened(piece: Piece, colour: Rgb, coverage: Array, region: Region) -> Piece:
    """Let one straight colour fall on what surrounds the lettering: `coverage` ((H, W), 0..1) over
    a `region` of the picture."""
    return piece.casting(Cast(region, ink(colour, coverage)))
