"""The steps of a layer's build as nodes, one after the other."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np

from mabrel.render.errors import RenderError
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.parts import Broken, Past, parts_node
from mabrel.render.pieces import LONGEST_PIECE, bare_piece
from mabrel.render.placing import in_picture, on_card
from mabrel.render.sources import Source
from mabrel.render.view import View, whole_frame
from mabrel.source import Image
from mabrel.steps import (
    Array,
    Bound,
    Margin,
    Piece,
    Region,
    Scene,
    StepKind,
    StepSettings,
    Surroundings,
    kind_of,
    mixed,
    settings_of_kind,
    varying_settings,
    weights,
    where_at,
)
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.part import NamedPart
from mabrel.title import LayerMatte, Play, Step, Where, value_at
from mabrel.title.kinds import IMAGE_OF_LAYER
from mabrel.title.playing import RUNNING, named_as_clip
from mabrel.title.varying import Varying, varying_in

MEMORY_LIMIT = 4 * 2**30
"""Bytes that one render may need by estimate; more is refused with an error."""
BEYOND = ("depth", "ground", "lens")
"""What these reach beyond the frame is seen by few later steps, so it is left out."""
TREATING = ("tone", "light")
"""In a wash these treat what is there; all others may add to it."""
_WORKING = 50  # numbers a pixel that a step needs on the way
_WIDEST = 2.0  # times what it would be on a level card, that a turned one may become


@dataclass(frozen=True)
class Setting:
    """Where the steps of a build work: their layer's place and all that may be asked there."""

    plan: LayerPlan
    """The layer as far as it is planned."""
    view: View
    around: Surroundings
    level: Surroundings
    """The same before a card that lies as the frame does."""
    visible: Region | None
    """As much of the card's plane as the frame shows; None where nothing is left out."""
    varies: dict[str, tuple[Varying[Any], ...]]
    """By what can be asked, the values over time that it comes from."""
    overview: Node[Any] | None = None
    beneath: bool = False
    """Whether it treats what lies beneath: then each step treats all that the last one made."""


Breaks = Callable[[], Node[Broken]]
"""Plans what a build has broken its layer into so far."""
Cut = Callable[[Source], Source]
"""Takes away what is not there for what lies around a layer."""


def built(
    plans: Plans, setting: Setting, source: Source, build: Sequence[Step], cut: Cut = lambda s: s
) -> Source:
    """A source run through the steps of a build that count; `cut` before the first that falls on
    its surroundings or on all of it."""
    part = setting.view.part.of(build)
    asked = {id for step in part for _, id in settings_of_kind(step, "step")}
    done = source
    around = next((i for i, step in enumerate(part) if _is_around(step)), len(part))
    past: list[Past] = []
    first = source
    for index, step in enumerate(part):
        if index == around:
            done = cut(done)
        if value_at(step.strength, plans.time) <= 0:
            continue
        kind = kind_of(step.step)
        first = first if past else done
        plan = setting.plan
        parts = partial(
            parts_node, plans, plan.layer.id, first.node, tuple(past), plan.scale, setting.around
        )
        done = _stepped(plans, setting, done, step, step.id in asked, parts)
        if kind.parts:
            past.append(Past(kind, plans.settings(step), done.node))
    return cut(done) if around == len(part) else done


def _is_around(step: Step) -> bool:
    return kind_of(step.step).stage in ("ground", "lens")


def _stepped(
    plans: Plans, setting: Setting, before: Source, step: Step, keep: bool, parts: Breaks
) -> Source:
    kind, settings = kind_of(step.step), plans.settings(step)
    where = where_at(step.where, plans.time)
    strength = value_at(step.strength, plans.time)
    scene = Scene(setting.plan.scale, setting.around)
    given = before.bound
    if kind.stage == "lens" and not setting.plan.card.turned:
        given = given.settled()
    most = _most(kind, given, settings, setting)
    bound = kind.planned(given, settings, scene, most)
    images = _images(plans, setting.view, step, settings)
    matte = _matte(plans, setting, where)
    overview = setting.overview if "overview" in scene.asked else None
    inputs = (before.node, *images.nodes, *((matte.node,) if matte else ()))
    inputs += (overview,) if overview else ()
    inputs += (parts(),) if "parts" in scene.asked else ()
    needed = kind.room(given, settings, Scene(setting.plan.scale, setting.around))
    seen: dict[str, Any] = {
        "step": kind.name,
        "settings": settings,
        "strength": strength,
        "where": where,
        "scale": setting.plan.scale,
        "files": images.versions,
        "keeps": step.id if keep else None,
        "asked": scene.asked,
        "cut to": None if all(a <= b for a, b in zip(needed, most, strict=True)) else most,
        "matte": matte and [matte.place, setting.plan.place],
        "place": setting.plan.place if where and "cast" in kind.writes else None,
    }
    work = Work(
        kind, settings, strength, where, step.id if keep else None, most, setting,
        scene, images, step.play or Play(), matte, plans, overview is not None,
    )  # fmt: skip
    varies = [*varying_settings(step), *varying_in([step.strength, step.where])]
    varies += [RUNNING, *varying_in(step.play)] if images.runs else []
    varies += [value for name in scene.asked for value in setting.varies.get(_fact(name), ())]
    node = Node(
        "step", kind.name, key_of(inputs=inputs, **seen), bound.region, work, inputs,
        tuple(varies), before.node.floats + _gained(kind), _WORKING,
    )  # fmt: skip
    _check_memory(node, kind)
    return Source(node, bound)


def _fact(asked: str) -> str:
    return asked.split(":")[0]


def _gained(kind: StepKind) -> int:
    """Numbers a pixel that a step's result has more than its input, at most."""
    return 4 * len({"behind", "front"} & set(kind.writes)) + ("body" in kind.writes)


def _most(kind: StepKind, bound: Bound, settings: StepSettings, setting: Setting) -> Margin:
    """The most room that a step may add: what fills the frame has nothing beyond it, of what
    reaches far only as much is made as the frame can show, and on a card that is turned no more
    than twice as much as on one that is not."""
    if setting.around.fills_frame:
        return Margin()
    far = LONGEST_PIECE
    if kind.stage not in BEYOND or setting.visible is None:
        return Margin(far, far, far, far)
    most = bound.region.room_within(Margin(far, far, far, far), setting.visible)
    if not setting.plan.card.turned:
        return most
    level = kind.room(bound, settings, Scene(setting.plan.scale, setting.level))
    needed = kind.room(bound, settings, Scene(setting.plan.scale, setting.around))
    most = Margin(*map(min, most, needed))
    frame = setting.level.frame or bound.region
    flat = bound.region.grown(level).common(frame.joined(bound.region))
    while any(most) and bound.region.grown(most).area > _WIDEST * flat.area:
        most = Margin(*(side * 3 // 4 for side in most))
    return most


@dataclass(frozen=True)
class Images:
    """What the image settings of a step name: layers as nodes, files by their versions."""

    names: tuple[str, ...]
    nodes: tuple[Node[Image], ...]
    versions: tuple[str, ...]
    runs: bool
    """Whether a clip is among them."""


def _images(plans: Plans, view: View, step: Step, settings: StepSettings) -> Images:
    names = [name for _, name in settings_of_kind(step, "image")]
    layers = [name for name in names if name.startswith(IMAGE_OF_LAYER)]
    nodes = [plans.image(view, name.removeprefix(IMAGE_OF_LAYER)) for name in layers]
    play = step.play or Play()
    files = [plans.reader.version(name, plans.time, play) for name in names if name not in layers]
    runs = any(named_as_clip(name) for name in names if name not in layers)
    return Images(tuple(layers), tuple(nodes), tuple(files), runs)


def _matte(plans: Plans, setting: Setting, where: Where | None) -> LayerPlan | None:
    """The layer whose coverage limits a step."""
    if not isinstance(where, LayerMatte):
        return None
    return plans.layer(setting.view, plans.title.layer(where.layer))


def _check_memory(node: Node[Piece], kind: StepKind) -> None:
    region = node.region
    if max(region.width, region.height) > LONGEST_PIECE:
        raise RenderError(
            f"step {kind.label!r} would need {region.width} × {region.height} pixels, more "
            f"than {LONGEST_PIECE} on a side. Lower its lengths or the scale of the render"
        )
    if node.bytes_at_work > MEMORY_LIMIT:
        raise RenderError(
            f"step {kind.label!r} would need about {node.bytes_at_work / 2**30:.0f} GB for "
            f"{region.width} × {region.height} pixels; the limit is {MEMORY_LIMIT / 2**30:.0f} GB. "
            "Lower its lengths or the scale of the render"
        )


@dataclass(frozen=True)
class Work:
    """One step, ready to be applied to the piece before it."""

    kind: StepKind
    settings: StepSettings
    strength: float
    where: Where | None
    keeps: str | None
    most: Margin
    setting: Setting
    scene: Scene
    images: Images
    play: Play
    matte: LayerPlan | None
    plans: Plans
    sees_overview: bool

    def __call__(self, piece: Piece, *others: Any) -> Piece:
        self.plans.pause()
        count = len(self.images.nodes)
        images = dict(zip(self.images.names, others[:count], strict=True))
        rest = list(others[count:])
        matte = rest.pop(0) if self.matte else None
        overview = rest.pop(0) if self.sees_overview else None
        scene = self._scene(images, overview, rest[0].parts if rest else ())
        if self.kind.stage == "lens" and not self.setting.plan.card.turned:
            piece = piece.settled()
        room = Margin(*map(min, self.kind.room(piece, self.settings, scene), self.most))
        before = piece.grown(room)
        after = self.kind.apply(before, self.settings, scene)
        after = self._weighed(before, after, matte)
        if self.keeps is not None:
            after = after.keeping(self.keeps, before)
        if not self.setting.beneath:
            return after
        return _whole(_on_what_is_there(before, after) if self.kind.stage in TREATING else after)

    def _scene(
        self, images: dict[str, Image], overview: Any, parts: tuple[NamedPart, ...]
    ) -> Scene:
        def image(name: str, size: float) -> Image:
            return (
                images[name]
                if name in images
                else self.plans.reader.file(name, size, self.plans.time, self.play)
            )

        around = replace(self.setting.around, parts=lambda: parts)
        if overview is not None:
            frame = whole_frame(self.plans.title.frame, self.setting.view.scale)
            around = replace(around, overview=lambda: (overview, frame))
        known = Scene(self.setting.plan.scale, around, self.plans.pause, image)
        return known.held_to(frozenset(self.scene.asked))

    def _weighed(self, before: Piece, after: Piece, matte: Piece | None) -> Piece:
        """As much of a step's result as its strength and its `where` let through."""
        if self.where is None:
            return after if self.strength == 1 else mixed(before, after, self.strength)

        def share(region: Region) -> Array:
            if region == before.region:
                return self._shares(before, matte)
            return self._on_surroundings(before, region, matte)

        return mixed(before, after, share)

    def _shares(self, piece: Piece, matte: Piece | None) -> Array:
        """(H, W): over the piece's own region."""
        plan, scale = self.setting.plan, self.setting.view.scale

        def coverage(layer: str, region: Region) -> Array:
            assert matte is not None
            assert self.matte is not None
            other, covered = self.matte, matte

            def seen(part: Region) -> Array:
                return in_picture(other, covered.region, covered.matte, part, scale)

            return on_card(plan, region, scale, seen)

        found = weights(self.where, piece, plan.scale, coverage)
        return np.asarray(found * np.float32(self.strength), np.float32)

    def _on_surroundings(self, piece: Piece, region: Region, matte: Piece | None) -> Array:
        """(H, W): over a part of the picture, where the piece casts something."""
        plan, scale = self.setting.plan, self.setting.view.scale
        if not plan.card.turned:
            wide = piece.grown(piece.region.room_for(region))
            return self._shares(wide, matte)[region.within(wide.region)]
        return in_picture(plan, piece.region, self._shares(piece, matte), region, scale)


def _on_what_is_there(before: Piece, after: Piece) -> Piece:
    """No place covered more than before: what is empty stays empty."""
    if after.face is before.face:
        return after
    was, now = before.face[..., 3:], after.face[..., 3:]
    share = np.minimum(was / np.maximum(now, np.float32(1e-6)), np.float32(1))
    return replace(after, face=after.face * share)


def _whole(piece: Piece) -> Piece:
    """What a step made of all that lies beneath, as one plane again."""
    if piece.front is None and piece.behind is None and piece.cast is None:
        return piece
    done = piece.settled()
    matte = np.ones_like(done.matte)
    return bare_piece(done.region, done.box, matte, flattened(done))
