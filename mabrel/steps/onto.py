"""From a card onto a floor or a wall, and back into the card's plane as the viewer sees it.

All is in the card's own axes and in render pixels from the layer's centre: a place on the card is
(u, v, 0), the viewer stands at (x, y, z). What lies elsewhere is brought back onto the card along
the viewer's line of sight, so that the card's one homography puts it where it is seen.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.field.projection import projected
from mabrel.light import Light
from mabrel.steps.kind import Scene
from mabrel.steps.piece import Array
from mabrel.steps.region import Margin, Region

Matrix = NDArray[np.float64]
Vector = NDArray[np.float64]
_LOWEST_LIGHT = 0.05  # sine of a light's height over a plane below which no shadow is thrown
_LARGEST = 6000  # pixels beyond which no margin goes


@dataclass(frozen=True)
class Plane:
    """All places P with normal · P = level; `normal` is a unit vector that points away from
    what stands before the plane."""

    normal: Vector
    level: float


def floor_plane(scene: Scene, level: float) -> Plane:
    return Plane(np.array(scene.down), level)


def wall_plane(scene: Scene, gap: float) -> Plane:
    """`gap` behind the layer's centre, parallel to the frame."""
    return Plane(-np.array(scene.turn[2]), gap)


def seen_on_card(places: Matrix, scene: Scene, weight: Vector | None = None) -> Matrix:
    """3 × 3: from (u, v, 1) to where the viewer sees, on the card's plane, the place that
    `places` (3 × 3) makes of it, divided by `weight` (3) where that is given."""
    x, y, z = scene.viewer
    weight = np.array([0.0, 0.0, 1.0]) if weight is None else weight
    return np.array(
        [places[0] - places[2] * (x / z), places[1] - places[2] * (y / z), weight - places[2] / z]
    )


def mirrored(scene: Scene, level: float, height: float = 1.0, slant: float = 0.0) -> Matrix:
    """3 × 3, for `seen_on_card`: the card mirrored in the floor at `level`, `height` times as
    high, sheared by `slant` to the right."""
    down, right = np.array(scene.down), np.array(scene.stand[0])
    above = np.array([down[0], down[1], -level])  # of (u, v, 1), negative above the floor
    flat = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, 0]])
    return flat - np.outer((1 + height) * down + slant * right, above)


def shadow_on(plane: Plane, light: Light, scene: Scene) -> Matrix | None:
    """3 × 3: from (u, v, 1) to where the viewer sees, on the card's plane, the shadow of that
    place on `plane`; None where the light doesn't throw one there."""
    before = np.array([plane.normal[0], plane.normal[1], -plane.level])  # negative before it
    flat = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, 0]])
    if light.place is None:
        towards = np.array(light.direction)
        rise = float(plane.normal @ towards)
        if rise > -_LOWEST_LIGHT:
            return None
        return seen_on_card(flat - np.outer(towards, before) / rise, scene)
    source = np.array(light.place)
    away = float(plane.normal @ source) - plane.level
    if away > -_LOWEST_LIGHT:
        return None
    # P' = Q + (P − Q) · a / (a − n·P + level) with a the light's own place before the plane.
    weight = np.array([plane.normal[0], plane.normal[1], -plane.level - away])
    carried = (flat - np.outer(source, [0, 0, 1.0])) * -away
    return seen_on_card(carried + np.outer(source, weight), scene, weight)


def own_light(scene: Scene, angle: float, length: float) -> Light:
    """The light whose shadow on the floor falls in the direction `angle` (degrees; 0 to the
    right, 90 towards the viewer), `length` times as long as what throws it is high."""
    turn = math.radians(angle)
    stand = np.array(scene.stand)
    towards = -length * (math.cos(turn) * stand[0] + math.sin(turn) * stand[2]) - stand[1]
    return light_towards(towards)


def light_towards(towards: Vector) -> Light:
    x, y, z = towards / np.linalg.norm(towards)
    return Light(
        math.degrees(math.atan2(y, x)), math.degrees(math.asin(min(max(float(z), -1.0), 1.0)))
    )


def reach_of(matrix: Matrix, region: Region, around: Region | None = None) -> Margin:
    """The room beyond `around` (or itself) that a region's picture needs after `matrix`."""
    around = around or region
    x, y = [region.left, region.right] * 2, [region.top] * 2 + [region.bottom] * 2
    u, v, w = matrix @ np.array([x, y, [1.0] * 4])
    if (w <= 1e-6).any():
        return Margin(_LARGEST, _LARGEST, _LARGEST, _LARGEST)
    u, v = u / w, v / w
    sides = (
        around.left - min(u), around.top - min(v), max(u) - around.right, max(v) - around.bottom,
    )  # fmt: skip
    left, top, right, bottom = (min(max(math.ceil(side), 0), _LARGEST) for side in sides)
    return Margin(left, top, right, bottom)


def laid_out(image: Array, matrix: Matrix, source: Region, target: Region) -> Array:
    """`image` (over `source`) after `matrix`, over `target`."""
    to_place = np.array([[1, 0, source.left + 0.5], [0, 1, source.top + 0.5], [0, 0, 1.0]])
    to_array = np.array([[1, 0, -target.left - 0.5], [0, 1, -target.top - 0.5], [0, 0, 1.0]])
    return projected(image, to_array @ matrix @ to_place, (target.width, target.height))
