"""A title broken apart: the flat shapes of each layer, where they are seen in the frame."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.render.errors import RenderError
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.running import Run
from mabrel.render.view import SHAPE_STAGES, Part, View, whole_frame
from mabrel.source.letter_places import LetterPlace
from mabrel.steps import Piece, Scene, Surroundings, kind_of
from mabrel.steps.parts.solid import ORDER, Kind, Shape, Solid, area_of, face_of, fronts_of
from mabrel.title import Layer, Lettering, Picture, Placed, Shapes, Step

BROKEN_APART = (Lettering, Picture, Shapes)
"""Layers that have a shape of their own."""
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


def parts_of(breaking: Breaking, layer: Layer, around: Surroundings) -> list[Shard]:
    """The parts of one layer, from what lies beneath to what lies above.

    Raises RenderError for a card that is seen from its edge or its back.
    """
    assert isinstance(layer, Placed)
    steps = [step for step in layer.build if step.on and kind_of(step.step).parts]
    plan, piece = breaking.piece(layer, steps[0].id if steps else None)
    if plan.scale <= 0:
        return []
    if plan.card.seen_from[2] <= 0:
        raise RenderError(f"layer {layer.name or layer.id!r} is seen from behind: it has no front")
    lines = piece.outline
    face = face_of(lines) if lines is not None else area_of(piece.matte, piece.region)
    solid = Solid(face, face)
    scene = Scene(plan.scale, around)
    for index, step in enumerate(steps):
        following = steps[index + 1].id if index + 1 < len(steps) else None
        after = breaking.piece(layer, following)[1]
        solid = _stepped(breaking.plans, solid, after, step, scene)
    shapes = sorted([*solid.parts, *fronts_of(solid)], key=lambda each: ORDER.index(each.kind))
    return _named(layer, _placed(shapes, plan, breaking), _letters_at(shapes, around.letters()))


def _stepped(plans: Plans, solid: Solid, after: Piece, step: Step, scene: Scene) -> Solid:
    parts = kind_of(step.step).parts
    assert parts is not None
    done: Solid = parts(solid, after, plans.settings(step), scene)
    return done


def _letters_at(shapes: Sequence[Shape], letters: Sequence[LetterPlace]) -> list[str]:
    """The letter of each shape: the one in whose box its anchor lies, or nearest to it."""
    seen: Counter[str] = Counter()
    names = []
    for letter in letters:
        seen[letter.character] += 1
        names.append(f"{letter.character}{seen[letter.character]}")
    middles = [_middle(letter) for letter in letters]

    def named(anchor: tuple[float, float] | None) -> str:
        if anchor is None or not names:
            return ""
        away = [float(np.hypot(*(middle - anchor))) for middle in middles]
        return names[int(np.argmin(away))]

    return [named(shape.anchor) for shape in shapes]


def _middle(letter: LetterPlace) -> NDArray[np.float64]:
    left, top, right, bottom = letter.box
    middle = np.array([(left + right) / 2, (top + bottom) / 2])
    return np.asarray(np.reshape(letter.turned, (2, 2)) @ middle + np.array(letter.shift))


def _placed(
    shapes: Sequence[Shape], plan: LayerPlan, breaking: Breaking
) -> list[tuple[Kind, shapely.Geometry]]:
    """Shapes of a card where they are seen in the frame."""
    matrix, frame = plan.card.homography(), breaking.plans.title.frame
    shift = np.array(plan.shift)

    def seen(places: NDArray[np.float64]) -> NDArray[np.float64]:
        own = (places - shift) / plan.scale
        x, y, w = matrix @ np.vstack([own.T, np.ones(len(own))])
        return np.stack([x / w + frame.width / 2, y / w + frame.height / 2], axis=1)

    return [(each.kind, shapely.transform(each.area, seen)) for each in shapes]


def _named(
    layer: Layer, shapes: Sequence[tuple[Kind, shapely.Geometry]], letters: Sequence[str]
) -> list[Shard]:
    numbers: Counter[tuple[str, str]] = Counter()
    parts = []
    for (kind, area), letter in zip(shapes, letters, strict=True):
        for each in shapely.get_parts(area):
            if isinstance(each, shapely.Polygon) and not each.is_empty:
                numbers[kind, letter] += 1
                parts.append(Shard(layer.id, kind, letter, numbers[kind, letter], each))
    return parts
