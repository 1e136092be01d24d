"""How the sides of a body run back from its face."""

import math
from dataclasses import dataclass

import numpy as np

from mabrel.steps.extent import Lines
from mabrel.steps.piece import Array
from mabrel.steps.region import Margin, Region


@dataclass(frozen=True)
class Way:
    """How the sides run, in render pixels from the layer's centre.

    `shrink` is how much the last copy has shrunk towards `towards`: t / (D + t) at depth t for
    an eye at distance D; 0 where all copies are of one size and run `length` in the direction
    `towards`. `grow` is how much larger the nearest plane is than the face: more than 1 where
    one looks at the back, which then is nearest.
    """

    towards: tuple[float, float]
    length: float
    shrink: float = 0.0
    grow: float = 1.0

    @property
    def behind(self) -> bool:
        return self.grow > 1


def room_for(region: Region, way: Way, spare: int) -> Margin:
    """The room that sides take around a face in `region`, and `spare` pixels more."""
    x, y = way.towards
    if way.shrink == 0:
        x, y = x * way.length, y * way.length
        reach = (max(-x, 0), max(-y, 0), max(x, 0), max(y, 0))
    else:
        # The nearest copy is larger, the farthest smaller, both about the vanishing point.
        ends = (way.grow, 1.0 if way.behind else 1 - way.shrink)

        def beyond(side: float, centre: float, sign: int) -> float:
            return max(max(sign * (centre + (side - centre) * s - side) for s in ends), 0.0)

        reach = (
            beyond(region.left, x, -1), beyond(region.top, y, -1),
            beyond(region.right, x, 1), beyond(region.bottom, y, 1),
        )  # fmt: skip
    left, top, right, bottom = (math.ceil(side) + spare for side in reach)
    return Margin(left, top, right, bottom)


def where_sides_begin(places: Lines, depth: Array, region: Region, way: Way) -> Lines:
    """Where on the face's outline the sides at `places` (N, 2, array coordinates over `region`)
    begin; `depth` (N), 0..1, is how far back they lie."""
    places = places + np.array([region.left, region.top])
    towards = np.array(way.towards)
    if way.shrink == 0:
        return np.asarray(places - towards * depth[:, None] * way.length)
    reach = way.shrink / (1 - way.shrink)
    near = depth if not way.behind else 1 - depth
    first = towards + (places - towards) / way.grow
    return np.asarray(first + (first - towards) * (near * reach)[:, None])
