"""How the sides of a body run back from its face."""

import math
from dataclasses import dataclass

import numpy as np

from mabrel.field.body import Rays
from mabrel.steps.region import Margin, Region


@dataclass(frozen=True)
class Way:
    """How the sides run, in render pixels from the layer's centre.

    `shrink` is how much the last copy has shrunk towards `towards`: t / (D + t) at depth t for
    an eye at distance D; 0 where all copies are of one size and run `length` in the direction
    `towards`.
    """

    towards: tuple[float, float]
    length: float
    shrink: float = 0.0

    def rays(self, deep: float) -> Rays:
        """Through the pixels of the card, back through the copies: straight through a body that is
        `deep` pixels deep, seen so."""
        start = np.diag([1.0, 1.0, 0.0])
        way = np.zeros((3, 3))
        x, y = self.towards
        if self.shrink == 0:
            way[:, 2] = (-x * self.length, -y * self.length, -deep)
        else:
            reach = self.shrink / (1 - self.shrink)
            way[:] = [[reach, 0, -x * reach], [0, reach, -y * reach], [0, 0, -deep]]
        return Rays(start, way)


def room_for(region: Region, way: Way, spare: int) -> Margin:
    """The room that sides take around a face in `region`, and `spare` pixels more."""
    x, y = way.towards
    if way.shrink == 0:
        x, y = x * way.length, y * way.length
        reach = (max(-x, 0), max(-y, 0), max(x, 0), max(y, 0))
    else:
        # The farthest copy is the smallest, about the vanishing point.
        ends = (1.0, 1 - way.shrink)

        def beyond(side: float, centre: float, sign: int) -> float:
            return max(max(sign * (centre + (side - centre) * s - side) for s in ends), 0.0)

        reach = (
            beyond(region.left, x, -1), beyond(region.top, y, -1),
            beyond(region.right, x, 1), beyond(region.bottom, y, 1),
        )  # fmt: skip
    left, top, right, bottom = (math.ceil(side) + spare for side in reach)
    return Margin(left, top, right, bottom)
