"""Shapes from signed distances."""

import numpy as np
from numpy.typing import NDArray

from mabrel.field import signed_distance
from mabrel.field.contours import outlines_of
from mabrel.field.joined import Join, joined_distance
from mabrel.steps.piece import Array, Piece

_FINE = 0.02  # pixels by which traced outlines may leave the edge


def covered(distance: Array) -> Array:
    """Coverage of all that lies within, antialiased."""
    return np.asarray(np.clip(np.float32(0.5) - distance, 0, 1), np.float32)


def clipped(shares: Array) -> Array:
    """Held to 0..1."""
    return np.clip(shares, np.float32(0), np.float32(1))


def rounded(distance: Array, by: float) -> Array:
    """Grown by that much and shrunk again, which rounds inner corners; below 0 shrunk and grown
    again, which rounds outer ones."""
    if abs(by) < 0.05:
        return distance
    moved = signed_distance(covered(distance - np.float32(by)))
    return np.asarray(moved + np.float32(by), np.float32)


def joined(
    piece: Piece, reach: float, *, outer: Join, inner: Join = "mitre", limit: float = 4.0
) -> Array:
    """Signed distance to a piece's edge, up to `reach`, its corners joined in these ways, mitres
    no longer than `limit` times the distance."""

    def measured() -> Array:
        return joined_distance(
            _around(piece), piece.edge, piece.distance, reach, outer=outer, inner=inner, limit=limit
        )

    return piece.remembered("joined", (reach, outer, inner, limit), measured)


def _around(piece: Piece) -> NDArray[np.float64]:
    """Closed outlines (N, 4) in pixels from the first centre, inside on the left of their way:
    those that are known, since tips that are narrower than a pixel can't be traced."""
    if piece.outline is None:
        return outlines_of(piece.edge, _FINE)
    lines = piece.outline - np.array([piece.region.left + 0.5, piece.region.top + 0.5] * 2)
    x1, y1, x2, y2 = lines.T
    backwards = float((x1 * y2 - x2 * y1).sum()) > 0
    return np.ascontiguousarray(lines[::-1, [2, 3, 0, 1]] if backwards else lines)


def inwards(piece: Piece, width: float) -> Array:
    """0 at the edge and outside it, 1 from `width` pixels inside on."""
    return np.asarray(np.clip(-piece.distance / np.float32(max(width, 1e-6)), 0, 1), np.float32)
