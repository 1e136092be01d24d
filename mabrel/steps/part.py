"""A part that a lettering breaks into: a face, a facet, a side."""

from typing import Literal, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

Kind = Literal["shadow", "outline", "back", "side", "facet", "front"]


class Strip(NamedTuple):
    """A flat side, whole, whatever of it is seen: a stretch of outline and where it is pushed to.
    In render pixels."""

    edge: NDArray[np.float64]
    """(2, 2): both ends of the stretch, from the layer's centre."""
    far: NDArray[np.float64]
    """(2, 2): where they are seen at the back."""
    depth: float
    """How far back that is."""


class NamedPart(NamedTuple):
    """A part, in render pixels from the layer's centre."""

    kind: Kind
    letter: str
    """The character that it belongs to and which of them it is, such as ``O2``; "" for none."""
    number: int
    """Among those of its kind and letter, from 1 on; 0 for what is not seen."""
    area: shapely.Polygon
    """What is seen of it; empty for a side that others hide or that is turned away."""
    facing: float | None
    """Degrees as its letter stands, 0 to its right and 90 down; None for what faces no way."""
    place: tuple[float, float]
    """Where it is, 0..1 across and down the box of its letter, or of all where it has none: its
    middle, or that of the stretch of outline that it belongs to. Pieces of one side share it."""
    run: int | None = None
    """Which stretch of its outline it belongs to."""
    strip: Strip | None = None
    """Of a side that is flat, all of it."""
