"""The surface bent by the relief."""

import cv2
import numpy as np

from mabrel.field import normals, softened
from mabrel.field.mapped import spanned
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_MOST = 4  # places in each direction for one pixel


class Bend(StepSettings):
    amount: float = kinds.length(60, -4000, 4000, "How far the relief's slope pushes the surface.")
    soften: float = kinds.length(6, 0, 400, "Rounds the relief before, for a calmer flow.")


@step(
    "surface.bend",
    "Bend by relief",
    words="molten, liquid, flowing, melted metal, chrome, refract",
    reads=("face", "height", "matte"),
    writes=("face",),
)
def bend(piece: Piece, settings: Bend, scene: Scene) -> Piece:
    """Push the surface aside where the relief slopes, so that streaks flow around the letters."""
    height = softened(piece.height, piece.matte, settings.soften * scene.scale)
    slope = normals(height, piece.matte)
    reach = np.float32(settings.amount * scene.scale)
    rows, columns = piece.matte.shape
    across = np.arange(columns, dtype=np.float32)[None, :] + slope[..., 0] * reach
    down = np.arange(rows, dtype=np.float32)[:, None] + slope[..., 1] * reach
    return piece.recoloured(lambda colour: _looked_up(colour, across, down))


def _looked_up(colour: Array, across: Array, down: Array) -> Array:
    """Each pixel's mean over the part of the surface that it comes from.

    Where the relief draws streaks together, one place a pixel would leave dashes. So as many
    places are taken as it spans. Where next to none spans more than itself, one is the sharper.
    """
    down_x, across_x = (_change(place, axis=1) for place in (down, across))
    down_y, across_y = (_change(place, axis=0) for place in (down, across))
    span = np.maximum(np.hypot(across_x, down_x), np.hypot(across_y, down_y))
    if np.percentile(span, 97) > 1:
        return spanned(colour, across, down, _MOST)
    across, down = _folded(across, colour.shape[1]), _folded(down, colour.shape[0])
    # OpenCV mirrors a single row for ever.
    border = cv2.BORDER_REFLECT_101 if min(colour.shape[:2]) > 1 else cv2.BORDER_REPLICATE
    looked = cv2.remap(colour, across, down, cv2.INTER_CUBIC, borderMode=border)
    return np.asarray(looked, np.float32)


def _change(place: Array, axis: int) -> Array:
    """From one pixel to the next; none where there is only one."""
    if place.shape[axis] < 2:
        return np.zeros_like(place)
    return np.asarray(np.gradient(place, axis=axis), np.float32)


def _folded(place: Array, size: int) -> Array:
    """Places far beyond the border mirrored to and fro until they lie beside it or within: OpenCV
    would do so one border at a time."""
    beyond = 2.0 * size
    if place.min(initial=0) > -beyond and place.max(initial=0) < size + beyond:
        return place
    period = np.float32(max(2 * (size - 1), 1))
    turned = np.mod(place, period)
    return np.asarray(np.minimum(turned, period - turned), np.float32)
