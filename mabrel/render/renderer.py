"""Rendering a title."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

import numpy as np

from mabrel.colour import blend
from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel
from mabrel.render.compose import covered_region, flattened, in_picture
from mabrel.render.errors import RenderError
from mabrel.render.picture import Picture
from mabrel.render.plan import LIGHT_STAGES, PlannedLayer, PlannedStep, plan_layer
from mabrel.render.sources import (
    full_piece,
    ground_face,
    lettering_outline,
    lettering_piece,
)
from mabrel.render.taps import TAPS, shown, tapped_field
from mabrel.steps import Array, Piece, Region, Scene, check_title, mixed
from mabrel.title import Layer, Lettering, Title, Wash
from mabrel.title.models import LARGEST_AREA

MEMORY_LIMIT = 8 * 2**30
"""Bytes that one render may need by estimate; more is refused with an error."""
_BYTES_A_PIXEL = 120  # a piece in flight: input, result and what a step needs on the way


@dataclass(frozen=True)
class Window:
    """A part of the frame, in frame pixels from its upper left corner."""

    left: float
    top: float
    width: float
    height: float


class Fields(NamedTuple):
    """A layer's fields over a part of the frame; see `Piece`. `height` is in frame pixels."""

    matte: Array
    height: Array
    face: Array


@dataclass
class Renderer:
    """Renders titles and keeps what may be used again. One render at a time."""

    cache: Cache[Piece] = field(default_factory=Cache)

    def render(
        self,
        title: Title,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        tap: str = "picture",
        layer: str | None = None,
        until: str | None = None,
        window: Window | None = None,
        cancel: Cancel | None = None,
    ) -> Picture:
        """Render `title` at `time` seconds and `scale` render pixels a frame pixel.

        `tap` shows a field instead of the picture, of the layer with the id or name `layer`,
        or else of the front lettering. With `until`, the id of a step, the work is shown as it
        stands after that step: without the later ones and the layers over it.
        Raises TitleError, FontError, RenderError, and Cancelled after `cancel`.
        """
        check_title(title)
        if tap not in TAPS:
            raise RenderError(f"there is no tap {tap!r}; there are {', '.join(TAPS)}")
        run = _Run(
            self.cache, title, time, scale, _region(title, scale, window), cancel or Cancel()
        )
        if until is not None:
            title, layer = _cut_after(title, until)
            run = replace(run, title=title, until=until)
        if tap == "picture":
            pixels = run.picture(title.layers)
        elif tap == "light":
            chosen = _chosen(title, layer)
            pixels = replace(run, stages=LIGHT_STAGES).picture([chosen])
        else:
            planned = run.plan(_chosen(title, layer))
            piece = run.built(planned)
            tapped = tapped_field(tap, piece, planned.face_opacity)
            pixels = shown(tap, in_picture(planned, piece.region, tapped, run.region, scale))
        return Picture(pixels, tuple(dict.fromkeys(run.notices)))

    def fields(
        self,
        title: Title,
        layer: str,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        window: Window | None = None,
        before: str | None = None,
        cancel: Cancel | None = None,
    ) -> Fields:
        """The fields of one layer at their place in the frame, as numbers.

        With `before`, the id of a step, they are what that step is given. Raises what `render`
        raises.
        """
        check_title(title)
        region = _region(title, scale, window)
        run = _Run(self.cache, title, time, scale, region, cancel or Cancel(), before=before)
        planned = run.plan(_chosen(title, layer))
        piece = run.built(planned)

        def placed(array: Array) -> Array:
            return in_picture(planned, piece.region, array, region, scale)

        return Fields(placed(piece.matte), placed(piece.height) / scale, placed(piece.face))


@dataclass(frozen=True)
class _Run:
    """One render on its way."""

    cache: Cache[Piece]
    title: Title
    time: float
    scale: float
    region: Region
    cancel: Cancel
    until: str | None = None
    before: str | None = None
    stages: Sequence[str] | None = None
    notices: list[str] = field(default_factory=list)

    def plan(self, layer: Layer) -> PlannedLayer:
        return plan_layer(
            self.title,
            layer,
            time=self.time,
            scale=self.scale,
            region=self.region,
            until=self.until,
            before=self.before,
            stages=self.stages,
        )

    def picture(self, layers: Sequence[Layer]) -> Array:
        """All visible layers, from back to front."""
        canvas = np.zeros((self.region.height, self.region.width, 4), np.float32)
        for layer in layers:
            if layer.visible:
                self.cancel.check()
                self._add_layer(canvas, layer)
        return canvas

    def _add_layer(self, canvas: Array, layer: Layer) -> None:
        """Lay one layer over the canvas, in place, where it has anything."""
        planned = self.plan(layer)
        if planned.opacity == 0:
            return
        wash = isinstance(layer, Wash)
        piece = self._washed(planned, canvas) if wash else self.built(planned)
        part = covered_region(planned, piece.region, self.region)
        if not part.area:
            return
        flat = flattened(piece, planned.face_opacity)
        source = in_picture(planned, piece.region, flat, part, self.scale)
        where = part.within(self.region)
        beneath = np.ascontiguousarray(canvas[where])
        share = self._share(planned, part)
        if wash and layer.blend == "normal":
            canvas[where] = beneath + (source - beneath) * (1 if share is None else share)
        else:
            faded = source if share is None else np.asarray(source * share, np.float32)
            canvas[where] = blend(layer.blend, beneath, faded)

    def _share(self, planned: PlannedLayer, part: Region) -> Array | None:
        """How much of a layer counts: its opacity, and the matte that it takes from another;
        None where that is all of it."""
        if planned.layer.matte_from is not None:
            matte = self._matte(planned.layer.matte_from, part)[..., None]
            return matte * np.float32(planned.opacity)
        return None if planned.opacity == 1 else np.full((1, 1, 1), planned.opacity, np.float32)

    def _matte(self, layer_id: str, part: Region) -> Array:
        planned = self.plan(self.title.layer(layer_id))
        piece = self.built(planned)
        return in_picture(planned, piece.region, piece.matte, part, self.scale)

    def _washed(self, planned: PlannedLayer, beneath: Array) -> Piece:
        """What lies beneath, run through the wash's build. It is new each time: not kept."""
        piece = full_piece(self.region, self._frame, beneath)
        for step in planned.steps:
            piece = self._stepped(planned, piece, step)
        return piece

    @property
    def _frame(self) -> Region:
        return _region(self.title, self.scale, None)

    def built(self, planned: PlannedLayer) -> Piece:
        """The layer's piece after its build, from the last result that is still kept."""
        if planned.lettering is not None:
            self.notices.extend(lettering_outline(planned).notices)
        keys = [planned.key, *(step.key for step in planned.steps)]
        for done in range(len(keys) - 1, -1, -1):
            piece = self.cache.get(keys[done])
            if piece is not None:
                break
        else:
            done, piece = 0, self._source(planned)
            self.cache.put(planned.key, piece)
        for step in planned.steps[done:]:
            piece = self._stepped(planned, piece, step)
            self.cache.put(step.key, piece)
        return piece

    def _source(self, planned: PlannedLayer) -> Piece:
        if planned.lettering is not None:
            return lettering_piece(planned)
        shape = (self.region.height, self.region.width)
        face = ground_face(planned.ground or "#00000000", shape)
        return full_piece(self.region, self._frame, face)

    def _stepped(self, planned: PlannedLayer, piece: Piece, step: PlannedStep) -> Piece:
        self.cancel.check()
        scene = Scene(
            planned.scale,
            planned.lights,
            planned.card.viewer_distance * planned.scale,
            self.cancel.check,
        )
        if planned.lettering is not None:  # what fills the frame has nothing beyond it
            margin = step.kind.margin(step.settings, scene)
            _check_memory(piece.region.grown(margin), step)
            piece = piece.grown(margin)
        after = step.kind.apply(piece, step.settings, scene)
        return after if step.strength == 1 else mixed(piece, after, step.strength)


def _check_memory(region: Region, step: PlannedStep) -> None:
    needed = region.area * _BYTES_A_PIXEL
    if needed > MEMORY_LIMIT:
        raise RenderError(
            f"step {step.kind.label!r} would need about {needed / 2**30:.0f} GB for "
            f"{region.width} × {region.height} pixels; the limit is {MEMORY_LIMIT / 2**30:.0f} GB. "
            "Lower its lengths or the scale of the render"
        )


def _region(title: Title, scale: float, window: Window | None) -> Region:
    """The part of the frame to render, in render pixels from the frame's centre."""
    if not 0 < scale <= 16:
        raise RenderError(f"the scale must be more than 0 and at most 16, not {scale:g}")
    frame = title.frame
    window = window or Window(0, 0, frame.width, frame.height)
    width, height = max(round(window.width * scale), 1), max(round(window.height * scale), 1)
    if width * height > LARGEST_AREA:
        raise RenderError(
            f"{width} × {height} pixels are more than the {LARGEST_AREA // 1_000_000} million that "
            "can be rendered at once; lower the scale or the frame"
        )
    left = math.floor((window.left - frame.width / 2) * scale + 0.5)
    top = math.floor((window.top - frame.height / 2) * scale + 0.5)
    return Region(left, top, width, height)


def _chosen(title: Title, layer: str | None) -> Layer:
    if layer is not None:
        try:
            return title.layer(layer)
        except KeyError:
            raise RenderError(f"there is no layer {layer!r}") from None
    for each in _front_first(title):
        return each
    raise RenderError("the title has no layers")


def _front_first(title: Title) -> Iterator[Layer]:
    yield from (each for each in reversed(title.layers) if isinstance(each, Lettering))
    yield from reversed(title.layers)


def _cut_after(title: Title, until: str) -> tuple[Title, str]:
    """Without the layers over the one that has the step `until`, and that layer's id."""
    for index, layer in enumerate(title.layers):
        if any(step.id == until for step in layer.build):
            return title.model_copy(update={"layers": title.layers[: index + 1]}), layer.id
    raise RenderError(f"there is no step {until!r}")
