"""The piece: what flows along a build."""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from mabrel.field import signed_distance
from mabrel.steps.region import Margin, Region

Array = NDArray[np.float32]
Lines = NDArray[np.float64]
T = TypeVar("T")


@dataclass(frozen=True)
class Piece:
    """A lettering on its way through a build. Arrays are never changed in place.

    Colours are premultiplied, sRGB-encoded and not clamped. `face` is a plane of colour that
    goes on beyond the lettering; `matte` cuts it out at the very end, so no step ever meets a
    half-covered colour.
    """

    region: Region
    """Where the arrays lie; the layer's own centre is the origin."""
    box: tuple[float, float, float, float]
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
    depth: float = 0.0
    """How far what is solid reaches straight back behind the card, in pixels."""
    added: Array | None = None
    """(H, W, 4): what steps painted on the face, kept apart where the fill is faded."""
    outline: Lines | None = None
    """(N, 4: x1, y1, x2, y2): the matte's edge as closed outlines, in pixels from the layer's
    centre; None where only the matte itself knows it."""
    reliefs: Mapping[str, Array] = field(default_factory=dict)
    """What single steps, by their id, added to the height; only of those asked for later."""
    _memo: dict[str, tuple[Hashable, Any]] = field(default_factory=dict, repr=False, compare=False)

    @property
    def distance(self) -> Array:
        """(H, W): signed distance to the matte's edge, computed once."""
        return self.remembered("distance", None, lambda: signed_distance(self.matte))

    def remembered(self, name: str, key: Hashable, make: Callable[[], T]) -> T:
        """What follows from the matte alone, and `key`: made once, the last one kept.

        All pieces with this matte in this region share it, whatever their colours.
        """
        if name not in self._memo or self._memo[name][0] != key:
            self._memo[name] = (key, make())
        return cast(T, self._memo[name][1])

    @property
    def solid(self) -> Array:
        """(H, W): what throws a shadow."""
        return self.matte if self.body is None else self.body

    @property
    def nbytes(self) -> int:
        arrays = [self.matte, self.face, self.height, self.behind, self.front, self.body]
        arrays += [self.added, self.matte]  # once more for the distance that it will have
        arrays += self.reliefs.values()
        return sum(array.nbytes for array in arrays if array is not None)

    def but(self, **changes: Any) -> "Piece":
        """A piece with some arrays replaced; distance and outline are kept while the matte is."""
        if "matte" in changes:
            changes = {"outline": None, **changes, "_memo": {}}
        return replace(self, **changes)

    def grown(self, margin: Margin) -> "Piece":
        """The same piece with room around it: the face goes on, all else is empty there."""
        if not any(margin):
            return self
        rows, columns = (margin.top, margin.bottom), (margin.left, margin.right)

        def empty(array: Array) -> Array:
            return np.pad(array, (rows, columns, (0, 0))[: array.ndim])

        def empty_or_none(array: Array | None) -> Array | None:
            return None if array is None else empty(array)

        return replace(
            self,
            region=self.region.grown(margin),
            matte=empty(self.matte),
            face=np.pad(self.face, (rows, columns, (0, 0)), mode="edge"),
            height=empty(self.height),
            behind=empty_or_none(self.behind),
            front=empty_or_none(self.front),
            body=empty_or_none(self.body),
            added=empty_or_none(self.added),
            reliefs={name: empty(relief) for name, relief in self.reliefs.items()},
            _memo=self.remembered("grown", margin, dict),
        )


def mixed(before: Piece, after: Piece, weight: float | Array) -> Piece:
    """Between a step's input and its result, which lie in the same region.

    `weight` is a share, or one for each pixel ((H, W)).
    """

    def between(a: Array | None, b: Array | None) -> Array | None:
        if a is b or b is None:
            return b
        a = np.zeros_like(b) if a is None else a
        share = weight if isinstance(weight, float) or b.ndim == 2 else weight[..., None]
        return np.asarray(a + (b - a) * share, np.float32)

    return after.but(
        **({} if after.matte is before.matte else {"matte": between(before.matte, after.matte)}),
        face=between(before.face, after.face),
        height=between(before.height, after.height),
        behind=between(before.behind, after.behind),
        front=between(before.front, after.front),
        body=after.body if after.body is before.body else between(before.solid, after.body),
        added=between(before.added, after.added),
    )
