"""A title broken apart: the flat shapes of each layer, where they are seen in the frame."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.render.errors import RenderError
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.running import Run
from mabrel.render.view import SHAPE_STAGES, Part, View, whole_frame
from mabrel.steps import Piece, Scene, Surroundings, kind_of
from mabrel.steps.kind import MakesParts, StepSettings
from mabrel.steps.part import Kind, NamedPart
from mabrel.steps.parts.named import named_parts
from mabrel.steps.parts.solid import Solid, area_of, face_of
from mabrel.title import Layer, Lettering, Picture, Placed, Shapes

BROKEN_APART = (Lettering, Picture, Shapes)
"""Layers that have a shape of their own."""
MOST_PARTS = 20_000
_SAMPLE = 1.0  # render pixels a frame pixel


class Shard(NamedTuple):
    """One shape of a layer, in frame pixels from the frame's upper left corner."""

    layer: str
    kind: Kind
    letter: str
    """The character that it belongs to and which of them it is, such as ``O2``; "" for none."""
    number: int
    """Among those of its kind and letter, from 1 on."""
    area: shapely.Polygon
    facing: float | None = None
    """See `NamedPart`, and `place`."""
    place: tuple[float, float] = (0.5, 0.5)

    @property
    def name(self) -> str:
        return "-".join(each for each in (self.letter, self.kind, str(self.number)) if each)


@dataclass(frozen=True)
class Breaking:
    """What breaking apart asks: the plans, and pieces before and after steps."""

    plans: Plans
    run: Run

    def piece(self, layer: Layer, before: str | None) -> tuple[LayerPlan, Piece]:
        """A layer's piece before a step, or after all that change its shape."""
        frame = whole_frame(self.plans.title.frame, _SAMPLE)
        view = View(_SAMPLE, frame, Part(before=before, stages=SHAPE_STAGES), framed=False)
        plan = self.plans.layer(view, layer)
        return plan, self.run.result(plan.node)


def parts_of(
    breaking: Breaking,
    layer: Layer,
    around: Surroundings,
    before: str | None = None,
    whole: bool = False,
) -> list[Shard]:
    """The parts of one layer, from what lies beneath to what lies above, those that are not seen
    as empty ones; with `before`, the id of a step, those that the steps before it make. Sides that
    are `whole` are not cut where others hide them.

    Raises RenderError for a card that is seen from its edge or its back.
    """
    plan, parts = card_parts(breaking, layer, around, before, whole)
    seen = _seen(plan, breaking)
    return [
        Shard(layer.id, part.kind, part.letter, part.number, area, part.facing, part.place)
        for part in parts
        for area in shapely.get_parts(shapely.transform(part.area, seen))
    ]


def card_parts(
    breaking: Breaking,
    layer: Layer,
    around: Surroundings,
    before: str | None = None,
    whole: bool = False,
) -> tuple[LayerPlan, list[NamedPart]]:
    """The same on the layer's card, in render pixels of its plan from the layer's centre."""
    assert isinstance(layer, Placed)
    counting = Part(before=before).of(layer.build)
    steps = [step for step in counting if kind_of(step.step).parts]
    plan, piece = breaking.piece(layer, steps[0].id if steps else before)
    if plan.scale <= 0:
        return plan, []
    if plan.card.seen_from[2] <= 0:
        raise RenderError(f"layer {layer.name or layer.id!r} is seen from behind: it has no front")
    scene = Scene(plan.scale, around, breaking.plans.pause)
    made = []
    for index, step in enumerate(steps):
        following = steps[index + 1].id if index + 1 < len(steps) else before
        makes, settings = kind_of(step.step).parts, breaking.plans.settings(step)
        assert makes is not None
        traced = makes.traces(settings, scene)
        made.append(Made(makes, settings, breaking.piece(layer, following)[1] if traced else None))
    return plan, named_parts(solid_of(piece, made, scene, whole), around.letters())


class Made(NamedTuple):
    """A step that makes parts, and what came of it, where they are traced from that."""

    makes: MakesParts
    settings: StepSettings
    after: Piece | None


def solid_of(first: Piece, made: Sequence[Made], scene: Scene, whole: bool = False) -> Solid:
    """What steps break a piece into, one after the other."""
    lines = first.outline
    face = face_of(lines) if lines is not None else area_of(first.matte, first.region)
    solid = Solid(face, face, whole=whole)
    with np.errstate(divide="ignore", invalid="ignore"):  # GEOS raises these flags on its way
        for each in made:
            solid = each.makes.work(solid, each.after, each.settings, scene)
    return solid


class Past(NamedTuple):
    """A step of a build that makes parts, as it is planned."""

    name: str
    """That of its kind."""
    makes: MakesParts
    settings: StepSettings
    after: Node[Piece]


@dataclass(frozen=True)
class Broken:
    """What a build has broken its source into."""

    parts: tuple[NamedPart, ...]

    @cached_property
    def arrays(self) -> list[NDArray[np.float64]]:
        """All their corners: about what they take to be kept."""
        return [shapely.get_coordinates([each.area for each in self.parts])]


def parts_node(
    plans: Plans,
    layer: str,
    first: Node[Piece],
    past: Sequence[Past],
    scale: float,
    around: Surroundings,
) -> Node[Broken]:
    """What a build has broken its source into so far, in render pixels; nothing from behind.

    Where no step's result has to be traced, it needs the source alone: it is made beside those
    steps, and is the same under other lights and colours.
    """
    scene = Scene(scale, around, plans.pause)
    letters, from_behind = around.letters(), around.viewer[2] <= 0
    for each in past:
        each.makes.asks(each.settings, scene)
    traced = [each.makes.traces(each.settings, scene) for each in past]

    def work(piece: Piece, *afters: Piece) -> Broken:
        if from_behind:
            return Broken(())
        after = iter(afters)
        made = [
            Made(each.makes, each.settings, next(after) if is_traced else None)
            for each, is_traced in zip(past, traced, strict=True)
        ]
        held = scene.held_to(frozenset(scene.asked))
        return Broken(tuple(named_parts(solid_of(piece, made, held), letters)))

    needed = [each.after for each, is_traced in zip(past, traced, strict=True) if is_traced]
    inputs = (first, *needed)
    key = key_of(
        parts=[each.name for each in past], settings=[each.settings for each in past],
        inputs=inputs, letters=letters, scale=scale, behind=from_behind, asked=scene.asked,
    )  # fmt: skip
    return Node("parts", layer, key, first.region, work, inputs, floats=0)


def _seen(plan: LayerPlan, breaking: Breaking) -> Callable[[NDArray[np.float64]], Any]:
    """From places (N, 2) on a card to where they are seen in the frame."""
    matrix, frame = plan.card.homography, breaking.plans.title.frame
    shift = np.array(plan.shift)

    def seen(places: NDArray[np.float64]) -> NDArray[np.float64]:
        own = (places - shift) / plan.scale
        x, y, w = matrix @ np.vstack([own.T, np.ones(len(own))])
        return np.stack([x / w + frame.width / 2, y / w + frame.height / 2], axis=1)

    return seen
