"""A larger outline behind the letters."""

import math

import cv2
import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.steps.faces.painting import beneath
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import covered, rounded
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Backing(StepSettings):
    grow: float = kinds.length(26, -500, 2000, "How far it reaches beyond the letters.")
    inner: float = kinds.length(
        30, 0, 1000, "Rounds its inner corners; gaps narrower than twice this close."
    )
    radius: float = kinds.length(0, 0, 1000, "Rounds its outer corners.")
    offset: tuple[float, float] = kinds.point((0, 0), "Moves it away from behind the letters.")
    colour: kinds.Colour = kinds.colour("#20242b", "Its colour.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


def _margin(settings: Backing, scene: Scene) -> Margin:
    room = max(settings.grow, 0) + settings.inner
    x, y = settings.offset
    # It is made where the letters are and then moved: room for both.
    beyond = (max(-x, 0), max(-y, 0), max(x, 0), max(y, 0))
    return Margin(*(math.ceil((room + side) * scene.scale) + 3 for side in beyond))


@step(
    "shape.backing",
    "Backing",
    words="outline, sticker, border, second outline, plate, shape behind",
    reads=("matte",),
    writes=("behind", "body"),
    margin=_margin,
)
def backing(piece: Piece, settings: Backing, scene: Scene) -> Piece:
    """Lay a second, larger outline behind the letters, in its own colour."""
    distance = piece.distance - np.float32(settings.grow * scene.scale)
    distance = rounded(distance, settings.inner * scene.scale)
    distance = rounded(distance, -settings.radius * scene.scale)
    x, y = (axis * scene.scale for axis in settings.offset)
    shape = _moved(covered(distance), x, y)
    colour, alpha = rgb_and_alpha(settings.colour)
    cover = np.asarray(shape * np.float32(settings.opacity * alpha), np.float32)
    return beneath(piece, colour, cover).solidified(cover)


def _moved(shape: Array, x: float, y: float) -> Array:
    """Moved by pixels and parts of them; nothing comes in from beyond the border."""
    if x == 0 and y == 0:
        return shape
    matrix = np.array([[1, 0, x], [0, 1, y]])
    size = (shape.shape[1], shape.shape[0])
    return np.asarray(cv2.warpAffine(shape, matrix, size, flags=cv2.INTER_LINEAR), np.float32)
