"""Inner depth: the relief shifts with the view and hides itself."""

import math
from typing import Literal

import cv2
import numba
import numpy as np

from mabrel.field.marching import EIGHT, leaned
from mabrel.kernels import kernel
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
    inside = (matte >= _INSIDE).astype(np.uint8)
    near = cv2.dilate(inside, np.ones((_BESIDE, _BESIDE), np.uint8))
    out = face.copy()
    _fill_beside(face, inside, near, _BESIDE // 2, out)
    return out


@kernel(parallel=True)
def _fill_beside(face, inside, near, reach, out):  # type: ignore[no-untyped-def]
    """Where a pixel is near what is inside: the mean of what is."""
    rows, columns = inside.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            if near[y, x] <= inside[y, x]:
                continue
            count, total = np.float32(0), np.zeros(4, np.float32)
            for j in range(max(y - reach, 0), min(y + reach + 1, rows)):
                for i in range(max(x - reach, 0), min(x + reach + 1, columns)):
                    if inside[j, i] > 0:
                        count += np.float32(1)
                        for c in range(4):
                            total[c] += face[j, i, c]
            for c in range(4):
                out[y, x, c] = total[c] / count


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
    if piece.rise * settings.amount < 0.05:
        return piece
    scene.pause()
    origin = np.array([piece.region.left + 0.5, piece.region.top + 0.5])
    planes = [each for each in (piece.face, piece.added) if each is not None]
    fields = np.zeros((*relief.shape, max(2 + 4 * len(planes), EIGHT)), np.float32)
    for number, plane in enumerate(planes):
        carried = _carried_on(plane, piece.matte)
        _put_together(piece.matte, piece.height, carried, np.int64(2 + 4 * number), fields)
    view = np.array(_view(settings, scene))
    seen, lifted = leaned(relief, fields, view, origin)
    matte, height, face = (np.empty_like(each) for each in (piece.matte, relief, piece.face))
    _take_apart(seen, lifted, matte, height, face)
    leant = piece.reshaped(matte).with_height(height)
    return leant.painted(face, lambda added: np.ascontiguousarray(seen[..., 6:10]))


@kernel(parallel=True)
def _put_together(matte, height, face, first, fields):  # type: ignore[no-untyped-def]
    rows, columns = matte.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            fields[y, x, 0], fields[y, x, 1] = matte[y, x], height[y, x]
            for c in range(4):
                fields[y, x, first + c] = face[y, x, c]


@kernel(parallel=True)
def _take_apart(seen, lifted, matte, height, face):  # type: ignore[no-untyped-def]
    """Matte, height and face from what is seen of all of them. What rises above the card is solid:
    seen along its flank, an edge stays as thin as it was."""
    rows, columns = matte.shape
    zero, one = np.float32(0), np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            share = seen[y, x, 0]
            solid = max(share, min(max(lifted[y, x], zero), one))
            matte[y, x] = solid if share > np.float32(0.02) else zero
            height[y, x] = seen[y, x, 1]
            for c in range(4):
                face[y, x, c] = seen[y, x, 2 + c]
