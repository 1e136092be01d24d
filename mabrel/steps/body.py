"""Bodies: how they reach back behind their card, and how they are seen."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import Rays
from mabrel.steps.cast import Cast
from mabrel.steps.region import Region

Array = NDArray[np.float32]
Pause = Callable[[], None]
"""Called now and then by what takes long; raises to give up."""
Stretch = tuple[tuple[float, float], tuple[float, float]]
"""2 × 2: from lengths on a card to lengths in the picture, in the middle of what is on it."""


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


class Seen(NamedTuple):
    """What one sees of a body from anywhere, without its face."""

    pixels: Array
    """(H, W, 4): premultiplied; nothing where it is the face."""
    there: NDArray[np.bool_]
    """(H, W): whether the middle of a pixel shows any of the body, or of its face."""
    place: Array
    """(H, W, 3): where that lies, in the card's axes."""


@dataclass(frozen=True)
class Sides:
    """Sides as they can be seen from anywhere."""

    behind: Array | None
    """(H, W, 4): what is behind the face of the piece that they belong to; None where they are
    seen beside its card, and nothing else is behind it."""
    seen: Callable[[Rays, Region, Pause], Seen]
    """Over a region through the pixels of which rays run. The last is called now and then, and
    raises to give up."""
    under: Array | None = None
    """(H, W, 4): what of `behind` lies under them."""
    outgrown: float = 0.0
    """How far beyond the outline they grow on their way back, in pixels."""
