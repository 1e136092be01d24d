"""The steps of a layer's build as nodes, one after the other."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from mabrel.render.errors import RenderError
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.parts import Broken, Past, parts_node
from mabrel.render.pieces import LONGEST_PIECE
from mabrel.render.room import room_of
from mabrel.render.setting import Setting
from mabrel.render.sources import Source
from mabrel.render.view import View
from mabrel.render.work import Images, Work
from mabrel.steps import (
    Piece,
    StepKind,
    StepSettings,
    kind_of,
    settings_of_kind,
    where_at,
)
from mabrel.steps.textures.tiling import lie_in_frame
from mabrel.title import LayerMatte, Play, Step, Where, value_at
from mabrel.title.kinds import IMAGE_OF_LAYER
from mabrel.title.playing import RUNNING, named_as_clip
from mabrel.title.varying import varying_in

MEMORY_LIMIT = 4 * 2**30
"""Bytes that one render may need by estimate; more is refused with an error."""
_WORKING = 50  # numbers a pixel that a step needs on the way

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
    shape = source  # as it is before the first step that makes parts
    for index, step in enumerate(part):
        if index == around:
            done = cut(done)
        if value_at(step.strength, plans.time) <= 0:
            continue
        kind = kind_of(step.step)
        plan = setting.plan
        parts = partial(
            parts_node, plans, plan.layer.id, shape.node, tuple(past), plan.scale, setting.around
        )
        done = _stepped(plans, setting, done, step, step.id in asked, parts)
        if kind.parts:
            past.append(Past(kind.name, kind.parts, plans.settings(step), done.node))
        elif kind.reshapes and not past:
            shape = done
    return cut(done) if around == len(part) else done


def _is_around(step: Step) -> bool:
    return kind_of(step.step).stage in ("ground", "lens")


def _stepped(
    plans: Plans, setting: Setting, before: Source, step: Step, keep: bool, parts: Breaks
) -> Source:
    plans.pause()
    kind, settings = kind_of(step.step), plans.settings(step)
    where = where_at(step.where, plans.time)
    strength = value_at(step.strength, plans.time)
    given = before.bound
    if kind.stage == "lens" and not setting.plan.card.turned:
        given = given.settled()
    room = room_of(kind, given, settings, setting)
    setting, scene = room.setting, room.scene
    bound = kind.planned(given, settings, scene, room.given)
    images = _images(plans, setting.view, step, settings)
    matte = _matte(plans, setting, where)
    overview = setting.overview if "overview" in scene.asked else None
    inputs = (before.node, *images.nodes, *((matte.node,) if matte else ()))
    inputs += (overview,) if overview else ()
    inputs += (parts(),) if "parts" in scene.asked else ()
    seen: dict[str, Any] = {
        "step": kind.name,
        "settings": settings,
        "strength": strength,
        "where": where,
        "scale": setting.plan.scale,
        "files": images.versions,
        "keeps": step.id if keep else None,
        "asked": scene.asked,
        "cut to": None if room.given == room.needed else room.most,
        "matte": matte and [matte.place, setting.plan.place],
        "place": setting.plan.place if where and "cast" in kind.writes else None,
    }
    work = Work(
        kind, settings, strength, where, step.id if keep else None, room.most, setting,
        scene, images, step.play or Play(), matte, plans, overview is not None,
    )  # fmt: skip
    varies = [*plans.varying(step)]
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


def _images(plans: Plans, view: View, step: Step, settings: StepSettings) -> Images:
    names = [name for _, name in settings_of_kind(step, "image")]
    layers = [name for name in names if name.startswith(IMAGE_OF_LAYER)]
    in_frame = bool(layers) and lie_in_frame(settings)
    nodes = [plans.image(view, name.removeprefix(IMAGE_OF_LAYER), in_frame) for name in layers]
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
