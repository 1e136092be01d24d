"""A piece of another shape: its matte and what is solid of it, its relief, and all at once."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from mabrel.kernels import kernel
from mabrel.steps.extent import Box, Lines
from mabrel.steps.ink import ink_of
from mabrel.steps.memory import Memory
from mabrel.steps.piece.fields import Array, PieceFields
from mabrel.steps.piece.place import ARRAYS, PlacedPiece
from mabrel.steps.region import Region


@dataclass(frozen=True)
class ShapedPiece(PlacedPiece):
    """Operations that change the shape, and all that follows from it with it."""

    def reshaped(self, matte: Array, outline: Lines | None = None, box: Box | None = None) -> Self:
        """With another matte, whose edge is `outline` where that is known. Its box follows from
        them, unless it is known better."""
        box = box or _box_of(outline, matte, self)
        return replace(
            self, matte=matte, outline=outline, box=box, sides=None, beside=None,
            memory=Memory(), inner=None,
        )  # fmt: skip

    def moved(
        self, taken: Callable[[Array, bool], Array], matte: Array, outline: Lines | None = None
    ) -> Self:
        """Every field of it looked up in other places by `taken`, which also is told whether the
        plane goes on beyond its border; with the matte that comes of it."""

        rest = tuple(name for name in ARRAYS if name not in ("matte", "face"))
        changes = self.each_array(lambda array: taken(array, False) if array.any() else array, rest)
        changes["face"] = self.face if _uniform(self.face) else taken(self.face, True)
        return replace(self.reshaped(matte, outline), **changes)

    def cut_off(self, share: Array, outline: Lines | None) -> Self:
        """What `share` ((H, W), 0..1) leaves of all that it is, whose edge is `outline` where
        that is known; what it casts already stays."""

        def left(plane: Array | None) -> Array | None:
            return (
                None if plane is None else plane * (share if plane.ndim == 2 else share[..., None])
            )

        return replace(
            self.reshaped(self.matte * share, outline),
            behind=left(self.behind),
            front=left(self.front),
            body=left(self.body),
            plate=left(self.plate),
        )

    def solidified(self, cover: Array) -> Self:
        """With more of it solid in the card's plane: what `cover` ((H, W), 0..1) covers."""
        plate = _greater(self.standing, cover)
        return replace(self, body=_greater(self.solid, cover), plate=plate)

    def deepened(self, cover: Array, depth: float, outgrown: float) -> Self:
        """With sides, seen as `cover`, that run `depth` pixels straight back and grow `outgrown`
        pixels beyond the outline on their way."""
        plate = self.plate
        if outgrown > 0:
            wider = np.clip(np.float32(0.5 + outgrown) - self.distance, 0, 1)
            plate = _greater(self.standing, wider)
        body = _greater(self.solid, cover)
        return replace(self, body=body, plate=plate, depth=max(self.depth, depth))

    def with_height(self, height: Array) -> Self:
        """With another relief ((H, W), pixels)."""
        return replace(self, height=height)

    def keeping(self, name: str, before: "PieceFields") -> Self:
        """With what was added to the height since `before` kept by the name of a step."""
        return replace(self, reliefs={**self.reliefs, name: self.height - before.height})


def _box_of(outline: Lines | None, matte: Array, piece: PieceFields) -> Box:
    """Left, top, right, bottom of a shape; that of the piece where there is none."""
    if outline is not None and len(outline):
        x, y = outline[:, 0], outline[:, 1]
        return float(x.min()), float(y.min()), float(x.max()), float(y.max())
    left, top, right, bottom = ink_of(matte)
    if right <= left:
        return piece.box
    ink = Region(left, top, right - left, bottom - top)
    ink = ink.moved(piece.region.left, piece.region.top)
    return float(ink.left), float(ink.top), float(ink.right), float(ink.bottom)


def _greater(a: Array, b: Array) -> Array:
    return np.asarray(np.maximum(a, b), np.float32)


def _uniform(face: Array) -> bool:
    """Whether it is one colour all over: then there is nothing to move."""
    return bool((face[0, 0] == face[-1, -1]).all()) and bool(_same(face))


@kernel()
def _same(face):  # type: ignore[no-untyped-def]
    rows, columns, channels = face.shape
    for y in range(rows):
        for x in range(columns):
            for c in range(channels):
                if face[y, x, c] != face[0, 0, c]:
                    return False
    return True
