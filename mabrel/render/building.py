"""Layers through their builds: from what a layer shows to its finished piece."""

import functools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from mabrel.colour import covering
from mabrel.render.cache import Cache
from mabrel.render.camera import rows_of
from mabrel.render.cancel import Cancel
from mabrel.render.compose import extent, in_picture, on_card
from mabrel.render.errors import RenderError
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
)
from mabrel.render.sources import (
    LONGEST_PIECE,
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
from mabrel.steps import Array, Piece, Region, Scene, mixed, weights
from mabrel.steps.flattening import flattened
from mabrel.title import Floor, Wash
from mabrel.title.kinds import IMAGE_OF_LAYER

MEMORY_LIMIT = 4 * 2**30
"""Bytes that one render may need by estimate; more is refused with an error."""
Overview = Callable[[], tuple[Array, Region]]
_BYTES_A_PIXEL = 240  # a piece in flight: input, result and what a step needs on the way


@dataclass(frozen=True)
class Builder:
    """Runs layers of one title at one time through their builds, from the last results kept.

    How a group's members are drawn over one another is left to `Run`.
    """

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

    def _matte(self, layer_id: str, part: Region) -> Array:
        """A layer's coverage over a part of the picture."""
        inner = replace(self, planner=replace(self.planner, region=part))
        planned = inner.planner.layer(self.planner.title.layer(layer_id))
        piece = inner.built(planned)
        return in_picture(planned, piece.region, piece.matte, part, self.scale)

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

    def _drawn(self, members: Sequence[PlannedLayer], planner: Planner) -> Array:
        """A group's members over one another, (H, W, 4) over the planner's region."""
        raise NotImplementedError

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
        canvas = self._drawn(source.members, replace(inner, region=area))
        return image_piece(area, covering(canvas))


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
    if max(region.width, region.height) > LONGEST_PIECE:
        raise RenderError(
            f"step {step.kind.label!r} would need {region.width} × {region.height} pixels, more "
            f"than {LONGEST_PIECE} on a side. Lower its lengths or the scale of the render"
        )
    if needed > MEMORY_LIMIT:
        raise RenderError(
            f"step {step.kind.label!r} would need about {needed / 2**30:.0f} GB for "
            f"{region.width} × {region.height} pixels; the limit is {MEMORY_LIMIT / 2**30:.0f} GB. "
            "Lower its lengths or the scale of the render"
        )
