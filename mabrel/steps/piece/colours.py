"""The colours of a piece: of its face, of what lies behind and in front of it, of what it casts."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from mabrel.colour import over
from mabrel.field.body import Rays
from mabrel.steps.body import Beside, Pause, Seen, Stretch
from mabrel.steps.cast import Cast
from mabrel.steps.piece.fields import Array
from mabrel.steps.piece.shape import ShapedPiece
from mabrel.steps.region import Region


@dataclass(frozen=True)
class Piece(ShapedPiece):
    """A lettering on its way through a build, with all that steps do to it."""

    # The face

    @property
    def without_sides(self) -> Self:
        """All of it but the sides that are known."""
        known = self.body_known
        if known is None:
            return self
        return replace(self, behind=known.under, body=self.plate, sides=None)

    def recoloured(self, change: Callable[[Array], Array]) -> Self:
        """Every colour of the face ((H, W, 4)) through `change`, and likewise those that steps
        painted on it, so that they fit where the fill is faded."""
        added = None if self.added is None else change(self.added)
        return replace(self, face=change(self.face), added=added)

    def painted(self, face: Array, added: Callable[[Array], Array]) -> Self:
        """With a new face; `added` paints the same on what steps have painted, where that is kept
        apart."""
        return replace(self, face=face, added=None if self.added is None else added(self.added))

    def tracking(self) -> Self:
        """With what steps paint from now on kept apart from the fill."""
        return self if self.added is not None else replace(self, added=np.zeros_like(self.face))

    # All that is seen

    def regraded(self, change: Callable[[Array, Region], Array]) -> Self:
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

    def without_cast(self) -> Self:
        return self if self.cast is None else replace(self, cast=None)

    def without_planes(self) -> Self:
        """The face alone: nothing behind, before or around it."""
        return replace(self, behind=None, front=None, cast=None, sides=None)

    @property
    def is_plane(self) -> bool:
        """Whether its face is all that is seen of it, everywhere."""
        planes = (self.behind, self.front, self.added, self.cast)
        return self.matte is self.full and all(each is None for each in planes)

    def in_front(self, source: Array) -> Self:
        """With `source` ((H, W, 4)) over all that is in front."""
        if self.is_plane:
            return replace(self, face=over(self.face, source))
        return replace(self, front=source if self.front is None else over(self.front, source))

    def just_behind(self, source: Array) -> Self:
        """With `source` right behind the face, over all that is behind it already."""
        return replace(self, behind=source if self.behind is None else over(self.behind, source))

    def behind_repainted(self, behind: Array) -> Self:
        """With other colours ((H, W, 4)) of what is behind the face, which covers the same. Seen
        from elsewhere its sides are what is seen here."""
        return replace(self, behind=behind, sides=None)

    def beneath(self, source: Array) -> Self:
        """With `source` under all that is behind the face."""
        known = self.body_known
        if known is None:
            return replace(self, behind=_under(source, self.behind))
        # What is known of the sides stays true, and the same array tells so.
        behind, under = _under(source, self.behind), _under(source, known.under)
        return replace(self, behind=behind, sides=replace(known, behind=behind, under=under))

    def casting(self, thrown: Cast) -> Self:
        """With `thrown` under all that it casts on its surroundings already."""
        return replace(self, cast=thrown if self.cast is None else self.cast.over(thrown))

    def seen_beside(self, seen: Cast, stretch: Stretch, hides: bool) -> Self:
        """With a body that is seen beside its card, over all that it casts; where it `hides` the
        card, nothing of that is seen any more."""
        beside = Beside(seen.region, seen.pixels[..., 3], stretch)
        done = replace(self, cast=seen.over(self.cast), beside=beside)
        if not hides:
            return done
        return replace(done, face=np.zeros_like(self.face), behind=None, front=None, added=None)

    def settled(self) -> Self:
        """With what it casts as a part of what is behind it: where its card lies as the frame
        does, both have the same pixels."""
        if self.cast is None:
            return self
        wide = self.grown(self.region.room_for(self.cast.region))
        return replace(wide.beneath(self.cast.grown_to(wide.region).pixels), cast=None)

    def only_cast(self, thrown: Cast) -> Self:
        """Nothing but what it casts: the lettering itself is gone."""
        empty = np.zeros_like(self.matte)
        gone = replace(self.reshaped(empty), body=empty, plate=None)
        return replace(gone, behind=None, front=None, cast=thrown)

    def as_picture(self, pixels: Array) -> Self:
        """Nothing but a picture ((H, W, 4)): no face, and nothing that is solid."""
        empty = np.zeros_like(self.matte)
        gone = replace(self.reshaped(empty, box=self.box), body=empty, plate=None)
        return replace(gone, behind=None, front=pixels, cast=None)


def _under(source: Array, plane: Array | None) -> Array:
    return source if plane is None else over(source, plane)
