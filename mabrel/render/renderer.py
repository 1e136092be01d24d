"""Rendering a title."""

import math
from collections.abc import Iterator
from dataclasses import astuple, dataclass, field, replace
from typing import Any, NamedTuple

import numpy as np

from mabrel.render.apart import Planes, planes_node
from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel
from mabrel.render.cells import CellGrid, cell_grids, has_cells
from mabrel.render.data import Data, data_node
from mabrel.render.errors import RenderError
from mabrel.render.fields import Field, field_node
from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node
from mabrel.render.parts import BROKEN_APART, MOST_PARTS, Breaking, Shard, card_parts, parts_of
from mabrel.render.picture import Picture
from mabrel.render.planner import Planner
from mabrel.render.reading import Reader
from mabrel.render.running import Estimate, Rates, Run
from mabrel.render.shutter import shutter_node
from mabrel.render.taps import TAPS, shown, tapped_field
from mabrel.render.view import SHAPE_STAGES, WHOLE_BUILD, Part, View, drawn_layers
from mabrel.source import library_at
from mabrel.steps import STAGES, Array, Region, check_title
from mabrel.steps.part import NamedPart
from mabrel.title import Floor, Layer, Moment, Placed, Title
from mabrel.title.models import LARGEST_AREA
from mabrel.title.varying import LATEST

LIGHT_STAGES = ("shape", "relief", "light")
FIELD_STAGES = tuple(stage for stage in STAGES if stage != "ground")
"""What can change a layer's matte, relief or face."""


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


class _Asked(NamedTuple):
    """One render on its way."""

    planner: Planner
    run: Run
    view: View


@dataclass
class Renderer:
    """Renders titles and keeps what may be used again. One render at a time."""

    cache: Cache = field(default_factory=Cache)
    rates: Rates = field(default_factory=Rates)
    made: list[Node[Any]] = field(default_factory=list, repr=False)
    """The nodes that the last render made, in their order."""

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
        asked = self._asked(title, time, scale, window, cancel)
        if tap not in TAPS:
            raise RenderError(f"there is no tap {tap!r}; there are {', '.join(TAPS)}")
        node = _picture_node(asked, tap, layer, alone, until)
        pixels = asked.run.result(node)
        if tap not in ("picture", "light"):
            pixels = shown(tap, pixels)
        return Picture(pixels, notices=tuple(dict.fromkeys(asked.planner.reader.notices)))

    def plan(
        self, title: Title, *, time: float = 0.0, scale: float = 1.0, window: Window | None = None
    ) -> Node[Array]:
        """The last node of a picture's plan: all others are its inputs. Nothing is rendered.

        Raises what `render` raises.
        """
        return _picture_node(self._asked(title, time, scale, window, None), "picture")

    def expected(
        self, title: Title, *, time: float = 0.0, scale: float = 1.0, window: Window | None = None
    ) -> Estimate:
        """What a picture would take to render now, by what its nodes took so far. Raises what
        `render` raises."""
        asked = self._asked(title, time, scale, window, None)
        return asked.run.expected(_picture_node(asked, "picture"))

    def _asked(
        self,
        title: Title,
        time: float,
        scale: float,
        window: Window | None,
        cancel: Cancel | None,
        part: Part = WHOLE_BUILD,
    ) -> _Asked:
        check_title(title)
        if not 0 <= time <= LATEST:
            raise RenderError(f"the time must be from 0 to {LATEST} seconds, not {time:g}")
        view = View(scale, _region(title, scale, window), part)
        pause = (cancel or Cancel()).check
        run = Run(self.cache, self.rates, pause)
        self.made = run.made
        reader = Reader(library_at(title.home), self.cache)
        moment = Moment(time, title.frame.duration if title.frame.loops else None)
        return _Asked(Planner(title, moment, reader, run.result, pause), run, view)

    def data(
        self,
        title: Title,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        cancel: Cancel | None = None,
    ) -> Data:
        """What stands in the picture as numbers, whatever the shutter does. Raises what `render`
        raises."""
        asked = self._asked(title, time, scale, None, cancel)
        return asked.run.result(data_node(asked.planner, asked.view))

    def planes(
        self,
        title: Title,
        layer: str,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        cancel: Cancel | None = None,
    ) -> Planes:
        """What lies behind a layer's face, the face, and what lies before it, at their place in
        the picture. Raises what `render` raises."""
        asked = self._asked(title, time, scale, None, cancel)
        return asked.run.result(planes_node(asked.planner, asked.view, _chosen(title, layer)))

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
        part = Part(before=before, stages=FIELD_STAGES)
        asked = self._asked(title, time, scale, window, cancel, part)
        plan = _layer_plan(asked, _chosen(title, layer))
        own = scale if not isinstance(plan.layer, Floor) else None

        def of(name: str, found: Field) -> Array:
            return asked.run.result(field_node(asked.planner, asked.view, plan, found, name))

        return Fields(
            of("matte", lambda piece, _: piece.matte),
            of("height", lambda piece, fine: _in_frame_pixels(piece.height, own or fine)),
            of("plain face", lambda piece, _: piece.face),
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
        part = Part(before=before, stages=SHAPE_STAGES)
        asked = self._asked(title, time, scale, None, cancel, part)
        plan = _layer_plan(asked, _chosen(title, layer))
        piece = asked.run.result(plan.node)
        own = plan.scale if plan.scale > 0 else scale
        left, top, right, bottom = (side / own for side in piece.box)
        return left, top, right, bottom

    def parts(
        self,
        title: Title,
        *,
        layer: str | None = None,
        before: str | None = None,
        whole: bool = False,
        unseen: bool = False,
        time: float = 0.0,
        cancel: Cancel | None = None,
    ) -> list[Shard]:
        """The flat shapes that a title breaks apart into, from the back to the front: of each
        visible layer of lettering, shapes or a picture, or of one `layer`, as the steps before
        the one with the id `before` have built it; sides that are `whole` are not cut where
        others hide them, and with `unseen` sides that are not seen are there as empty ones. Raises
        what `render` raises, and RenderError where they are more than anyone can use."""
        asked = self._asked(title, time, 1.0, None, cancel)
        breaking = Breaking(asked.planner, asked.run)
        layers = (
            [each for each in title.layers if each.visible]
            if layer is None
            else [_chosen(title, layer)]
        )
        found: list[Shard] = []
        for each in layers:
            if isinstance(each, BROKEN_APART):
                around = asked.planner.setting(asked.view, _layer_plan(asked, each)).around
                parts = parts_of(breaking, each, around, before, whole)
                found += parts if unseen else [part for part in parts if not part.area.is_empty]
        if len(found) > MOST_PARTS:
            raise RenderError(f"it breaks into {len(found):,} parts, more than {MOST_PARTS:,}")
        return found

    def cells(
        self,
        title: Title,
        layer: str,
        step: str,
        *,
        divided: int = 1,
        time: float = 0.0,
        cancel: Cancel | None = None,
    ) -> list[CellGrid]:
        """The grids in which the step with the id `step` paints cells, each cell `divided` into
        parts: one for each letter, or one for all, and one for each flat side that is seen. Empty
        where the step paints none. Raises what `render` raises."""
        asked = self._asked(title, time, 1.0, None, cancel)
        chosen = _chosen(title, layer)
        found = next((each for each in chosen.build if each.id == step), None)
        settings = found and has_cells(found, asked.planner.time)
        if not settings:
            return []
        breaking = Breaking(asked.planner, asked.run)
        plan, piece = breaking.piece(chosen, step)
        if plan.scale <= 0:
            return []
        around = asked.planner.setting(asked.view, plan).around

        def parts() -> tuple[NamedPart, ...]:
            if not isinstance(chosen, BROKEN_APART) or plan.card.seen_from[2] <= 0:
                return ()
            return tuple(card_parts(breaking, chosen, around, step)[1])

        return cell_grids(plan, replace(around, parts=parts), piece, settings, divided)


def _layer_plan(asked: _Asked, layer: Layer) -> LayerPlan:
    return asked.planner.layer(asked.view, layer)


def _picture_node(
    asked: _Asked,
    tap: str,
    layer: str | None = None,
    alone: bool = False,
    until: str | None = None,
) -> Node[Array]:
    """What a render comes to."""
    title, view = asked.planner.title, asked.view
    layers = title.layers
    if alone:
        layers = [_chosen(title, layer).model_copy(update={"visible": True})]
    if until is not None:
        layers, layer = _up_to(title, until)
        view = replace(view, part=Part(until=until))
    if tap == "picture":
        shown = [each for each in layers if each.visible] if alone else drawn_layers(title, layers)
        return shutter_node(asked.planner, view, lambda planner: planner.canvas(view, shown))
    chosen = _chosen(title, layer)
    if tap == "light":
        return asked.planner.canvas(replace(view, part=Part(until, stages=LIGHT_STAGES)), [chosen])
    plan = asked.planner.layer(view, chosen)
    return field_node(
        asked.planner, view, plan, lambda piece, _: tapped_field(tap, piece, plan.face_opacity),
        tap, cast=tap == "behind",
    )  # fmt: skip


def _in_frame_pixels(height: Array, scale: float) -> Array:
    return np.asarray(height / np.float32(scale), np.float32)


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
