"""What is asked of a renderer: which part of which layers, until which step, by which tap."""

import math
from collections.abc import Iterator
from dataclasses import astuple, dataclass, replace
from typing import NamedTuple

from mabrel.render.errors import RenderError
from mabrel.render.fields import field_node
from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node
from mabrel.render.planner import Planner
from mabrel.render.running import Run
from mabrel.render.shutter import shutter_node
from mabrel.render.taps import tapped_field
from mabrel.render.view import Part, View, drawn_layers
from mabrel.steps import Array, Region
from mabrel.title import Layer, Placed, Title
from mabrel.title.models import LARGEST_AREA

LIGHT_STAGES = ("shape", "relief", "light")


@dataclass(frozen=True)
class Window:
    """A part of the frame, in frame pixels from its upper left corner."""

    left: float
    top: float
    width: float
    height: float


class Asked(NamedTuple):
    """One render on its way."""

    planner: Planner
    run: Run
    view: View


def layer_plan(asked: Asked, layer: Layer) -> LayerPlan:
    """The plan of one layer by itself. Raises what planning raises."""
    return asked.planner.layer(asked.view, layer)


def picture_node(
    asked: Asked,
    tap: str,
    layer: str | None = None,
    alone: bool = False,
    until: str | None = None,
) -> Node[Array]:
    """What a render comes to; see `Renderer.render`. Raises RenderError where a layer or a step
    that is named is not there."""
    title, view = asked.planner.title, asked.view
    layers = title.layers
    if alone:
        layers = [chosen_layer(title, layer).model_copy(update={"visible": True})]
    if until is not None:
        layers, layer = _up_to(title, until)
        view = replace(view, part=Part(until=until))
    if tap == "picture":
        shown = [each for each in layers if each.visible] if alone else drawn_layers(title, layers)
        return shutter_node(asked.planner, view, lambda planner: planner.canvas(view, shown))
    chosen = chosen_layer(title, layer)
    if tap == "light":
        return asked.planner.canvas(replace(view, part=Part(until, stages=LIGHT_STAGES)), [chosen])
    plan = asked.planner.layer(view, chosen)
    return field_node(
        asked.planner, view, plan, lambda piece, _: tapped_field(tap, piece, plan.face_opacity),
        tap, cast=tap == "behind",
    )  # fmt: skip


def region_of(title: Title, scale: float, window: Window | None) -> Region:
    """The part of the frame to render, in render pixels from the frame's centre. Raises RenderError
    where it is more than can be rendered at once."""
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


def chosen_layer(title: Title, layer: str | None) -> Layer:
    """The layer with an id, or the front one. Raises RenderError where there is none."""
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
