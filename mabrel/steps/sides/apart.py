"""A body seen from its edge or its back: drawn in the picture itself, as no plane of its card could
hold it."""

import math

import numpy as np

from mabrel.field.body import Rays
from mabrel.steps.body import Stretch
from mabrel.steps.planes.projections import Matrix, seen_region
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene

_LOWEST = math.sin(math.radians(9))  # of the viewer's height over a card, below which it is apart


def is_apart(scene: Scene) -> bool:
    """Whether one sees a card from its edge or its back, or it is too narrow for a body."""
    return scene.turned and (scene.crowded or _sine_over(scene) < _LOWEST)


def is_edge_on(scene: Scene) -> bool:
    """Whether one sees a card from its edge."""
    return abs(_sine_over(scene)) < _LOWEST


def _sine_over(scene: Scene) -> float:
    """Of the viewer's height over the card; below 0 behind it."""
    x, y, away = scene.viewer
    return away / math.sqrt(x * x + y * y + away * away)


def target_of(
    region: Region, length: float, outgrown: float, scene: Scene, mirror: Matrix | None = None
) -> Region:
    """The part of the picture in which a body behind this region is seen, or its image in a
    `mirror` (4 × 4)."""
    seen = scene.seen if mirror is None else scene.seen @ mirror
    spare = math.ceil(outgrown) + 2
    wide = region.grown(Margin(spare, spare, spare, spare))
    found = []
    for z in (0.0, -length):
        at_depth = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, z], [0, 0, 1.0]])
        found.append(seen_region(seen @ at_depth, wide, scene))
    there = [each for each in found if each.area]
    return there[0].joined(there[-1]) if there else found[0]


def rays_apart(scene: Scene) -> Rays:
    """From the viewer through the picture's pixels, in the card's axes."""
    start = np.zeros((3, 3))
    start[:, 2] = scene.viewer
    return Rays(start, np.asarray(np.linalg.inv(scene.seen[:, :3]), np.float64), 1e-6)


def stretch_of(region: Region, length: float, scene: Scene) -> Stretch:
    """How the card of a body behind `region` is seen, in the middle of that body."""
    middle = (region.left + region.width / 2, region.top + region.height / 2, -length / 2, 1.0)
    across, down, away = scene.seen @ np.array(middle)
    turned = scene.seen[:, :2]
    seen = (turned[:2] - np.outer([across / away, down / away], turned[2])) / away
    return ((seen[0, 0], seen[0, 1]), (seen[1, 0], seen[1, 1]))
