"""Shapes from signed distances."""

import numpy as np

from mabrel.field import signed_distance
from mabrel.steps.piece import Array, Piece


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


def inwards(piece: Piece, width: float) -> Array:
    """0 at the edge and outside it, 1 from `width` pixels inside on."""
    return np.asarray(np.clip(-piece.distance / np.float32(max(width, 1e-6)), 0, 1), np.float32)
