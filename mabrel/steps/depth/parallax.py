"""Inner depth: the relief shifts with the view and hides itself."""

import math
from typing import Literal

import cv2
import numpy as np

from mabrel.field.marching import leaned
from mabrel.steps.extent import Extent
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_STEEPEST = 8.0  # a view so flat that a place shifts by more than that many times its height
_FAR = 1e6
_INSIDE, _BESIDE = 0.98, 5  # coverage of whole pixels, and how many beside them are filled


class Parallax(StepSettings):
    amount: float = kinds.fraction(1.0, "How high the relief counts for it.", high=4)
    view: Literal["own", "camera"] = kinds.choice(
        "own", "Leaned as set here, or as the turned card is seen by the camera."
    )
    lean: float = kinds.angle(24, 0, 80, "How far one looks from the side.", when={"view": "own"})
    angle: float = kinds.angle(240, -360, 360, "From which side one looks.", when={"view": "own"})


def _view(settings: Parallax, scene: Scene) -> tuple[float, float, float]:
    """The viewer's place in render pixels from the layer's centre."""
    if settings.view == "own":
        turn, away = math.radians(settings.angle), math.tan(math.radians(settings.lean)) * _FAR
        return math.cos(turn) * away, math.sin(turn) * away, _FAR
    x, y, z = scene.viewer
    least = math.hypot(x, y) / _STEEPEST
    return x, y, max(z, least, 1.0)


def _room(piece: Extent, settings: Parallax, scene: Scene) -> Margin:
    x, y, z = _view(settings, scene)
    most = piece.rise * settings.amount
    region = piece.region
    across = max(abs(x - region.left), abs(x - region.right)) / z
    down = max(abs(y - region.top), abs(y - region.bottom)) / z
    columns = math.ceil(most * min(across, _STEEPEST)) + 2
    rows = math.ceil(most * min(down, _STEEPEST)) + 2
    return Margin(columns, rows, columns, rows)


def _carried_on(face: Array, matte: Array) -> Array:
    """A face ((H, W, 4)) with the colours of its edge beyond it, where it lies flat: between the
    two, a foot that is seen from the side would show light dashes."""
    inside = np.asarray(matte >= _INSIDE, np.float32)
    size = (_BESIDE, _BESIDE)
    near = cv2.blur(inside, size, borderType=cv2.BORDER_CONSTANT)
    colour = cv2.blur(face * inside[..., None], size, borderType=cv2.BORDER_CONSTANT)
    fills = (inside == 0) & (near > 1e-4)
    carried = colour / np.maximum(near, np.float32(1e-4))[..., None]
    return np.asarray(np.where(fills[..., None], carried, face), np.float32)


@step(
    "depth.parallax",
    "Parallax",
    words="inner depth, lean, look from the side, relief shift, occlusion",
    reads=("matte", "face", "height"),
    writes=("matte", "face", "height"),
    asks=_view,
    room=_room,
)
def parallax(piece: Piece, settings: Parallax, scene: Scene) -> Piece:
    """Look at the relief from the side: high places shift and hide what lies behind them."""
    relief = piece.height * np.float32(settings.amount)
    if float(np.abs(relief).max(initial=0)) < 0.05:
        return piece
    scene.pause()
    origin = np.array([piece.region.left + 0.5, piece.region.top + 0.5])
    layers = [piece.matte[..., None], piece.height[..., None], _carried_on(piece.face, piece.matte)]
    if piece.added is not None:
        layers.append(_carried_on(piece.added, piece.matte))
    view = np.array(_view(settings, scene))
    seen, lifted = leaned(relief, np.concatenate(layers, axis=2), view, origin)
    # What rises above the card is solid: seen along its flank, an edge stays as thin as it was.
    matte = np.where(seen[..., 0] > 0.02, np.maximum(seen[..., 0], np.clip(lifted, 0, 1)), 0)

    def part(first: int, last: int) -> Array:
        return np.ascontiguousarray(seen[..., first:last])

    leant = piece.reshaped(np.asarray(matte, np.float32)).with_height(part(1, 2)[..., 0])
    return leant.painted(part(2, 6), lambda added: part(6, 10))
