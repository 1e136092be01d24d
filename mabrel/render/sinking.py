"""What stands before a floor that hides, and reaches below it: that part is not there."""

import math
from dataclasses import replace
from functools import partial

import numpy as np

from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.sources import Source
from mabrel.source.uniting import Lines, combined
from mabrel.steps import Bound, Piece, Region
from mabrel.steps.planes.projections import along
from mabrel.title import Floor, Layer, value_at
from mabrel.title.varying import varying_in

_FLAT = 1e-6  # sine of the angle between a card and a floor below which it is parallel to it


def hiding_floor(plans: Plans, layer: Layer) -> Floor | None:
    """The nearest floor behind a layer that hides what is beneath it."""
    layers = plans.title.layers
    behind = layers[: layers.index(layer)] if layer in layers else []
    floors = (each for each in reversed(behind) if isinstance(each, Floor))
    return next(
        (each for each in floors if value_at(each.hides, plans.time) and each.visible), None
    )


def sunk(plans: Plans, plan: LayerPlan, level: float, floor: Floor, whole: Source) -> Source:
    """A layer without what lies deeper than `level` (frame pixels below the frame's centre)."""
    down = np.array(plan.card.down[:2])
    steep = math.hypot(*down)
    if steep < _FLAT or plan.card.scale <= 0:
        return whole if plan.card.level <= level else _gone(whole)
    # How far along `down` the floor is met, in the piece's own pixels from the layer's origin.
    met = (level - plan.card.level) / plan.card.scale * plan.scale
    met += float(down @ np.array(plan.shift))
    outline = whole.bound.outline
    if outline is not None and (outline[:, :2] @ down <= met).all():
        return whole
    bound = _bound(whole.bound, down, met)
    key = key_of(sunk=whole.node, down=down, met=met)
    varies = (*plan.placed_by, *varying_in([floor.level, floor.hides]))
    work = partial(_cut, down=down, met=met, outline=bound.outline)
    before = whole.node
    node = Node("step", "floor", key, before.region, work, (before,), varies, floats=before.floats)
    return Source(node, bound)


def _bound(bound: Bound, down: Lines, met: float) -> Bound:
    left, top, right, bottom = bound.box
    upright = abs(down[0]) < _FLAT
    box = (left, top, right, max(min(bottom, met / down[1]), top)) if upright else bound.box
    if bound.outline is None:
        return replace(bound, box=box, exact=bound.exact and upright)
    outline = combined(bound.outline, [_below(bound.region, down, met)], cut=True)
    return replace(bound, box=box, outline=outline)


def _below(region: Region, down: Lines, met: float) -> Lines:
    """All of the plane below the line, as far as a piece reaches: a polygon (4, 2)."""
    steep = float(np.hypot(*down))
    ahead = np.array(down) / steep
    along_it = np.array([-ahead[1], ahead[0]])
    far = 4.0 * (region.width + region.height) + abs(met / steep) + math.dist((0, 0), region[:2])
    middle = ahead * (met / steep)
    return np.array(
        [
            middle - along_it * far,
            middle + along_it * far,
            middle + along_it * far + ahead * far,
            middle - along_it * far + ahead * far,
        ]
    )


def _cut(piece: Piece, *, down: Lines, met: float, outline: Lines | None) -> Piece:
    steep = np.float32(np.hypot(*down))
    above = (np.float32(met) - along(piece.region, np.array([*down, 0.0]))) / steep
    share = np.clip(above + np.float32(0.5), 0, 1).astype(np.float32)
    return piece.cut_off(share, outline)


def _gone(whole: Source) -> Source:
    before = whole.node
    bound = replace(whole.bound, outline=np.zeros((0, 4)))

    def work(piece: Piece) -> Piece:
        return piece.cut_off(np.zeros_like(piece.matte), np.zeros((0, 4)))

    node = Node("step", "floor", key_of(gone=before), before.region, work, (before,))
    return Source(node, bound)
