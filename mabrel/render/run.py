"""One render on its way: layers laid over one another, from back to front."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from mabrel.colour import blend
from mabrel.render.building import Builder
from mabrel.render.camera import floor_card
from mabrel.render.compose import covered_region, in_picture
from mabrel.render.floor import floor_picture
from mabrel.render.plan import SEEN_STAGES, Planner
from mabrel.render.planned import PlannedLayer, key_of
from mabrel.render.sources import bare_piece, full_piece
from mabrel.source import Image
from mabrel.steps import Array, Margin, Piece, Region
from mabrel.steps.contact import lowest
from mabrel.steps.flattening import flattened
from mabrel.title import Floor, Layer, Placed, Wash, value_at

LARGEST_AROUND = 6_000_000
"""Pixels that a part of the picture may take with what shines into it from beside."""
OVERVIEW = 480
"""Pixels along the frame's longer side in which steps look for highlights."""


@dataclass(frozen=True)
class Run(Builder):
    """Renders the layers of one title at one time."""

    def picture(self, layers: Sequence[Layer]) -> Array:
        """All of these layers that are visible, from back to front.

        What lies beneath a wash is kept, so that a change of the wash costs the wash alone.
        """
        stack = [self.planned(layer) for layer in layers if layer.visible]
        around = self._around(stack)
        if around != self.region:
            inner = replace(self, planner=replace(self.planner, region=around))
            return np.ascontiguousarray(inner.picture(layers)[self.region.within(around)])
        keys = self._keys(stack)
        canvas, done = self._kept(stack, keys)
        for index in range(done, len(stack)):
            self.cancel.check()
            planned = stack[index]
            if isinstance(planned.layer, Wash):
                if index > done or done == 0:
                    self.images.put(keys[index], Image(canvas.copy()))
                self._add_wash(canvas, planned, stack[:index])
            else:
                self._add_layer(canvas, planned)
        return canvas

    def _around(self, stack: Sequence[PlannedLayer]) -> Region:
        """The part of the picture that must be known for the washes to treat `region`: what
        glows beside it shines into it. Where that would be too much, as much as is allowed."""
        whole = self._frame.joined(self.region)
        if self.region == whole:
            return self.region
        stub = bare_piece(self.region, (0.0, 0.0, 0.0, 0.0), np.zeros((1, 1), np.float32))
        around = self.region
        for planned in stack:
            for step in planned.steps if isinstance(planned.layer, Wash) else ():
                if step.kind.stage in SEEN_STAGES:
                    scene = self._scene(planned, lambda: self._overview([]))
                    room = step.kind.room(stub, step.settings, scene)
                    around = around.joined(self.region.grown(room))
        around = around.common(whole)
        if around.area <= max(LARGEST_AROUND, self.region.area):
            return around
        return self._within(around)

    def _within(self, around: Region) -> Region:
        """The margins of `around` cut until its area is allowed."""
        region, share = self.region, 1.0
        while share > 0.02:
            share *= 0.8
            margin = Margin(
                round((region.left - around.left) * share),
                round((region.top - around.top) * share),
                round((around.right - region.right) * share),
                round((around.bottom - region.bottom) * share),
            )
            if region.grown(margin).area <= LARGEST_AROUND:
                return region.grown(margin)
        return region

    def _keys(self, stack: Sequence[PlannedLayer]) -> list[str]:
        """For each layer, what stands for all that lies beneath it."""
        keys, key = [], key_of({"region": self.region, "scale": self.scale})
        for planned in stack:
            keys.append(key)
            key = key_of({"beneath": key, "layer": self.planner.shown_key(planned)})
        return keys

    def _kept(self, stack: Sequence[PlannedLayer], keys: Sequence[str]) -> tuple[Array, int]:
        """The canvas that is still kept beneath the last wash that has one, and how many layers
        are on it."""
        for index in range(len(stack) - 1, 0, -1):
            if isinstance(stack[index].layer, Wash):
                image = self.images.get(keys[index])
                if image is not None:
                    return image.pixels.copy(), index
        return np.zeros((self.region.height, self.region.width, 4), np.float32), 0

    def planned(self, layer: Layer) -> PlannedLayer:
        """A layer planned; a floor without a level of its own where the lettering touches it."""
        if not isinstance(layer, Floor) or layer.level is not None:
            return self.planner.layer(layer)
        card = floor_card(self._touched(layer), self.planner.title.camera, self.planner.time)
        return self.planner.layer(layer, card)

    def _touched(self, floor: Layer) -> float:
        """How far below the frame's centre the lowest ink before a floor lies."""
        layers = self.planner.title.layers
        reached = []
        for layer in layers[layers.index(floor) + 1 :]:
            if not isinstance(layer, Placed) or not layer.visible:
                continue
            planned = self.planner.layer(layer)
            piece = self.built(planned)
            card = planned.card
            reach = lowest(piece.solid, piece.region, card.down)
            if reach is not None and planned.scale > 0:
                above = (reach - planned.shift[1]) / planned.scale * card.scale
                reached.append(card.level + above)
        return max(reached, default=0.0)

    def _add_layer(self, canvas: Array, planned: PlannedLayer) -> None:
        """Lay one layer over the canvas, in place, where it has anything."""
        if planned.opacity == 0:
            return
        layer = planned.layer
        if isinstance(layer, Floor):
            self._add_floor(canvas, planned, layer)
            return
        piece = self.built(planned)
        part = covered_region(planned, piece.region, self.region, self.scale)
        if not part.area:
            return
        flat = flattened(piece, planned.face_opacity)
        source = in_picture(planned, piece.region, flat, part, self.scale)
        where = part.within(self.region)
        beneath = np.ascontiguousarray(canvas[where])
        share = self._share(planned, part)
        faded = source if share is None else np.asarray(source * share, np.float32)
        canvas[where] = blend(layer.blend, beneath, faded)

    def _add_wash(
        self, canvas: Array, planned: PlannedLayer, beneath: Sequence[PlannedLayer]
    ) -> None:
        """Treat all that lies beneath, in place."""
        if planned.opacity == 0:
            return
        washed = flattened(self._washed(planned, canvas, beneath))
        share = self._share(planned, self.region)
        if planned.layer.blend == "normal":
            canvas += (washed - canvas) * (1 if share is None else share)
        else:
            faded = washed if share is None else np.asarray(washed * share, np.float32)
            canvas[:] = blend(planned.layer.blend, canvas.copy(), faded)

    def in_place(self, layer: Layer, field: Callable[[Piece, PlannedLayer], Array]) -> Array:
        """A field of a layer's piece ((H, W) or (H, W, C)) at its place in the picture."""
        planned = self.planned(layer)
        if isinstance(layer, Floor):
            return self._on_floor(planned, layer, field)
        piece = self.built(planned)
        return in_picture(planned, piece.region, field(piece, planned), self.region, self.scale)

    def _on_floor(
        self, planned: PlannedLayer, floor: Floor, field: Callable[[Piece, PlannedLayer], Array]
    ) -> Array:
        def painted(planner: Planner) -> Array:
            part = planner.layer(floor, planned.card)
            return field(replace(self, planner=planner).built(part), part)

        far = value_at(floor.far, self.planner.time)
        return floor_picture(self.planner, planned.card, self.region, far, painted)

    def _add_floor(self, canvas: Array, planned: PlannedLayer, floor: Floor) -> None:
        key = key_of({"floor": self.planner.shown_key(planned), "region": self.region})
        kept = self.images.get(key)
        if kept is None:
            kept = Image(self._on_floor(planned, floor, lambda piece, _: flattened(piece)))
            self.images.put(key, kept)
        source = kept.pixels
        share = self._share(planned, self.region)
        faded = source if share is None else np.asarray(source * share, np.float32)
        canvas[:] = blend(floor.blend, canvas, faded)

    def _drawn(self, members: Sequence[PlannedLayer], planner: Planner) -> Array:
        """A group's members over one another, over the planner's region."""
        run = replace(self, planner=planner)
        canvas = np.zeros((planner.region.height, planner.region.width, 4), np.float32)
        for index, each in enumerate(members):
            if isinstance(each.layer, Wash):
                run._add_wash(canvas, each, members[:index])
            else:
                run._add_layer(canvas, each)
        return canvas

    def _share(self, planned: PlannedLayer, part: Region) -> Array | None:
        """How much of a layer counts: its opacity, and the matte that it takes from another;
        None where that is all of it."""
        if planned.layer.matte_from is not None:
            matte = self._matte(planned.layer.matte_from, part)[..., None]
            return matte * np.float32(planned.opacity)
        return None if planned.opacity == 1 else np.full((1, 1, 1), planned.opacity, np.float32)

    def _washed(
        self, planned: PlannedLayer, canvas: Array, beneath: Sequence[PlannedLayer]
    ) -> Piece:
        """What lies beneath, run through the wash's build. It is new each time: not kept."""
        piece = full_piece(self.region, self._frame, canvas)
        for step in planned.steps:
            piece = self.stepped(planned, piece, step, lambda: self._overview(beneath))
            if piece.front is not None or piece.behind is not None:  # the next treats all of it
                piece = full_piece(self.region, self._frame, flattened(piece))
        return piece

    def _overview(self, beneath: Sequence[PlannedLayer]) -> tuple[Array, Region]:
        """The whole frame beneath a wash, coarse, and where it lies in this render's pixels."""
        frame = self.planner.title.frame
        scale = min(OVERVIEW / max(frame.width, frame.height), 1.0)
        key = key_of({"overview": [self.planner.shown_key(planned) for planned in beneath]})
        kept = self.images.get(key)
        if kept is None:
            coarse = replace(self.planner, scale=scale, region=self.planner.whole(scale))
            layers = [planned.layer for planned in beneath]
            kept = Image(replace(self, planner=coarse).picture(layers))
            self.images.put(key, kept)
        return kept.pixels, self._frame
