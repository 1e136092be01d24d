"""A piece in another region: with room around it, or a part of what is seen of it."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Self

import cv2
import numpy as np

from mabrel.steps.body import Sides
from mabrel.steps.memory import Memory
from mabrel.steps.piece.fields import Array, PieceFields
from mabrel.steps.region import Margin, Region

ARRAYS = ("matte", "face", "height", "behind", "front", "body", "plate", "added")
"""All fields that are arrays over its region; `grown` and `moved` go through them."""
_SEEN = ("matte", "face", "behind", "front", "added")
_NOTHING = np.zeros((0, 0), np.float32)


@dataclass(frozen=True)
class PlacedPiece(PieceFields):
    """Operations that leave what a piece shows as it is, and change where its arrays lie."""

    def grown(self, margin: Margin) -> Self:
        """The same piece with room around it: the face goes on, all else is empty there."""
        if not any(margin):
            return self
        region = self.region.grown(margin)
        inside = self.region.within(region)

        def empty(array: Array) -> Array:
            # Its memory is first touched where something is put.
            wide = np.zeros((region.height, region.width, *array.shape[2:]), np.float32)
            wide[inside] = array
            return wide

        changes = self.each_array(empty, tuple(name for name in ARRAYS if name != "face"))
        sides_of_it = (margin.top, margin.bottom, margin.left, margin.right)
        changes["face"] = cv2.copyMakeBorder(self.face, *sides_of_it, cv2.BORDER_REPLICATE)
        sides = self._sides_over(changes.get("behind"), empty)
        return replace(
            self, region=region, sides=sides, memory=self.memory.with_room(margin),
            inner=(self._bare, margin), **changes,
        )  # fmt: skip

    @property
    def _bare(self) -> Self:
        """Its shape alone, with what is remembered of that."""
        return replace(
            self, face=_NOTHING, height=_NOTHING, behind=None, front=None, body=None, plate=None,
            added=None, cast=None, reliefs={}, sides=None,
        )  # fmt: skip

    def _sides_over(self, behind: Array | None, change: Callable[[Array], Array]) -> "Sides | None":
        """Its sides in another region, where `behind` is what lies behind its face, and `change`
        takes arrays there."""
        known = self.body_known
        if known is None:
            return None
        under = None if known.under is None else change(known.under)
        return replace(known, behind=behind, under=under)

    def seen_in(self, part: Region) -> Self:
        """What is seen of its card in a part of its region: matte and colours, but no relief and
        nothing of what is solid."""
        if part == self.region:
            return self
        inside = part.within(self.region)

        def cut(array: Array) -> Array:
            return np.ascontiguousarray(array[inside])

        bare = replace(
            self, height=_NOTHING, body=None, plate=None, cast=None, reliefs={}, sides=None
        )
        changes = bare.each_array(cut, _SEEN)
        return replace(bare, region=part, memory=Memory(), inner=None, **changes)

    def each_array(
        self, change: Callable[[Array], Array], names: tuple[str, ...] = ARRAYS
    ) -> dict[str, Any]:
        """Every array that lies over its region, or those of these names, through `change`."""
        arrays = {name: getattr(self, name) for name in names}
        changed = {name: change(each) for name, each in arrays.items() if each is not None}
        return {**changed, "reliefs": {name: change(each) for name, each in self.reliefs.items()}}
