"""What the lettering casts on its surroundings."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import over
from mabrel.steps.region import Region

Stretch = tuple[tuple[float, float], tuple[float, float]]
"""2 × 2: from lengths on a card to lengths in the picture, in the middle of what is on it."""


@dataclass(frozen=True)
class Cast:
    """What the lettering casts on floors and walls: shadows and reflections.

    It lies in the picture as the viewer sees it, not on the card: however the card is turned, it
    is no larger than what the frame shows.
    """

    region: Region
    """In the picture's own render pixels, from the layer's origin."""
    pixels: NDArray[np.float32]
    """(H, W, 4), over `region`."""

    def grown_to(self, region: Region) -> "Cast":
        """The same over a region that holds its own."""
        if region == self.region:
            return self
        wide = np.zeros((region.height, region.width, 4), np.float32)
        wide[self.region.within(region)] = self.pixels
        return Cast(region, wide)

    def over(self, below: "Cast | None") -> "Cast":
        """Both, over a region that holds them."""
        if below is None:
            return self
        region = self.region.joined(below.region)
        return Cast(region, over(below.grown_to(region).pixels, self.grown_to(region).pixels))


@dataclass(frozen=True)
class Reach:
    """How a body reaches back behind its card, in render pixels: as copies of its outline that lie
    ever deeper."""

    depth: float
    """How far behind the card the last one lies."""
    towards: tuple[float, float] = (0.0, 0.0)
    """How far that is moved along the card; with `shrink` the place on which they close in."""
    shrink: float = 0.0
    """By what share it is smaller."""
    front: float = 0.0
    """How far before the card the first one lies: what is lowest stands where it is drawn."""

    def at(self, share: float) -> NDArray[np.float64]:
        """4 × 3: from (x, y, 1) on the card to the place that a copy has, 0 at the face to 1."""
        moved = share if self.shrink == 0 else share * self.shrink
        size = 1 - share * self.shrink
        x, y = (side * moved for side in self.towards)
        return np.array(
            [[size, 0, x], [0, size, y], [0, 0, self.front - share * self.depth], [0, 0, 1.0]]
        )

    def pushed(self, x: float, y: float) -> tuple[tuple[float, float], float]:
        """Where its copies run, or close in, if the last one is moved by (x, y) more."""
        more = 1.0 if self.shrink == 0 else self.shrink
        return (self.towards[0] + x / more, self.towards[1] + y / more), self.shrink


@dataclass(frozen=True)
class Beside:
    """A body that no plane of its card could hold, and which is drawn in the picture."""

    region: Region
    """In the picture's own render pixels, from the layer's origin."""
    cover: NDArray[np.float32]
    """(H, W), over `region`: coverage of all that is solid."""
    stretch: Stretch
    """How its card is seen."""
    under: Cast | None = None
    """What is drawn under it in the picture, and belongs to it."""
