"""A body seen from its edge or its back: drawn in the picture itself, as no plane of its card could
hold it."""

import math

import numpy as np

from mabrel.field.body import Rays
from mabrel.steps.extent import Extent
from mabrel.steps.planes.projections import seen_region
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene

_LOWEST = math.sin(math.radians(9))  # of the viewer's height over a card, below which it is apart


def is_apart(scene: Scene) -> bool:
    """Whether one sees a card from its edge, or its back."""
    if not scene.turned:
        return False
    x, y, away = scene.viewer
    return away < _LOWEST * math.sqrt(x * x + y * y + away * away)


def target_of(extent: Extent, length: float, outgrown: float, scene: Scene) -> Region:
    """The part of the picture in which a body is seen."""
    spare = math.ceil(outgrown) + 2
    wide = extent.region.grown(Margin(spare, spare, spare, spare))
    found = []
    for z in (0.0, -length):
        at_depth = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, z], [0, 0, 1.0]])
        found.append(seen_region(scene.seen @ at_depth, wide, scene))
    there = [each for each in found if each.area]
    return there[0].joined(there[-1]) if there else found[0]


def rays_apart(scene: Scene) -> Rays:
    """From the viewer through the picture's pixels, in the card's axes."""
    start = np.zeros((3, 3))
    start[:, 2] = scene.viewer
    return Rays(start, np.asarray(np.linalg.inv(scene.seen[:, :3]), np.float64), 1e-6)
