"""A part that a lettering breaks into: a face, a facet, a side."""

from typing import Literal, NamedTuple

import shapely

Kind = Literal["shadow", "outline", "back", "side", "facet", "front"]


class NamedPart(NamedTuple):
    """A part, in render pixels from the layer's centre."""

    kind: Kind
    letter: str
    """The character that it belongs to and which of them it is, such as ``O2``; "" for none."""
    number: int
    """Among those of its kind and letter, from 1 on."""
    area: shapely.Polygon
    facing: float | None
    """Degrees as its letter stands, 0 to its right and 90 down; None for what faces no way."""
    place: tuple[float, float]
    """Where it is, 0..1 across and down the box of its letter, or of all where it has none: its
    middle, or that of the stretch of outline that it belongs to. Pieces of one side share it."""
    run: int | None = None
    """Which stretch of its outline it belongs to."""
