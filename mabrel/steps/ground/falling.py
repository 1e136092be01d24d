"""How the shadow of flat letters and of bodies falls on a plane."""

import functools
import math
from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from mabrel.field import blur_margin
from mabrel.light import Light
from mabrel.steps.extent import Extent, reach_of
from mabrel.steps.planes.projections import Matrix, Plane, seen_region, shadow_on
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene

STEEPEST = 0.35  # sine of a light's height over the card below which a body is thrown in slices
_ALONG = 4.0  # degrees from the card within which a light runs along it
_SLICE, _MOST_SLICES = 1.5, 64  # pixels from one to the next, and how many there are at most


class Fall(NamedTuple):
    """How a shadow falls on a plane."""

    plane: Plane
    light: Light
    matrix: Matrix
    """3 × 3: from the card to the picture."""
    slices: tuple[Matrix, ...]
    """The same from places ever farther behind it, where the light runs along the card and no
    outline on that would throw the shadow of the body."""
    gap: float
    """How far these are apart, in the middle of the ink."""
    highest: float
    """How far the ink reaches away from the plane, at least a pixel."""
    source: Region
    """The part of the card on which what throws it lies."""
    shift: tuple[float, float]
    """How far that is moved on it, along the light, where the face lies before the card."""
    spare: int
    """How far its blur reaches, on the card."""
    target: Region
    """The part of the picture in which it is seen."""


def fall_on(
    plane: Plane | None,
    light: Light | None,
    extent: Extent,
    softest: Callable[[float], float],
    scene: Scene,
) -> Fall | None:
    """How the shadow of what has this `extent` falls; None where none does, or none is seen.
    `softest` tells the σ, in render pixels, of what is so high."""
    light = _beside(light, extent)
    first = _first(extent, light)
    places = None if plane is None or light is None else shadow_on(plane, light, first)
    if plane is None or light is None or places is None:
        return None
    away = extent.lowest((-float(plane.normal[0]), -float(plane.normal[1])))
    highest = max(plane.level + (away or 0.0), 1.0)
    spare = blur_margin(softest(highest))
    shift = _shift(extent, light)
    matrix = scene.seen @ places @ np.array([[1, 0, shift[0]], [0, 1, shift[1]], [0, 0, 1.0]])
    source = extent.region.grown(_pushed(extent, light))
    wide = source.grown(Margin(spare, spare, spare, spare))
    slices, gap = _slices(extent, plane, light, scene)
    targets = [seen_region(each, wide, scene) for each in (matrix, *slices)]
    there = [each for each in targets if each.area]
    if not there:
        return None
    target = functools.reduce(Region.joined, there)
    return Fall(plane, light, matrix, slices, gap, highest, source, shift, spare, target)


def _first(extent: Extent, light: Light | None) -> Matrix | None:
    """4 × 3: where the face of a body is, if that is thrown in slices."""
    reach = reach_of(extent)
    if reach is None or light is None or abs(light.direction[2]) >= STEEPEST:
        return None
    return reach.at(0.0)


def _beside(light: Light | None, extent: Extent) -> Light | None:
    """A distant light that runs right along the card of a body, a few degrees beside it: slices
    without any width would throw nothing."""
    if light is None or light.place is not None or reach_of(extent) is None:
        return light
    if abs(light.elevation) >= _ALONG:
        return light
    return replace(light, elevation=math.copysign(_ALONG, light.elevation))


def _slices(
    extent: Extent, plane: Plane, light: Light, scene: Scene
) -> tuple[tuple[Matrix, ...], float]:
    """3 × 3 each: from the card to where copies of a body behind its face throw their shadow in the
    picture, and how far these are apart; none where it is thrown as one outline."""
    reach = reach_of(extent)
    if reach is None or abs(light.direction[2]) >= STEEPEST:
        return (), 0.0
    ends = [shadow_on(plane, light, reach.at(share)) for share in (0.0, 1.0)]
    middle = np.array([extent.box[0] + extent.box[2], extent.box[1] + extent.box[3], 2.0]) / 2
    seen = [scene.seen @ end @ middle for end in ends if end is not None]
    if len(seen) < 2 or min(each[2] for each in seen) <= 0:
        return (), 0.0
    apart = float(np.hypot(*(seen[1][:2] / seen[1][2] - seen[0][:2] / seen[0][2])))
    count = min(max(math.ceil(apart / _SLICE), 1), _MOST_SLICES)
    shares = np.linspace(0, 1, count + 1)[1:]
    found = [shadow_on(plane, light, reach.at(float(share))) for share in shares]
    return tuple(scene.seen @ each for each in found if each is not None), apart / count


def push(extent: Extent, light: Light) -> tuple[float, float]:
    """How far, along the card, the back of a body must be pushed to throw its shadow from there."""
    x, y, z = light.direction
    reach = reach_of(extent)
    if reach is None or abs(z) < STEEPEST:
        return 0.0, 0.0
    return x / z * reach.depth, y / z * reach.depth


def _shift(extent: Extent, light: Light) -> tuple[float, float]:
    """How far, along the card, a face that lies before it must be moved to throw its shadow from
    there."""
    x, y, z = light.direction
    reach = reach_of(extent)
    if reach is None or abs(z) < STEEPEST:
        return 0.0, 0.0
    return -x / z * reach.front, -y / z * reach.front


def _pushed(extent: Extent, light: Light) -> Margin:
    """The room that takes on the card."""
    x, y = push(extent, light)
    return Margin(*(math.ceil(max(side, 0)) + 2 for side in (-x, -y, x, y))) if x or y else Margin()
