"""How far a piece reaches: known before it is made."""

import math
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from mabrel.steps.body import Reach, Stretch
from mabrel.steps.region import Margin, Region

Box = tuple[float, float, float, float]
Lines = NDArray[np.float64]


class Extent(Protocol):
    """What a step may look at to say how much room it needs: of a piece, or of a bound on one."""

    @property
    def region(self) -> Region:
        """Where its arrays lie; the layer's own centre is the origin."""

    @property
    def box(self) -> Box:
        """Left, top, right and bottom of the ink."""

    @property
    def depth(self) -> float:
        """How far what is solid reaches straight back behind the card, in pixels."""

    @property
    def lean(self) -> Reach | None:
        """How its body reaches back, if that is not straight behind the card."""

    @property
    def rise(self) -> float:
        """The most that its relief leaves the card, in pixels."""

    @property
    def outline(self) -> Lines | None:
        """(N, 4: x1, y1, x2, y2): its edge; None where only the matte knows it."""

    @property
    def stretch(self) -> Stretch | None:
        """How its card is seen, if its body is drawn in the picture and not on that."""

    def lowest(self, down: tuple[float, ...]) -> float | None:
        """How far its solid ink reaches in the direction `down`, in render pixels from the
        layer's centre; None where there is no ink."""


@dataclass(frozen=True)
class Bound:
    """An extent that a piece which is not made yet can't leave.

    `exact` says whether the ink itself is known, by its outline or its box, and not only a box
    that holds it.
    """

    region: Region
    box: Box
    outline: Lines | None = None
    depth: float = 0.0
    rise: float = 0.0
    exact: bool = True
    outgrown: float = 0.0
    """How far beyond its outline it grows on the way back."""
    cast: Region | None = None
    """The part of the picture on which it casts something."""
    stretch: Stretch | None = None
    """How its card is seen, if its body is drawn in the picture and not on that."""
    lean: Reach | None = None
    """How its body reaches back, if that is not straight behind the card."""

    def lowest(self, down: tuple[float, ...]) -> float | None:
        """As `Extent.lowest`: that of the outline, or of the box where there is none."""
        if self.outline is not None:
            if not len(self.outline):
                return None
            reach = float((self.outline[:, :2] @ np.array(down[:2])).max())
            return reach + self.outgrown * math.hypot(down[0], down[1])
        left, top, right, bottom = self.box
        if right <= left or bottom <= top:
            return None
        reach = max(left * down[0], right * down[0]) + max(top * down[1], bottom * down[1])
        return reach + self.outgrown * math.hypot(down[0], down[1])

    def grown(self, margin: Margin) -> "Bound":
        """With more room around it: the ink stays."""
        return replace(self, region=self.region.grown(margin))

    def reshaped(self, margin: Margin, outline: Lines | None = None) -> "Bound":
        """Its ink moved by no more than `margin`; exact with an `outline`."""
        left, top, right, bottom = self.box
        box = (left - margin.left, top - margin.top, right + margin.right, bottom + margin.bottom)
        if outline is not None and len(outline):
            (left, top), (right, bottom) = outline[:, :2].min(axis=0), outline[:, :2].max(axis=0)
            box = (float(left), float(top), float(right), float(bottom))
        return replace(self.grown(margin), box=box, outline=outline, exact=outline is not None)

    def casting(self, region: Region) -> "Bound":
        """With more that it casts on its surroundings."""
        return replace(self, cast=region if self.cast is None else self.cast.joined(region))

    def settled(self) -> "Bound":
        """With what it casts as a part of what is behind it."""
        if self.cast is None:
            return self
        return replace(self.grown(self.region.room_for(self.cast)), cast=None)

    def raised(self, by: float) -> "Bound":
        """With a relief that may be so much higher."""
        return replace(self, rise=self.rise + abs(by))


def reach_of(extent: Extent) -> Reach | None:
    """How its body reaches back; None of what is flat."""
    return extent.lean or (Reach(extent.depth) if extent.depth > 0 else None)


def larger(box: Box, by: float) -> Box | None:
    """A box moved outwards by so much on each side; None where nothing would be left of it."""
    left, top, right, bottom = box
    grown = (left - by, top - by, right + by, bottom + by)
    return grown if grown[0] < grown[2] and grown[1] < grown[3] else None


def half_width(extent: Extent) -> float:
    """The most that any place inside its box is away from the edge of the ink, in pixels."""
    left, top, right, bottom = extent.box
    return max(min(right - left, bottom - top) / 2, 0.0)
