"""The outline grown, shrunk and rounded."""

import math

import numpy as np

from mabrel.field import signed_distance
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.title import kinds


class Edge(StepSettings):
    grow: float = kinds.length(6, -1000, 1000, "Moves the edge outwards, or inwards below 0.")
    radius: float = kinds.length(8, 0, 1000, "Rounds the corners, until letters bubble.")
    inner: float = kinds.length(
        0, 0, 1000, "Rounds the inner corners; gaps narrower than twice this close."
    )


def _margin(settings: Edge, scene: Scene) -> Margin:
    room = math.ceil((max(settings.grow, 0) + settings.inner) * scene.scale) + 2
    return Margin(room, room, room, room)


@step("shape.edge", "Edge", reads=("matte",), writes=("matte",), margin=_margin)
def edge(piece: Piece, settings: Edge, scene: Scene) -> Piece:
    """Grow or shrink the letters, and round their corners."""
    distance = piece.distance - np.float32(settings.grow * scene.scale)
    distance = _rounded(distance, -settings.radius * scene.scale)
    distance = _rounded(distance, settings.inner * scene.scale)
    return piece.but(matte=_covered(distance))


def _covered(distance: Array) -> Array:
    return np.asarray(np.clip(np.float32(0.5) - distance, 0, 1), np.float32)


def _rounded(distance: Array, by: float) -> Array:
    """Grown by that much and shrunk again, which rounds inner corners; below 0 shrunk and grown
    again, which rounds outer ones."""
    if abs(by) < 0.05:
        return distance
    moved = signed_distance(_covered(distance - np.float32(by)))
    return np.asarray(moved + np.float32(by), np.float32)
