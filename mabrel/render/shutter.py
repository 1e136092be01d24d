"""Motion blur: a frame as the mean of what is there while the shutter is open."""

import itertools
import math
from collections.abc import Callable, Iterator

import numpy as np

from mabrel.colour.spaces import light_of, picture_of
from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node, key_of
from mabrel.render.planner import Planner
from mabrel.render.view import View
from mabrel.steps import Array
from mabrel.title import Blur, Frame, Moment, Placed

_LEAST = 4  # pictures that a frame is the mean of where something changes, but nothing moves

PictureOf = Callable[[Planner], Node[Array]]
"""The last node of a picture at a planner's time."""


def shutter_node(planner: Planner, view: View, picture: PictureOf) -> Node[Array]:
    """The picture at a planner's time, blurred as its title says."""
    title = planner.title
    if title.blur.angle == 0:
        return picture(planner)
    times = openings(title.frame, title.blur, planner.time, title.blur.samples)
    first, last = (planner.at(time) for time in (times[0], times[-1]))
    if title.blur.by_motion:
        count = _needed(first, last, view, picture)
        times = openings(title.frame, title.blur, planner.time, min(count, title.blur.samples))
    nodes = [picture(planner.at(time)) for time in times]
    runs = [(node, 1 + sum(1 for _ in more)) for node, *more in _alike(nodes)]
    if len(runs) == 1:
        return nodes[0]
    return _mean(runs, len(times))


def openings(frame: Frame, blur: Blur, time: Moment, samples: int) -> list[Moment]:
    """The middles of even parts of the time during which the shutter is open around `time`."""
    open_for = blur.angle / 360 / frame.fps
    return [
        Moment(time + open_for * ((part + 0.5) / samples - 0.5), time.loop)
        for part in range(samples)
    ]


def _alike(nodes: list[Node[Array]]) -> Iterator[list[Node[Array]]]:
    for _, same in itertools.groupby(nodes, key=lambda node: node.key):
        yield list(same)


def _mean(runs: list[tuple[Node[Array], int]], count: int) -> Node[Array]:
    """One picture is added after the other, so no more than two are held at a time."""
    total = _none(runs[0][0])
    for node, times in runs:
        total = _added(total, node, times / count)
    key = key_of(developed=total)
    return Node("canvas", "shutter", key, total.region, picture_of, (total,), keeps=False)


def _none(like: Node[Array]) -> Node[Array]:
    shape = (like.region.height, like.region.width, 4)
    key = key_of(unexposed=like.region)
    return Node(
        "canvas", "unexposed", key, like.region, lambda: np.zeros(shape, np.float32), keeps=False
    )


def _added(total: Node[Array], picture: Node[Array], weight: float) -> Node[Array]:
    def work(light: Array, pixels: Array) -> Array:
        light += light_of(pixels) * np.float32(weight)
        return light

    key = key_of(light=total, more=picture, weight=weight)
    return Node(
        "canvas", "exposed", key, total.region, work, (total, picture), keeps=False,
        changes_first=True,
    )  # fmt: skip


def _needed(first: Planner, last: Planner, view: View, picture: PictureOf) -> int:
    """How many pictures it takes for no edge to leave a gap: one for each pixel that it moves."""
    if picture(first).key == picture(last).key:
        return 1
    ways = [
        _way(first.layer(view, layer), last.layer(view, layer), view.scale)
        for layer in first.title.layers
        if isinstance(layer, Placed) and layer.visible
    ]
    return max(_LEAST, math.ceil(max(ways, default=0.0)))


def _way(before: LayerPlan, after: LayerPlan, scale: float) -> float:
    """How far the corners of what a layer covers move in the picture, in render pixels."""
    return float(np.abs(_corners(after, scale) - _corners(before, scale)).max())


def _corners(plan: LayerPlan, scale: float) -> Array:
    region = plan.bound.region
    x = np.array([region.left, region.right, region.left, region.right], np.float64)
    y = np.array([region.top, region.top, region.bottom, region.bottom], np.float64)
    fine = max(plan.scale, 1e-6)
    own = (np.array([x, y]) - np.array(plan.shift)[:, None]) / fine
    u, v, w = plan.card.homography @ np.vstack([own, np.ones(4)])
    seen = np.array([u, v]) / np.maximum(w, 1e-6)
    return np.asarray(seen * scale, np.float32)
