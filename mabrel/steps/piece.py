"""The piece: what flows along a build.

A step gets a new piece from the one that it was given by one of its operations, each of which
keeps all fields in step with one another: colours of every plane, faces with what was painted on
them, a matte with its outline, box and distance.
"""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour import over
from mabrel.field import signed_distance
from mabrel.field.body import Rays
from mabrel.field.lowest import lowest
from mabrel.field.outline_crossings import Edge, edge_of, edge_of_outline
from mabrel.field.room import with_room
from mabrel.kernels import kernel
from mabrel.steps.body import Beside, Pause, Reach, Seen, Sides, Stretch
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Box, Lines
from mabrel.steps.ink import ink_of
from mabrel.steps.memory import Memory
from mabrel.steps.region import Margin, Region

Array = NDArray[np.float32]
T = TypeVar("T")
_ARRAYS = ("matte", "face", "height", "behind", "front", "body", "plate", "added")
"""All fields that are arrays over its region; `grown` and `moved` go through them."""
_SEEN = ("matte", "face", "behind", "front", "added")
_NOTHING = np.zeros((0, 0), np.float32)


@dataclass(frozen=True)
class Piece:
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
    inner: "tuple[Piece, Margin] | None" = field(default=None, repr=False, compare=False)
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

    # The face

    @property
    def body_known(self) -> Sides | None:
        """Its sides, where no step has changed since what is behind its face but by laying
        something under it."""
        known = self.sides is not None and self.behind is self.sides.behind
        return self.sides if known else None

    @property
    def without_sides(self) -> "Piece":
        """All of it but the sides that are known."""
        known = self.body_known
        if known is None:
            return self
        return replace(self, behind=known.under, body=self.plate, sides=None)

    def recoloured(self, change: Callable[[Array], Array]) -> "Piece":
        """Every colour of the face ((H, W, 4)) through `change`, and likewise those that steps
        painted on it, so that they fit where the fill is faded."""
        added = None if self.added is None else change(self.added)
        return replace(self, face=change(self.face), added=added)

    def painted(self, face: Array, added: Callable[[Array], Array]) -> "Piece":
        """With a new face; `added` paints the same on what steps have painted, where that is kept
        apart."""
        return replace(self, face=face, added=None if self.added is None else added(self.added))

    def tracking(self) -> "Piece":
        """With what steps paint from now on kept apart from the fill."""
        return self if self.added is not None else replace(self, added=np.zeros_like(self.face))

    # All that is seen

    def regraded(self, change: Callable[[Array, Region], Array]) -> "Piece":
        """Every plane of colour there is ((H, W, 4), over its region) through `change`."""

        def changed(plane: Array | None) -> Array | None:
            return None if plane is None else change(plane, self.region)

        thrown, known, behind = self.cast, self.body_known, changed(self.behind)

        def seen(rays: Rays, region: Region, pause: Pause) -> Seen:
            assert known is not None
            found = known.seen(rays, region, pause)
            return found._replace(pixels=change(found.pixels, region))

        return replace(
            self,
            face=change(self.face, self.region),
            behind=behind,
            sides=known and replace(known, behind=behind, seen=seen, under=changed(known.under)),
            front=changed(self.front),
            added=changed(self.added),
            cast=thrown and Cast(thrown.region, change(thrown.pixels, thrown.region)),
        )

    def without_cast(self) -> "Piece":
        return self if self.cast is None else replace(self, cast=None)

    def without_planes(self) -> "Piece":
        """The face alone: nothing behind, before or around it."""
        return replace(self, behind=None, front=None, cast=None, sides=None)

    @property
    def is_plane(self) -> bool:
        """Whether its face is all that is seen of it, everywhere."""
        planes = (self.behind, self.front, self.added, self.cast)
        return self.matte is self.full and all(each is None for each in planes)

    def in_front(self, source: Array) -> "Piece":
        """With `source` ((H, W, 4)) over all that is in front."""
        if self.is_plane:
            return replace(self, face=over(self.face, source))
        return replace(self, front=source if self.front is None else over(self.front, source))

    def just_behind(self, source: Array) -> "Piece":
        """With `source` right behind the face, over all that is behind it already."""
        return replace(self, behind=source if self.behind is None else over(self.behind, source))

    def behind_repainted(self, behind: Array) -> "Piece":
        """With other colours ((H, W, 4)) of what is behind the face, which covers the same. Seen
        from elsewhere its sides are what is seen here."""
        return replace(self, behind=behind, sides=None)

    def beneath(self, source: Array) -> "Piece":
        """With `source` under all that is behind the face."""
        known = self.body_known
        if known is None:
            return replace(self, behind=_under(source, self.behind))
        # What is known of the sides stays true, and the same array tells so.
        behind, under = _under(source, self.behind), _under(source, known.under)
        return replace(self, behind=behind, sides=replace(known, behind=behind, under=under))

    def casting(self, thrown: Cast) -> "Piece":
        """With `thrown` under all that it casts on its surroundings already."""
        return replace(self, cast=thrown if self.cast is None else self.cast.over(thrown))

    def seen_beside(self, seen: Cast, stretch: Stretch, hides: bool) -> "Piece":
        """With a body that is seen beside its card, over all that it casts; where it `hides` the
        card, nothing of that is seen any more."""
        beside = Beside(seen.region, seen.pixels[..., 3], stretch)
        done = replace(self, cast=seen.over(self.cast), beside=beside)
        if not hides:
            return done
        return replace(done, face=np.zeros_like(self.face), behind=None, front=None, added=None)

    def settled(self) -> "Piece":
        """With what it casts as a part of what is behind it: where its card lies as the frame
        does, both have the same pixels."""
        if self.cast is None:
            return self
        wide = self.grown(self.region.room_for(self.cast.region))
        return replace(wide.beneath(self.cast.grown_to(wide.region).pixels), cast=None)

    def only_cast(self, thrown: Cast) -> "Piece":
        """Nothing but what it casts: the lettering itself is gone."""
        empty = np.zeros_like(self.matte)
        gone = replace(self.reshaped(empty), body=empty, plate=None)
        return replace(gone, behind=None, front=None, cast=thrown)

    def as_picture(self, pixels: Array) -> "Piece":
        """Nothing but a picture ((H, W, 4)): no face, and nothing that is solid."""
        empty = np.zeros_like(self.matte)
        gone = replace(self.reshaped(empty, box=self.box), body=empty, plate=None)
        return replace(gone, behind=None, front=pixels, cast=None)

    # The shape

    def reshaped(
        self, matte: Array, outline: Lines | None = None, box: Box | None = None
    ) -> "Piece":
        """With another matte, whose edge is `outline` where that is known. Its box follows from
        them, unless it is known better."""
        box = box or _box_of(outline, matte, self)
        return replace(
            self, matte=matte, outline=outline, box=box, sides=None, beside=None,
            memory=Memory(), inner=None,
        )  # fmt: skip

    def moved(
        self, taken: Callable[[Array, bool], Array], matte: Array, outline: Lines | None = None
    ) -> "Piece":
        """Every field of it looked up in other places by `taken`, which also is told whether the
        plane goes on beyond its border; with the matte that comes of it."""

        rest = tuple(name for name in _ARRAYS if name not in ("matte", "face"))
        changes = self._each(lambda array: taken(array, False) if array.any() else array, rest)
        changes["face"] = self.face if _uniform(self.face) else taken(self.face, True)
        return replace(self.reshaped(matte, outline), **changes)

    def cut_off(self, share: Array, outline: Lines | None) -> "Piece":
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

    def solidified(self, cover: Array) -> "Piece":
        """With more of it solid in the card's plane: what `cover` ((H, W), 0..1) covers."""
        plate = _greater(self.standing, cover)
        return replace(self, body=_greater(self.solid, cover), plate=plate)

    def deepened(self, cover: Array, depth: float, outgrown: float) -> "Piece":
        """With sides, seen as `cover`, that run `depth` pixels straight back and grow `outgrown`
        pixels beyond the outline on their way."""
        plate = self.plate
        if outgrown > 0:
            wider = np.clip(np.float32(0.5 + outgrown) - self.distance, 0, 1)
            plate = _greater(self.standing, wider)
        body = _greater(self.solid, cover)
        return replace(self, body=body, plate=plate, depth=max(self.depth, depth))

    @property
    def standing(self) -> Array:
        """(H, W): what stands on a floor: all that is solid, its sides apart."""
        return self.matte if self.plate is None else self.plate

    # The relief

    def with_height(self, height: Array) -> "Piece":
        """With another relief ((H, W), pixels)."""
        return replace(self, height=height)

    def keeping(self, name: str, before: "Piece") -> "Piece":
        """With what was added to the height since `before` kept by the name of a step."""
        return replace(self, reliefs={**self.reliefs, name: self.height - before.height})

    # Its place

    def grown(self, margin: Margin) -> "Piece":
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

        changes = self._each(empty, tuple(name for name in _ARRAYS if name != "face"))
        sides_of_it = (margin.top, margin.bottom, margin.left, margin.right)
        changes["face"] = cv2.copyMakeBorder(self.face, *sides_of_it, cv2.BORDER_REPLICATE)
        sides = self._sides_over(changes.get("behind"), empty)
        return replace(
            self, region=region, sides=sides, memory=self.memory.with_room(margin),
            inner=(self._bare, margin), **changes,
        )  # fmt: skip

    @property
    def _bare(self) -> "Piece":
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

    def seen_in(self, part: Region) -> "Piece":
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
        changes = bare._each(cut, _SEEN)
        return replace(bare, region=part, memory=Memory(), inner=None, **changes)

    def _each(
        self, change: Callable[[Array], Array], names: tuple[str, ...] = _ARRAYS
    ) -> dict[str, Any]:
        """Every array that lies over its region, or those of these names, through `change`."""
        arrays = {name: getattr(self, name) for name in names}
        changed = {name: change(each) for name, each in arrays.items() if each is not None}
        return {**changed, "reliefs": {name: change(each) for name, each in self.reliefs.items()}}


def _box_of(outline: Lines | None, matte: Array, piece: Piece) -> Box:
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


def _under(source: Array, plane: Array | None) -> Array:
    return source if plane is None else over(source, plane)


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
