"""What a piece holds, and what follows from that."""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from mabrel.field import signed_distance
from mabrel.field.lowest import lowest
from mabrel.field.outline_crossings import Edge, edge_of, edge_of_outline
from mabrel.field.room import with_room
from mabrel.steps.body import Beside, Reach, Sides, Stretch
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Box, Lines
from mabrel.steps.memory import Memory
from mabrel.steps.region import Margin, Region

Array = NDArray[np.float32]
T = TypeVar("T")


@dataclass(frozen=True)
class PieceFields:
    """A lettering on its way through a build. Arrays are never changed in place.

    Colours are premultiplied, sRGB-encoded and not clamped. `face` is a plane of colour that
    goes on beyond the lettering; `matte` cuts it out at the very end, so no step ever meets a
    half-covered colour.
    """

    region: Region
    """Where the arrays lie; the layer's own centre is the origin."""
    box: Box
    """Left, top, right and bottom of the ink."""
    matte: Array
    """(H, W): coverage of the lettering, 0..1."""
    face: Array
    """(H, W, 4): the colour inside."""
    height: Array
    """(H, W): relief above the card in pixels."""
    behind: Array | None = None
    """(H, W, 4): what steps put under the face, such as sides and shadows."""
    front: Array | None = None
    """(H, W, 4): what steps put over the face and beyond it."""
    body: Array | None = None
    """(H, W): coverage of all that is solid, face and sides; None while that is the matte."""
    plate: Array | None = None
    """(H, W): coverage of what stands on a floor, its sides as they are and not as they are seen;
    None while that is the matte."""
    depth: float = 0.0
    """How far what is solid reaches straight back behind the card, in pixels."""
    lean: Reach | None = None
    """How its body reaches back, if that is not straight behind the card."""
    added: Array | None = None
    """(H, W, 4): what steps painted on the face, kept apart where the fill is faded."""
    outline: Lines | None = None
    """(N, 4: x1, y1, x2, y2): the matte's edge as closed outlines, in pixels from the layer's
    centre; None where only the matte itself knows it."""
    cast: Cast | None = None
    """What it casts on its surroundings; beneath all that is behind."""
    reliefs: Mapping[str, Array] = field(default_factory=dict)
    """What single steps, by their id, added to the height; only of those asked for later."""
    sides: Sides | None = None
    """The sides of its body, if they run straight back; for all who look at it from elsewhere."""
    beside: Beside | None = None
    """Its body, if that is drawn in the picture and not on the card."""
    full: Array | None = None
    """Its matte, where that covers everything: what lies beneath a wash, as one plane. What is laid
    in front of that becomes a part of it."""
    memory: Memory = field(default_factory=Memory, repr=False, compare=False)
    """What follows from its matte; all pieces with this matte in this region share it."""
    inner: "tuple[PieceFields, Margin] | None" = field(default=None, repr=False, compare=False)
    """Its shape without the room that it was given, and how much that is."""

    @property
    def distance(self) -> Array:
        """(H, W): signed distance to the matte's edge, computed once."""
        return self.remembered("distance", None, lambda: signed_distance(self.matte, self.edge))

    @property
    def least_distance(self) -> Array:
        """(H, W): the signed distance, but in the room that it was given only at least a pixel and
        no more than it is: enough for what comes nearer step by step and stays on the outline, and
        had without looking through that room."""
        if self.inner is None:
            return self.distance
        inner, margin = self.inner

        def found() -> Array:
            wide = with_room(inner.least_distance, margin)
            return self.distance if wide is None else wide

        return self.remembered("least distance", None, found)

    @property
    def edge(self) -> Edge:
        """The matte's edge below the pixel: of its outline where that is known."""

        def found() -> Edge:
            if self.outline is None:
                return edge_of(self.matte)
            corner = np.array([self.region.left + 0.5, self.region.top + 0.5] * 2)
            return edge_of_outline(self.outline - corner, self.matte.shape)

        return self.remembered("edge", None, found)

    def remembered(self, name: str, key: Hashable, make: Callable[[], T]) -> T:
        """What follows from the matte alone, and `key`: made once, the last one kept."""
        return self.memory.remembered(name, key, make)

    @property
    def solid(self) -> Array:
        """(H, W): what throws a shadow."""
        return self.matte if self.body is None else self.body

    @property
    def rise(self) -> float:
        """The most that its relief leaves the card, in pixels."""
        return max(float(self.height.max(initial=0)), -float(self.height.min(initial=0)))

    @property
    def stretch(self) -> Stretch | None:
        """How its card is seen, if its body is drawn in the picture and not on that."""
        return None if self.beside is None else self.beside.stretch

    def lowest(self, down: tuple[float, ...]) -> float | None:
        """How far its ink reaches in the direction `down`, in render pixels from the layer's
        centre: that of all but sides that lie straight behind it, which are seen shifted by the
        view; None where there is no ink."""
        return lowest(self.standing, self.region[:2], down)

    @property
    def arrays(self) -> list[Array]:
        """All arrays that it holds, those too that follow from its matte and are remembered."""
        found: list[Any] = [self.matte, self.face, self.height, self.behind, self.front, self.body]
        found += [self.plate, self.added, *self.reliefs.values()]
        found += [] if self.cast is None else [self.cast.pixels]
        found += self.memory.arrays
        return [each for each in found if isinstance(each, np.ndarray)]

    @property
    def body_known(self) -> Sides | None:
        """Its sides, where no step has changed since what is behind its face but by laying
        something under it."""
        known = self.sides is not None and self.behind is self.sides.behind
        return self.sides if known else None

    @property
    def standing(self) -> Array:
        """(H, W): what stands on a floor: all that is solid, its sides apart."""
        return self.matte if self.plate is None else self.plate
