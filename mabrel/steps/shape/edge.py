"""The outline grown, shrunk and rounded."""

import math

import numpy as np

from mabrel.steps.extent import larger
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import covered, rounded
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
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


@step(
    "shape.edge",
    "Edge",
    words="grow, shrink, bolder, thinner, rounded, bubble, offset path, expand",
    reads=("matte",),
    writes=("matte",),
    margin=_margin,
)
def edge(piece: Piece, settings: Edge, scene: Scene) -> Piece:
    """Grow or shrink the letters, and round their corners."""
    distance = piece.distance - np.float32(settings.grow * scene.scale)
    distance = rounded(distance, -settings.radius * scene.scale)
    distance = rounded(distance, settings.inner * scene.scale)
    return piece.reshaped(covered(distance), box=larger(piece.box, settings.grow * scene.scale))
