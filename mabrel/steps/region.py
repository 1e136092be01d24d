"""Where arrays lie: integer rectangles in render pixels."""

from collections.abc import Iterator
from typing import NamedTuple


class Margin(NamedTuple):
    """Pixels to add on each side."""

    left: int = 0
    top: int = 0
    right: int = 0
    bottom: int = 0


class Region(NamedTuple):
    """A rectangle of whole pixels; `right` and `bottom` are just outside it."""

    left: int
    top: int
    width: int
    height: int

    @property
    def right(self) -> int:
        return self.left + self.width

    @property
    def bottom(self) -> int:
        return self.top + self.height

    @property
    def area(self) -> int:
        return self.width * self.height

    def tiles(self, side: int) -> Iterator["Region"]:
        """Parts of at most `side` pixels on a side, row by row, that cover it together."""
        for top in range(self.top, self.bottom, side):
            for left in range(self.left, self.right, side):
                yield Region(left, top, min(side, self.right - left), min(side, self.bottom - top))

    def grown(self, margin: Margin) -> "Region":
        return Region(
            self.left - margin.left,
            self.top - margin.top,
            self.width + margin.left + margin.right,
            self.height + margin.top + margin.bottom,
        )

    def room_within(self, margin: Margin, bounds: "Region") -> Margin:
        """As much of a margin as stays within `bounds`."""
        left, top, right, bottom = margin
        return Margin(
            max(min(left, self.left - bounds.left), 0),
            max(min(top, self.top - bounds.top), 0),
            max(min(right, bounds.right - self.right), 0),
            max(min(bottom, bounds.bottom - self.bottom), 0),
        )

    def room_for(self, other: "Region") -> Margin:
        """What must be added on each side to hold another region too."""
        return Margin(
            max(self.left - other.left, 0),
            max(self.top - other.top, 0),
            max(other.right - self.right, 0),
            max(other.bottom - self.bottom, 0),
        )

    def moved(self, x: int, y: int) -> "Region":
        return Region(self.left + x, self.top + y, self.width, self.height)

    def common(self, other: "Region") -> "Region":
        """What both cover; of width or height 0 where they don't meet."""
        left, top = max(self.left, other.left), max(self.top, other.top)
        right, bottom = min(self.right, other.right), min(self.bottom, other.bottom)
        return Region(left, top, max(right - left, 0), max(bottom - top, 0))

    def joined(self, other: "Region") -> "Region":
        """The smallest that holds both."""
        left, top = min(self.left, other.left), min(self.top, other.top)
        right, bottom = max(self.right, other.right), max(self.bottom, other.bottom)
        return Region(left, top, right - left, bottom - top)

    def within(self, outer: "Region") -> tuple[slice, slice]:
        """The slices (rows, columns) that this region takes in an array over `outer`."""
        top, left = self.top - outer.top, self.left - outer.left
        return slice(top, top + self.height), slice(left, left + self.width)
