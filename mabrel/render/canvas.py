"""Layers over one another, from back to front, and washes over what lies beneath."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from mabrel.colour import blend, blend_into
from mabrel.render.builds import built
from mabrel.render.floors import floor_node
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.placing import Laid, in_picture, laid, reached
from mabrel.render.room import BEYOND
from mabrel.render.sources import washed_source
from mabrel.render.view import View, whole_frame
from mabrel.steps import Array, Margin, Piece, Region, Scene, kind_of
from mabrel.steps.faces.flattening import flattened
from mabrel.title import Floor, Layer, Wash, value_at
from mabrel.title.varying import varying_in

LARGEST_AROUND = 8_400_000
"""Pixels that a part of the picture may take with what shines into it from beside."""
OVERVIEW = 480
"""Pixels along the frame's longer side in which steps look for highlights."""


def canvas_node(plans: Plans, view: View, layers: Sequence[Layer]) -> Node[Array]:
    """Layers over one another, (H, W, 4) over the view's region; only the visible ones of
    `layers` must be given."""
    around = _around(plans, view, layers)
    if around == view.region:
        return _stacked(plans, view, layers)
    whole = _stacked(plans, replace(view, region=around), layers)

    def cut(canvas: Array) -> Array:
        return np.ascontiguousarray(canvas[view.region.within(around)])

    key = key_of(part=whole, of=around, region=view.region)
    return Node("canvas", "part", key, view.region, cut, (whole,), keeps=False)


def _stacked(plans: Plans, view: View, layers: Sequence[Layer]) -> Node[Array]:
    canvas = _empty(view)
    for index, layer in enumerate(layers):
        if value_at(layer.opacity, plans.time) <= 0:
            continue
        if isinstance(layer, Wash):
            canvas = _washed(plans, view, layer, replace(canvas, keeps=True), layers[:index])
        else:
            canvas = _with_layer(plans, view, layer, canvas)
    return canvas


def _empty(view: View) -> Node[Array]:
    shape = (view.region.height, view.region.width, 4)
    key = key_of(empty=view.region)
    return Node(
        "canvas", "empty", key, view.region, lambda: np.zeros(shape, np.float32), keeps=False
    )


def _with_layer(plans: Plans, view: View, layer: Layer, canvas: Node[Array]) -> Node[Array]:
    """The canvas with one more layer over it, where that has anything."""
    plan = plans.layer(view, layer)
    source = laid_node(plans, view, plan)
    matte = matte_node(plans, view, layer)
    opacity, mode = np.float32(plan.opacity), value_at(layer.blend, plans.time)
    bare = not canvas.inputs and mode == "normal" and opacity == 1 and matte is None

    def work(beneath: Array, own: Laid, share: Array | None = None) -> Array:
        part, pixels = own
        if not part.area:
            return beneath
        if bare and part == view.region:
            return pixels.copy()
        if share is not None:
            part = part.common(view.region)
            own_share = share[part.within(view.region)][..., None] * opacity
            pixels = np.minimum(own.over(part), 1) * own_share
        elif opacity != 1:
            pixels = np.minimum(pixels, 1) * opacity  # what is brighter than white fades, too
        at = part.moved(-view.region.left, -view.region.top)
        blend_into(mode, beneath, pixels, at.top, at.left)
        return beneath

    inputs = (canvas, source, *((matte,) if matte else ()))
    key = key_of(on=inputs, blend=mode, opacity=plan.opacity)
    return Node(
        "canvas", layer.id, key, view.region, work, inputs,
        tuple(varying_in([layer.opacity, layer.blend])),
        keeps=False, changes_first=True,
    )  # fmt: skip


def laid_node(plans: Plans, view: View, plan: LayerPlan) -> Node[Laid]:
    """A layer's card laid into the picture."""
    layer = plan.layer
    if isinstance(layer, Floor):
        floor = floor_node(plans, view, plan, layer, lambda piece, _: flattened(piece), "picture")
        key = key_of(laid=floor)
        return Node(
            "card", layer.id, key, view.region, lambda pixels: Laid(view.region, pixels), (floor,),
            keeps=False,
        )  # fmt: skip

    def work(piece: Piece) -> Laid:
        return laid(plan, piece, view.region, view.scale)

    region = reached(plan, plan.bound.region, plan.bound.cast, view.scale).common(view.region)
    key = key_of(
        laid=plan.node, place=plan.place, face=plan.face_opacity, region=view.region,
        scale=view.scale,
    )  # fmt: skip
    return Node(
        "card", layer.id, key, region, work, (plan.node,), plan.placed_by, keeps=plan.card.turned
    )


def matte_node(plans: Plans, view: View, layer: Layer) -> Node[Array] | None:
    """The coverage (H, W) that a layer takes from another, over the view's region."""
    if layer.matte_from is None:
        return None
    of = plans.layer(view, plans.title.layer(layer.matte_from))

    def work(piece: Piece) -> Array:
        return in_picture(of, piece.region, piece.matte, view.region, view.scale)

    key = key_of(matte=of.node, place=of.place, region=view.region, scale=view.scale)
    return Node(
        "matte", layer.matte_from, key, view.region, work, (of.node,), of.placed_by, 1,
        keeps=False,
    )  # fmt: skip


def _washed(
    plans: Plans, view: View, layer: Wash, beneath: Node[Array], layers: Sequence[Layer]
) -> Node[Array]:
    """The canvas with all that lies beneath treated by a wash."""
    plan = plans.layer(view, layer)
    source = washed_source(plans, layer, view, beneath)
    setting = replace(
        plans.setting(view, replace(plan, node=source.node, bound=source.bound)),
        overview=_overview(plans, view, beneath, layers),
        beneath=True,
    )
    done = built(plans, setting, source, layer.build).node
    matte = matte_node(plans, view, layer)
    opacity, mode = np.float32(plan.opacity), value_at(layer.blend, plans.time)

    def work(canvas: Array, piece: Piece, share: Array | None = None) -> Array:
        washed = flattened(piece)  # an array that is kept, perhaps
        weight = opacity if share is None else share[..., None] * opacity
        if mode != "normal":
            return blend(mode, canvas, np.asarray(washed * weight, np.float32))
        if share is None and opacity == 1:
            return washed.copy() if washed is piece.face else washed
        return np.asarray(canvas + (washed - canvas) * weight, np.float32)

    inputs = (beneath, done, *((matte,) if matte else ()))
    key = key_of(wash=inputs, blend=mode, opacity=plan.opacity)
    varies = tuple(varying_in([layer.opacity, layer.blend]))
    return Node("wash", layer.id, key, view.region, work, inputs, varies, keeps=False)


def _overview(plans: Plans, view: View, beneath: Node[Array], layers: Sequence[Layer]) -> Node[Any]:
    """The whole frame beneath a wash, and where it lies in this render's pixels: coarse, or as it
    is rendered anyway where that is no larger than twice as much."""
    frame = plans.title.frame
    longest = max(frame.width, frame.height)
    fine = view.scale * longest <= 2 * OVERVIEW
    scale = view.scale if fine else min(OVERVIEW / longest, 1.0)
    whole = View(scale, whole_frame(frame, scale), view.part)
    canvas = beneath if whole == view else canvas_node(plans, whole, layers)
    key = key_of(overview=canvas)
    return Node("overview", "frame", key, canvas.region, lambda pixels: pixels, (canvas,))


def _around(plans: Plans, view: View, layers: Sequence[Layer]) -> Region:
    """The part of the picture that must be known for the washes to treat the view's: what glows
    beside it shines into it. Where that would be too much, as much as is allowed."""
    whole = whole_frame(plans.title.frame, view.scale).joined(view.region)
    if view.region == whole:
        return view.region
    around = view.region
    for layer in layers:
        if isinstance(layer, Wash):
            around = around.joined(view.region.grown(_room(plans, view, layer)))
    around = around.common(whole)
    if around.area <= max(LARGEST_AROUND, view.region.area):
        return around
    return _within(view.region, around)


def _room(plans: Plans, view: View, layer: Wash) -> Margin:
    """The most that any step of a wash reaches beside what it treats."""
    plan = plans.layer(view, layer)
    around = plans.setting(view, plan).around
    most = Margin()
    for step in view.part.of(layer.build):
        kind = kind_of(step.step)
        if kind.stage in BEYOND and value_at(step.strength, plans.time) > 0:
            room = kind.room(plan.bound, plans.settings(step), Scene(plan.scale, around))
            most = Margin(*map(max, most, room))
    return most


def _within(region: Region, around: Region) -> Region:
    """The margins of `around` cut until its area is allowed."""
    share = 1.0
    while share > 0.02:
        share *= 0.8
        margin = Margin(*(round(side * share) for side in region.room_for(around)))
        if region.grown(margin).area <= LARGEST_AROUND:
            return region.grown(margin)
    return region


def reach_of(plans: Plans, view: View, layers: Sequence[Layer]) -> Region:
    """All of the picture that layers can cover."""
    area = Region(0, 0, 0, 0)
    for layer in layers:
        if isinstance(layer, Wash):
            continue
        plan = plans.layer(view, layer)
        own = reached(plan, plan.bound.region, plan.bound.cast, view.scale)
        area = own if not area.area else area.joined(own) if own.area else area
    return area
