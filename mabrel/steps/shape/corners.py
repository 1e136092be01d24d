"""The lettering's box pulled by its corners."""

import cv2
import numpy as np

from mabrel.steps.extent import Bound, Extent
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.warping import WRITES, Map, bound_of, room_for, warped
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Corners(StepSettings):
    top_left: tuple[float, float] = kinds.point(
        (0, 26), "How far this corner is pulled.", grip="corner left top"
    )
    top_right: tuple[float, float] = kinds.point(
        (0, -26), "How far this corner is pulled.", grip="corner right top"
    )
    bottom_right: tuple[float, float] = kinds.point(
        (0, 26), "How far this corner is pulled.", grip="corner right bottom"
    )
    bottom_left: tuple[float, float] = kinds.point(
        (0, -26), "How far this corner is pulled.", grip="corner left bottom"
    )


def _room(piece: Extent, settings: Corners, scene: Scene) -> Margin:
    return room_for(piece.box, _map(_matrix(piece.box, settings, scene)))


def _after(bound: Bound, room: Margin, settings: Corners, scene: Scene) -> Bound:
    return bound_of(bound, room, _map(_matrix(bound.box, settings, scene)))


@step(
    "shape.corners",
    "Corners",
    words="perspective, distort, slant, skew, wall, four corners",
    reads=("matte", "face"),
    writes=WRITES,
    room=_room,
    after=_after,
)
def corners(piece: Piece, settings: Corners, scene: Scene) -> Piece:
    """Pull the four corners of the lettering's box, as though it lay on a slanted wall."""
    matrix = _matrix(piece.box, settings, scene)
    forward, inverse = _map(matrix), _map(np.linalg.inv(matrix))
    return warped(piece, forward, inverse)


def _matrix(box: tuple[float, float, float, float], settings: Corners, scene: Scene) -> np.ndarray:
    """The homography (Hartley and Zisserman 2004, 4.1) of the box on the pulled corners.

    Corners that would fold the box over are held back to where it is still seen from in front.
    """
    left, top, right, bottom = box
    right, bottom = max(right, left + 1), max(bottom, top + 1)
    before = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    pulls = [settings.top_left, settings.top_right, settings.bottom_right, settings.bottom_left]
    moved = np.array(pulls) * scene.scale
    share = 1.0
    while share > 1e-3 and not _convex(before + moved * share):
        share *= 0.9
    after = before + moved * (share if _convex(before + moved * share) else 0)
    return np.asarray(
        cv2.getPerspectiveTransform(before.astype(np.float32), after.astype(np.float32))
    )


def _convex(points: np.ndarray) -> bool:
    """Whether the corners go round one way, and no two are nearly one."""
    sides = np.roll(points, -1, axis=0) - points
    after = np.roll(sides, -1, axis=0)
    cross = sides[:, 0] * after[:, 1] - sides[:, 1] * after[:, 0]
    size = np.linalg.norm(sides, axis=1) * np.linalg.norm(after, axis=1)
    return bool((cross > 0.05 * np.maximum(size, 1e-9)).all() and (size > 1).all())


def _map(matrix: np.ndarray) -> Map:
    def moved(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        w = matrix[2, 0] * x + matrix[2, 1] * y + matrix[2, 2]
        w = np.where(np.abs(w) < 1e-3, 1e-3, w)
        return (
            (matrix[0, 0] * x + matrix[0, 1] * y + matrix[0, 2]) / w,
            (matrix[1, 0] * x + matrix[1, 1] * y + matrix[1, 2]) / w,
        )

    return moved
