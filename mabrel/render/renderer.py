"""Rendering a title."""

import math
from collections.abc import Iterator
from dataclasses import astuple, dataclass, field, replace
from typing import NamedTuple

import numpy as np

from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel
from mabrel.render.errors import RenderError
from mabrel.render.picture import Picture
from mabrel.render.plan import FIELD_STAGES, LIGHT_STAGES, SHAPE_STAGES, Planner
from mabrel.render.planned import PlannedLayer
from mabrel.render.run import Run
from mabrel.render.taps import TAPS, shown, tapped_field
from mabrel.source import Image, library_at
from mabrel.steps import Array, Piece, Region, check_title
from mabrel.title import Floor, Group, Layer, Placed, Title
from mabrel.title.models import LARGEST_AREA
from mabrel.title.varying import LATEST


@dataclass(frozen=True)
class Window:
    """A part of the frame, in frame pixels from its upper left corner."""

    left: float
    top: float
    width: float
    height: float


Box = tuple[float, float, float, float]


class Fields(NamedTuple):
    """A layer's fields over a part of the frame; see `Piece`. `height` is in frame pixels."""

    matte: Array
    height: Array
    face: Array


@dataclass
class Renderer:
    """Renders titles and keeps what may be used again. One render at a time."""

    cache: Cache[Piece] = field(default_factory=Cache)
    images: Cache[Image] = field(default_factory=lambda: Cache(256 * 2**20))
    """Pictures that were read, cut or drawn."""

    def render(
        self,
        title: Title,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        tap: str = "picture",
        layer: str | None = None,
        alone: bool = False,
        until: str | None = None,
        window: Window | None = None,
        cancel: Cancel | None = None,
    ) -> Picture:
        """Render `title` at `time` seconds and `scale` render pixels a frame pixel.

        `tap` shows a field instead of the picture, of the layer with the id or name `layer`,
        or else of the front lettering; `alone` shows the picture of that layer without the others.
        With `until`, the id of a step, the work is shown as it
        stands after that step: without the later ones and the layers over it.
        Raises TitleError, FontError, PictureError, LibraryError, RenderError, and Cancelled
        after `cancel`.
        """
        check_title(title)
        if tap not in TAPS:
            raise RenderError(f"there is no tap {tap!r}; there are {', '.join(TAPS)}")
        run = self._run(title, time, scale, window, cancel)
        layers = title.layers
        if alone:
            layers = [_chosen(title, layer).model_copy(update={"visible": True})]
        if until is not None:
            layers, layer = _up_to(title, until)
            run = replace(run, planner=replace(run.planner, until=until))
        if tap == "picture":
            pixels = run.picture(layers if alone else _own_right(title, layers))
        elif tap == "light":
            lit = replace(run, planner=replace(run.planner, stages=LIGHT_STAGES))
            pixels = lit.picture([_chosen(title, layer)])
        else:
            field = run.in_place(
                _chosen(title, layer),
                lambda piece, planned: tapped_field(tap, piece, planned.face_opacity),
            )
            pixels = shown(tap, field)
        return Picture(pixels, tuple(dict.fromkeys(run.notices)))

    def _run(
        self,
        title: Title,
        time: float,
        scale: float,
        window: Window | None,
        cancel: Cancel | None,
    ) -> Run:
        if not 0 <= time <= LATEST:
            raise RenderError(f"the time must be from 0 to {LATEST} seconds, not {time:g}")
        region = _region(title, scale, window)
        planner = Planner(title, library_at(title.home), time, scale, region)
        return Run(self.cache, self.images, planner, cancel or Cancel())

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
        run = self._run(title, time, scale, window, cancel)
        planner = replace(run.planner, before=before, stages=FIELD_STAGES)
        run = replace(run, planner=planner)
        chosen = _chosen(title, layer)
        return Fields(
            run.in_place(chosen, lambda piece, _: piece.matte),
            run.in_place(chosen, lambda piece, planned: _in_frame_pixels(piece, planned, scale)),
            run.in_place(chosen, lambda piece, _: piece.face),
        )

    def box(
        self,
        title: Title,
        layer: str,
        *,
        before: str | None = None,
        time: float = 0.0,
        scale: float = 0.25,
        cancel: Cancel | None = None,
    ) -> Box:
        """Left, top, right and bottom of a layer's ink, in frame pixels from its own centre,
        before its card is placed. Raises what `render` raises."""
        check_title(title)
        run = self._run(title, time, scale, None, cancel)
        run = replace(run, planner=replace(run.planner, before=before, stages=SHAPE_STAGES))
        piece = run.built(run.planner.layer(_chosen(title, layer)))
        left, top, right, bottom = (side / scale for side in piece.box)
        return left, top, right, bottom


def _in_frame_pixels(piece: Piece, planned: PlannedLayer, scale: float) -> Array:
    """The relief; a floor's bands each have a scale of their own."""
    own = planned.scale if isinstance(planned.layer, Floor) else scale
    return np.asarray(piece.height / np.float32(own), np.float32)


def _region(title: Title, scale: float, window: Window | None) -> Region:
    """The part of the frame to render, in render pixels from the frame's centre."""
    if not 0 < scale <= 16:
        raise RenderError(f"the scale must be more than 0 and at most 16, not {scale:g}")
    frame = title.frame
    window = window or Window(0, 0, frame.width, frame.height)
    if not all(math.isfinite(side) for side in astuple(window)):
        raise RenderError("the window must have finite sides")
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
    yield from (each for each in reversed(title.layers) if isinstance(each, Placed))
    yield from reversed(title.layers)


def _up_to(title: Title, until: str) -> tuple[list[Layer], str]:
    """The layers up to the one that has the step `until`, and that layer's id."""
    for index, layer in enumerate(title.layers):
        if any(step.id == until for step in layer.build):
            return title.layers[: index + 1], layer.id
    raise RenderError(f"there is no step {until!r}")


def _own_right(title: Title, layers: list[Layer]) -> list[Layer]:
    """Those that are drawn by themselves: not the members of groups."""
    groups = (layer for layer in title.layers if isinstance(layer, Group))
    members = {member for group in groups for member in group.source.layers}
    return [layer for layer in layers if layer.id not in members]
