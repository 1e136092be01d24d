"""From a title at a time to what has to be calculated: a graph of nodes, before any pixel."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from typing import Any

import numpy as np

from mabrel.camera import Card, card_at, floor_card, lights_at, rows_of
from mabrel.colour import covering
from mabrel.light import Light
from mabrel.render.builds import Cut, built
from mabrel.render.canvas import canvas_node, reach_of
from mabrel.render.changes import Changes
from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node, key_of
from mabrel.render.placing import laid
from mabrel.render.reading import Reader
from mabrel.render.running import Measure
from mabrel.render.setting import Setting
from mabrel.render.shown import shown_on_card
from mabrel.render.sinking import hiding_floor, sunk
from mabrel.render.sources import letters_of, source_of
from mabrel.render.standing import touched_level
from mabrel.render.view import View, whole_frame
from mabrel.source import Image
from mabrel.source.images import ink_box
from mabrel.steps import (
    Array,
    Margin,
    Piece,
    Region,
    Surroundings,
)
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.kind import StepSettings
from mabrel.title import (
    Backdrop,
    Camera,
    Floor,
    Layer,
    Moment,
    Placed,
    Placement,
    Step,
    Title,
    Wash,
    value_at,
)
from mabrel.title.varying import Varying, varying_in

FINEST_IMAGE = 2.0
"""Layers as images for a step are rendered at no larger scale: they are looked up, not shown."""
_ROOM = 32  # pixels around the frame that are kept all the same


@dataclass
class Planner:
    """Plans the layers of one title at one time.

    All references are resolved, and sources read as far as it takes to know where their ink lies.
    """

    changes: Changes
    """Those of the title."""
    time: Moment
    reader: Reader
    measure: Measure
    """Makes a node's result: for the level of a floor under a shape that no outline tells."""
    pause: Callable[[], None] = lambda: None
    _layers: dict[tuple[str, View, int | None], LayerPlan] = field(default_factory=dict)
    _levels: dict[str, float] = field(default_factory=dict)
    _settings: dict[int, StepSettings] = field(default_factory=dict)
    _rigs: dict[bool, list[Light]] = field(default_factory=dict)
    _fallen: dict[tuple[int, bool], tuple[Card, tuple[Light, ...]]] = field(default_factory=dict)

    @property
    def title(self) -> Title:
        return self.changes.title

    def at(self, time: Moment) -> "Planner":
        """A planner of the same title at another time."""
        return Planner(self.changes, time, self.reader, self.measure, self.pause)

    def settings(self, step: Step) -> StepSettings:
        """The settings of a step at the plan's time, made once: floors are planned in bands."""
        if id(step) not in self._settings:
            self._settings[id(step)] = self.changes.settings(step, self.time)
        return self._settings[id(step)]

    def varying(self, step: Step) -> list[Varying[Any]]:
        """The values over time of a step."""
        return self.changes.of_step(step)

    def layer(self, view: View, layer: Layer, card: Card | None = None) -> LayerPlan:
        """A layer and its build, on its own card or another.

        Raises FontError, PictureError, LibraryError and RenderError for what can't be used.
        """
        key = layer.id, view, None if card is None else id(card)
        if key not in self._layers:  # where it is planned already, its card is kept there
            self._layers[key] = self._planned(view, layer, card or self.card(layer))
        return self._layers[key]

    def _planned(self, view: View, layer: Layer, card: Card) -> LayerPlan:
        placed = isinstance(layer, Placed)
        unit = view.scale * (card.magnification if placed else 1.0)
        origin, shift = _place(card, view.scale) if placed else ((0, 0), (0.0, 0.0))
        face = value_at(layer.face_opacity, self.time) if isinstance(layer, Placed) else 1.0
        source = source_of(self, view, layer, card, unit, shift)
        if face < 1:
            source = source._replace(node=_tracking(source.node))
        plan = LayerPlan(
            layer=layer,
            card=card,
            scale=unit,
            origin=origin,
            shift=shift,
            opacity=value_at(layer.opacity, self.time),
            face_opacity=face,
            node=source.node,
            bound=source.bound,
            placed_by=tuple(self.changes.of_place(layer)),
        )
        if isinstance(layer, Wash):  # its build treats a canvas, which is not known yet
            return plan
        done = built(self, self.setting(view, plan), source, layer.build, self._cut(view, plan))
        return replace(plan, node=done.node, bound=done.bound)

    def _cut(self, view: View, plan: LayerPlan) -> Cut:
        """What a floor that hides leaves of a layer; its fields and box are those of all of it."""
        floor = hiding_floor(self, plan.layer) if isinstance(plan.layer, Placed) else None
        if floor is None or not view.framed or view.part.stages is not None:
            return lambda whole: whole
        level = self._level(floor)
        if floor_card(level, self.title.camera, self.time).seen_from[2] <= 0:  # seen from below
            return lambda whole: whole
        return partial(sunk, self, plan, level, floor)

    def setting(self, view: View, plan: LayerPlan) -> Setting:
        """Where the steps of a layer's build work."""
        card, layer = plan.card, plan.layer
        fills = isinstance(layer, Backdrop | Floor | Wash)
        frame, whole = self._frame(view), whole_frame(self.title.frame, view.scale)
        lights_here = [light.scaled(plan.scale) for light in self._lights_on(card, layer)]
        x, y, z = (axis * plan.scale for axis in card.seen_from)
        around = Surroundings(
            lights=lights_here,
            turn=rows_of(card.turn),
            viewer=(x, y, z),
            upright=rows_of(card.upright),
            seen=card.seen(plan.scale, view.scale) if card.turned else None,
            frame=frame.moved(-plan.origin[0], -plan.origin[1]),
            picture=whole.moved(-plan.origin[0], -plan.origin[1]),
            fills_frame=fills,
            letters=partial(letters_of, self, layer, plan.scale, plan.shift),
        )
        level = around
        if card.turned:
            level = Surroundings(
                lights=[light.scaled(plan.scale) for light in self._rig(layer)],
                viewer=(0.0, 0.0, math.dist((x, y, z), (0, 0, 0))),
                frame=around.frame,
                picture=around.picture,
            )
        shown = isinstance(layer, Placed) and view.framed and plan.scale > 0
        visible = shown_on_card(plan, frame, view.scale) if shown else None
        card_moves = plan.placed_by
        lights_move = (*self.changes.of_lights(), *card_moves)
        varies: dict[str, tuple[Varying[Any], ...]] = dict.fromkeys(
            ("turn", "viewer", "upright", "seen", "turned", "crowded", "frame", "picture"),
            card_moves,
        )
        varies |= dict.fromkeys(("lights", "key", "light"), lights_move)
        return Setting(plan, view, around, level, visible, varies)

    def _frame(self, view: View) -> Region:
        """What is shown at most, in render pixels from the frame's centre; of what is used
        elsewhere, half a frame more on each side."""
        whole = whole_frame(self.title.frame, view.scale)
        if not view.framed:
            across, down = whole.width // 2, whole.height // 2
            return whole.grown(Margin(across, down, across, down))
        return whole.joined(view.region).grown(Margin(_ROOM, _ROOM, _ROOM, _ROOM))

    def _rig(self, layer: Layer) -> list[Light]:
        swings = isinstance(layer, Placed | Floor)
        if swings not in self._rigs:
            self._rigs[swings] = lights_at(self.title, layer, self.time)
        return self._rigs[swings]

    def _lights_on(self, card: Card, layer: Layer) -> tuple[Light, ...]:
        """The rig as it falls on a card, reckoned once: floors are planned in bands."""
        key = id(card), isinstance(layer, Placed | Floor)
        if key not in self._fallen:
            self._fallen[key] = card, card.lights(self._rig(layer))
        return self._fallen[key][1]

    def card(self, layer: Layer) -> Card:
        """Where a layer stands at the plan's time."""
        if isinstance(layer, Placed):
            handle = self.title.handle(layer.handle)
            return card_at(layer.placement, self.title.camera, self.time, handle)
        if isinstance(layer, Floor):
            return floor_card(self._level(layer), self.title.camera, self.time)
        return card_at(Placement(), Camera(), self.time)  # it stays whatever the camera does

    def _level(self, floor: Floor) -> float:
        if floor.level is not None:
            return value_at(floor.level, self.time)
        if floor.id not in self._levels:
            times = self.changes.stops(floor, self.time)
            self._levels[floor.id] = min(self._touched(floor, time) for time in times)
        return self._levels[floor.id]

    def _touched(self, floor: Floor, time: Moment) -> float:
        then = self if time == self.time else self.at(time)
        return touched_level(then, self.measure, floor)

    def image(self, view: View, layer: str, in_frame: bool) -> Node[Image]:
        """A layer as it looks by itself, for a step: whole, whatever part of the frame is
        rendered; trimmed to its ink, or as large as the frame and where it lies `in_frame`."""
        scale = min(view.scale, FINEST_IMAGE)
        whole = View(scale, whole_frame(self.title.frame, scale), framed=False)
        plan = self.layer(whole, self.title.layer(layer))

        def work(piece: Piece) -> Image:
            if in_frame:
                seen = laid(plan, piece, whole.region, scale).over(whole.region)
                return Image(covering(seen), framed=True)
            own = piece.without_cast() if plan.card.turned else piece.settled()
            return _trimmed(flattened(own, plan.face_opacity))

        lies = plan.place if in_frame else plan.card.turned
        key = key_of(image=plan.node, face=plan.face_opacity, in_frame=in_frame, lies=lies)
        region = whole.region if in_frame else plan.bound.region
        varies = tuple(varying_in(getattr(plan.layer, "face_opacity", None)))
        varies += plan.placed_by if in_frame else ()
        return Node("image", layer, key, region, work, (plan.node,), varies)

    def canvas(self, view: View, layers: Sequence[Layer]) -> Node[Array]:
        """Layers over one another, (H, W, 4) over the view's region."""
        return canvas_node(self, view, layers)

    def reach(self, view: View, layers: Sequence[Layer]) -> Region:
        """All that layers over one another can cover, wherever the frame ends."""
        return reach_of(self, view, layers)


def _tracking(node: Node[Piece]) -> Node[Piece]:
    """A source whose fill is faded: what steps paint on it is kept apart."""
    return Node(
        "source", node.name, key_of(tracking=node), node.region, lambda piece: piece.tracking(),
        (node,), floats=node.floats + 4,
    )  # fmt: skip


def _trimmed(flat: Array) -> Image:
    flat = covering(flat)
    left, top, right, bottom = ink_box(flat[..., 3])
    if right <= left:
        left, top, right, bottom = 0, 0, 1, 1
    return Image(np.ascontiguousarray(flat[top:bottom, left:right]))


def _place(card: Card, scale: float) -> tuple[tuple[int, int], tuple[float, float]]:
    if card.turned:
        return (0, 0), (0.0, 0.0)
    x, y = (axis * scale for axis in card.centre)
    whole = math.floor(x + 0.5), math.floor(y + 0.5)
    return whole, (round(x - whole[0], 6), round(y - whole[1], 6))
