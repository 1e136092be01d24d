"""From a card onto a floor or a wall, and from there to where the viewer sees it.

A place on the card is (u, v, 0) in the card's own axes and in render pixels from the layer's
centre. A matrix of *places* (4 × 3) takes (u, v, 1) to a place in those axes, homogeneous; the
scene's `seen` (3 × 4) takes places to the picture. So one homography does both, and it is as good
for a card that is seen from its edge as for one that faces the viewer.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.field.polygons import nearer
from mabrel.field.projection import projected
from mabrel.light import Light
from mabrel.steps.extent import Extent
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene

Array = NDArray[np.float32]
Matrix = NDArray[np.float64]
Vector = NDArray[np.float64]
_LOWEST_LIGHT = 0.05  # sine of a light's height over a plane below which no shadow is thrown
_NEAR = 1e-6
_SPARE = 3  # pixels around what is seen, for lookups between pixels
_UNBOUND = 4096  # pixels from the origin to which it is painted where no frame bounds it


@dataclass(frozen=True)
class Plane:
    """All places P with normal · P = level; `normal` is a unit vector that points away from
    what stands before the plane."""

    normal: Vector
    level: float


def floor_level(extent: Extent, scene: Scene) -> float | None:
    """Where the lowest ink of face, sides and body meets the floor."""
    reach = extent.lowest(scene.down)
    return None if reach is None else reach + max(-scene.down[2], 0) * extent.depth


def floor_plane(scene: Scene, level: float) -> Plane:
    return Plane(np.array(scene.down), level)


def wall_plane(scene: Scene, gap: float) -> Plane:
    """`gap` behind the layer's centre, parallel to the frame."""
    return Plane(-np.array(scene.turn[2]), gap)


def on_card() -> Matrix:
    """4 × 3: every place of the card where it is."""
    return np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, 0], [0, 0, 1.0]])


def mirrored(scene: Scene, level: float, height: float = 1.0, slant: float = 0.0) -> Matrix:
    """4 × 3: the card mirrored in the floor at `level`, `height` times as high, sheared by
    `slant` to the right."""
    down, right = np.array(scene.down), np.array(scene.upright[0])
    above = np.array([down[0], down[1], -level])  # of (u, v, 1), negative above the floor
    places = on_card()
    places[:3] -= np.outer((1 + height) * down + slant * right, above)
    return places


def shadow_on(plane: Plane, light: Light, thrown: Matrix | None = None) -> Matrix | None:
    """4 × 3: the shadow on `plane` of each place of the card, or of where `thrown` (4 × 3) takes
    it; None where the light doesn't throw one there."""
    places = on_card() if thrown is None else thrown.copy()
    # How far a place lies behind the plane: negative before it.
    before = plane.normal @ places[:3] - np.array([0, 0, plane.level])
    if light.place is None:
        towards = np.array(light.direction)
        rise = float(plane.normal @ towards)
        if rise > -_LOWEST_LIGHT:
            return None
        places[:3] -= np.outer(towards, before) / rise
        return places
    source = np.array(light.place)
    away = float(plane.normal @ source) - plane.level
    if away > -_LOWEST_LIGHT:
        return None
    # P' = Q + (P − Q) · a / (a − n·P + level) with a the light's own place before the plane.
    weight = before - np.array([0, 0, away])
    places[:3] = (places[:3] - np.outer(source, [0, 0, 1.0])) * -away + np.outer(source, weight)
    places[3] = weight
    return places


def own_light(scene: Scene, angle: float, length: float) -> Light:
    """The light whose shadow on the floor falls in the direction `angle` (degrees; 0 to the
    right, 90 towards the viewer), `length` times as long as what throws it is high."""
    turn = math.radians(angle)
    stand = np.array(scene.upright)
    towards = -length * (math.cos(turn) * stand[0] + math.sin(turn) * stand[2]) - stand[1]
    return light_towards(towards)


def light_towards(towards: Vector) -> Light:
    x, y, z = towards / np.linalg.norm(towards)
    return Light(
        math.degrees(math.atan2(y, x)), math.degrees(math.asin(min(max(float(z), -1.0), 1.0)))
    )


def along(region: Region, normal: Vector) -> Array:
    """(H, W): normal · P for each pixel of a part of the card."""
    x = np.arange(region.width, dtype=np.float32) + np.float32(region.left + 0.5)
    y = np.arange(region.height, dtype=np.float32) + np.float32(region.top + 0.5)
    across, down = np.float32(normal[0]), np.float32(normal[1])
    return np.asarray((x * across)[None, :] + (y * down)[:, None], np.float32)


def seen_region(matrix: Matrix, source: Region, scene: Scene) -> Region:
    """The part of the picture in which what lies in `source` is seen after `matrix` (3 × 3), as
    far as the frame shows it; without width or height where that is nowhere."""
    frame = scene.frame or Region(-_UNBOUND, -_UNBOUND, 2 * _UNBOUND, 2 * _UNBOUND)
    corners = np.array(
        [
            [source.left, source.top, 1.0],
            [source.right, source.top, 1.0],
            [source.right, source.bottom, 1.0],
            [source.left, source.bottom, 1.0],
        ]
    )
    before = _before_viewer(corners @ matrix.T)
    if not len(before):
        return Region(frame.left, frame.top, 0, 0)
    x, y = before[:, 0] / before[:, 2], before[:, 1] / before[:, 2]
    low = np.maximum([x.min() - _SPARE, y.min() - _SPARE], [frame.left, frame.top])
    high = np.minimum([x.max() + _SPARE, y.max() + _SPARE], [frame.right, frame.bottom])
    if (high <= low).any():
        return Region(frame.left, frame.top, 0, 0)
    left, top, right, bottom = (
        math.floor(low[0]), math.floor(low[1]), math.ceil(high[0]), math.ceil(high[1]),
    )  # fmt: skip
    return Region(left, top, right - left, bottom - top)


def _before_viewer(corners: Matrix) -> Matrix:
    """The polygon with homogeneous `corners` (N, 3), cut off where it passes the viewer."""
    return nearer(corners, _NEAR * max(float(np.abs(corners[:, 2]).max()), 1e-12))


def shown(image: Array, matrix: Matrix, source: Region, target: Region) -> Array:
    """`image` (over `source`) as it is seen after `matrix` (3 × 3), over `target`."""
    to_place = np.array([[1, 0, source.left + 0.5], [0, 1, source.top + 0.5], [0, 0, 1.0]])
    to_array = np.array([[1, 0, -target.left - 0.5], [0, 1, -target.top - 0.5], [0, 0, 1.0]])
    return projected(image, to_array @ matrix @ to_place, (target.width, target.height))


def source_of(matrix: Matrix, source: Region, target: Region, room: int) -> Region:
    """The part of `source` that is seen in `target` after `matrix`, with so much room around."""
    determinant = np.linalg.det(matrix)
    if not np.isfinite(determinant) or abs(determinant) < 1e-18 or not target.area:
        return source
    corners = np.array(
        [
            [target.left, target.top, 1.0],
            [target.right, target.top, 1.0],
            [target.right, target.bottom, 1.0],
            [target.left, target.bottom, 1.0],
        ]
    )
    back = corners @ np.linalg.inv(matrix).T
    if (back[:, 2] <= 0).any():
        return source
    x, y = back[:, 0] / back[:, 2], back[:, 1] / back[:, 2]
    left, top = math.floor(x.min()) - room, math.floor(y.min()) - room
    part = Region(left, top, math.ceil(x.max()) + room - left, math.ceil(y.max()) + room - top)
    return part.common(source)
