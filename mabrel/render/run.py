"""One render on its way: layers from back to front, each through its build."""

import functools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from mabrel.colour import blend, covering
from mabrel.render.cache import Cache
from mabrel.render.camera import floor_card, rows_of
from mabrel.render.cancel import Cancel
from mabrel.render.compose import covered_region, extent, in_picture, on_card
from mabrel.render.errors import RenderError
from mabrel.render.floor import floor_picture
from mabrel.render.pictures import cut_picture, drawn_scale, first_scale
from mabrel.render.plan import SEEN_STAGES, Planner
from mabrel.render.planned import (
    CopyPlan,
    GroundPlan,
    GroupPlan,
    PicturePlan,
    PlannedLayer,
    PlannedStep,
    WordsPlan,
    key_of,
)
from mabrel.render.sources import (
    bare_piece,
    check_area,
    full_piece,
    ground_face,
    image_piece,
    picture_piece,
    words_outline,
    words_piece,
)
from mabrel.source import Image, decoded_picture, is_drawing, picture_size
from mabrel.source.images import ink_box
from mabrel.steps import Array, Margin, Piece, Region, Scene, mixed, weights
from mabrel.steps.contact import lowest
from mabrel.steps.flattening import flattened
from mabrel.title import Floor, Layer, Placed, Wash, value_at
from mabrel.title.kinds import IMAGE_OF_LAYER

MEMORY_LIMIT = 4 * 2**30
"""Bytes that one render may need by estimate; more is refused with an error."""
LARGEST_AROUND = 6_000_000
"""Pixels that a part of the picture may take with what shines into it from beside."""
OVERVIEW = 480
"""Pixels along the frame's longer side in which steps look for highlights."""
Overview = Callable[[], tuple[Array, Region]]
_BYTES_A_PIXEL = 240  # a piece in flight: input, result and what a step needs on the way


@dataclass(frozen=True)
class Run:
    """Renders the layers of one title at one time."""

    pieces: Cache[Piece]
    images: Cache[Image]
    planner: Planner
    cancel: Cancel
    notices: list[str] = field(default_factory=list)

    @property
    def region(self) -> Region:
        return self.planner.region

    @property
    def scale(self) -> float:
        return self.planner.scale

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

    def _add_floor(self, canvas: Array, planned: PlannedLayer, floor: Floor) -> None:
        def painted(planner: Planner) -> Array:
            run = replace(self, planner=planner)
            return flattened(run.built(planner.layer(floor, planned.card)))

        far = value_at(floor.far, self.planner.time)
        key = key_of({"floor": self.planner.shown_key(planned), "region": self.region})
        kept = self.images.get(key)
        if kept is None:
            kept = Image(floor_picture(self.planner, planned.card, self.region, far, painted))
            self.images.put(key, kept)
        source = kept.pixels
        share = self._share(planned, self.region)
        faded = source if share is None else np.asarray(source * share, np.float32)
        canvas[:] = blend(floor.blend, canvas, faded)

    def _share(self, planned: PlannedLayer, part: Region) -> Array | None:
        """How much of a layer counts: its opacity, and the matte that it takes from another;
        None where that is all of it."""
        if planned.layer.matte_from is not None:
            matte = self._matte(planned.layer.matte_from, part)[..., None]
            return matte * np.float32(planned.opacity)
        return None if planned.opacity == 1 else np.full((1, 1, 1), planned.opacity, np.float32)

    def _matte(self, layer_id: str, part: Region) -> Array:
        """A layer's coverage over a part of the picture."""
        inner = replace(self, planner=replace(self.planner, region=part))
        planned = inner.planner.layer(self.planner.title.layer(layer_id))
        piece = inner.built(planned)
        return in_picture(planned, piece.region, piece.matte, part, self.scale)

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

    @property
    def _frame(self) -> Region:
        return self.planner.whole(self.scale)

    def built(self, planned: PlannedLayer) -> Piece:
        """The layer's piece after its build, from the last result that is still kept."""
        if isinstance(planned.source, WordsPlan):
            outline = words_outline(planned.source, self.planner.library)
            self.notices.extend(outline.notices)
        keys = [planned.key, *(step.key for step in planned.steps)]
        for done in range(len(keys) - 1, -1, -1):
            piece = self.pieces.get(keys[done])
            if piece is not None:
                break
        else:
            done, piece = 0, self._source(planned)
            self.pieces.put(planned.key, piece)
        for step in planned.steps[done:]:
            piece = self.stepped(planned, piece, step)
            self.pieces.put(step.key, piece)
        return piece

    def _source(self, planned: PlannedLayer) -> Piece:
        source = planned.source
        if isinstance(source, WordsPlan):
            piece = words_piece(planned, words_outline(source, self.planner.library))
        elif isinstance(source, PicturePlan):
            piece = picture_piece(planned, self._cut(source), source.height)
        elif isinstance(source, GroupPlan):
            piece = self._together(planned, source)
        elif isinstance(source, CopyPlan):
            piece = _taken(self.built(source.layer), source)
        else:
            piece = self._ground(planned, source)
        if planned.tracks_added and piece.added is None:
            piece = piece.but(added=np.zeros_like(piece.face))
        return piece

    def _ground(self, planned: PlannedLayer, source: GroundPlan) -> Piece:
        shape = (self.region.height, self.region.width)
        floor = isinstance(planned.layer, Floor)
        box = self.planner.patch(self.scale) if floor else self._frame
        return full_piece(self.region, box, ground_face(source.colour or "#00000000", shape))

    def _cut(self, plan: PicturePlan) -> Image:
        """The picture cut and trimmed; an SVG as large as it is shown."""
        trial = self._cut_at(plan, None)
        content = self.planner.library.read(plan.file)
        if not is_drawing(content) or trial.height == 0:
            return trial
        larger = drawn_scale(plan, trial)
        return self._cut_at(plan, first_scale(content, plan.file) * larger)

    def _cut_at(self, plan: PicturePlan, scale: float | None) -> Image:
        key = f"{plan.cut_key}:{scale}"
        image = self.images.get(key)
        if image is None:
            content = self.planner.library.read(plan.file)
            first = first_scale(content, plan.file) if scale is None else scale
            image = cut_picture(plan, content, first)
            self.images.put(key, image)
        return image

    def _together(self, planned: PlannedLayer, source: GroupPlan) -> Piece:
        """A group's members drawn over one another, as large as all of them."""
        inner = self.planner.at_scale(planned.scale)
        run = replace(self, planner=inner)
        shaped = [each for each in source.members if not isinstance(each.layer, Wash)]
        pieces = [(each, run.built(each)) for each in shaped]
        area = _union([extent(each, piece.region, planned.scale) for each, piece in pieces])
        if not area.area:
            return bare_piece(Region(-1, -1, 2, 2), (0, 0, 0, 0), np.zeros((2, 2), np.float32))
        check_area(planned, area)
        canvas = np.zeros((area.height, area.width, 4), np.float32)
        within = replace(run, planner=replace(inner, region=area))
        for index, each in enumerate(source.members):
            if isinstance(each.layer, Wash):
                within._add_wash(canvas, each, source.members[:index])
            else:
                within._add_layer(canvas, each)
        return image_piece(area, covering(canvas))

    def stepped(
        self,
        planned: PlannedLayer,
        piece: Piece,
        step: PlannedStep,
        overview: Overview | None = None,
    ) -> Piece:
        """The piece after one more step, with the room that it needs; nothing is kept."""
        self.cancel.check()
        scene = self._scene(planned, overview)
        if not planned.fills_frame:  # what fills the frame has nothing beyond it
            margin = step.kind.room(piece, step.settings, scene)
            if step.kind.stage in SEEN_STAGES and planned.visible is not None:
                margin = piece.region.room_within(margin, planned.visible)
            _check_memory(piece.region.grown(margin), step)
            piece = piece.grown(margin)
        after = step.kind.apply(piece, step.settings, scene)
        after = self._weighed(planned, step, piece, after)
        if step.keeps_relief:
            gained = after.height - piece.height
            after = after.but(reliefs={**after.reliefs, step.id: gained})
        return after

    def _scene(self, planned: PlannedLayer, overview: Overview | None) -> Scene:
        return Scene(
            scale=planned.scale,
            lights=planned.lights,
            pause=self.cancel.check,
            image=self._image,
            turn=rows_of(planned.card.turn),
            viewer=planned.viewer,
            stand=rows_of(planned.card.stand),
            visible=planned.visible,
            overview=overview,
        )

    def _weighed(
        self, planned: PlannedLayer, step: PlannedStep, before: Piece, after: Piece
    ) -> Piece:
        """As much of a step's result as its strength and its `where` let through."""
        if step.where is None:
            return after if step.strength == 1 else mixed(before, after, step.strength)

        def matte(layer_id: str, region: Region) -> Array:
            return on_card(planned, region, self.scale, lambda part: self._matte(layer_id, part))

        share = weights(step.where, before, planned.scale, matte)
        return mixed(before, after, np.asarray(share * np.float32(step.strength), np.float32))

    def _image(self, name: str, size: float) -> Image:
        """What an image setting names, for a step."""
        if name.startswith(IMAGE_OF_LAYER):
            return self._layer_image(name.removeprefix(IMAGE_OF_LAYER))
        library = self.planner.library
        key = f"image:{library.version(name)}"
        content = library.read(name) if self.images.get(key) is None else b""
        if content and is_drawing(content):
            scale = max(size, 1.0) / max(picture_size(content, name))
            return Image(decoded_picture(content, name, min(scale, 64.0)))
        image = self.images.get(key)
        if image is None:
            image = Image(decoded_picture(content, name))
            self.images.put(key, image)
        return image

    def _layer_image(self, layer_id: str) -> Image:
        """A layer as it looks by itself, trimmed to its ink."""
        planned = self.planner.image_layer(layer_id)
        key = f"layer:{planned.picture_key}"
        image = self.images.get(key)
        if image is None:
            inner = replace(
                self.planner, scale=planned.scale, region=self.planner.whole(planned.scale)
            )
            piece = replace(self, planner=inner).built(planned)
            flat = covering(flattened(piece, planned.face_opacity))
            left, top, right, bottom = ink_box(flat[..., 3])
            if right <= left:
                left, top, right, bottom = 0, 0, 1, 1
            image = Image(np.ascontiguousarray(flat[top:bottom, left:right]))
            self.images.put(key, image)
        return image


def _taken(piece: Piece, source: CopyPlan) -> Piece:
    if source.take == "everything":
        return piece
    face = flattened_face(piece, source.layer.face_opacity) if source.take == "face" else None
    return bare_piece(piece.region, piece.box, piece.matte, face, piece.outline)


def flattened_face(piece: Piece, face_opacity: float) -> Array:
    """The face as a plane of colour, faded as its layer fades it."""
    if piece.added is None:
        return piece.face
    share = np.float32(face_opacity)
    return piece.face * share + piece.added * (1 - share)


def _union(regions: Sequence[Region]) -> Region:
    if not regions:
        return Region(0, 0, 0, 0)
    return functools.reduce(Region.joined, regions)


def _check_memory(region: Region, step: PlannedStep) -> None:
    needed = region.area * _BYTES_A_PIXEL
    if needed > MEMORY_LIMIT:
        raise RenderError(
            f"step {step.kind.label!r} would need about {needed / 2**30:.0f} GB for "
            f"{region.width} × {region.height} pixels; the limit is {MEMORY_LIMIT / 2**30:.0f} GB. "
            "Lower its lengths or the scale of the render"
        )
