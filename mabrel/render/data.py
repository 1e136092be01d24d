"""Data about a picture, for those who composite it: what covers it, its relief, how far away."""

from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.camera import Card
from mabrel.field import normals
from mabrel.field.fill import fill
from mabrel.render.fields import field_node
from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node, key_of
from mabrel.render.placing import between_arrays
from mabrel.render.planner import Planner
from mabrel.render.sources import words_at
from mabrel.render.view import View
from mabrel.source.apart import moved_apart
from mabrel.steps import Array, Piece, Region
from mabrel.title import Lettering, Placed

NOTHING = 1e6
"""Depth, in frame pixels, where nothing stands."""
_HALF = 0.5  # coverage from which a pixel belongs to what covers it
Numbers = NDArray[np.uint32]


class Data(NamedTuple):
    """What stands in a picture: lettering, pictures, groups and copies, front over back.

    `matte` (H, W) is coverage, 0..1. `height` (H, W), in frame pixels, and `normals`
    (H, W, 3: right, down, towards the viewer, of the card) are weighed by what covers; `depth`
    (H, W) is how far from the viewer, in frame pixels along the view, and `letter` (H, W) a number
    from 1 for each letter: both belong to what covers at least half a pixel, and are
    `NOTHING` and 0 elsewhere.
    """

    matte: Array
    height: Array
    normals: Array
    depth: Array
    letter: Numbers


def data_node(planner: Planner, view: View) -> Node[Data]:
    """The data of a picture, over the view's region."""
    layers = [each for each in planner.title.layers if isinstance(each, Placed) and each.visible]
    found: list[Node[Array]] = []
    plans: list[LayerPlan] = []
    letters: list[list[np.ndarray]] = []
    for layer in layers:
        plan = planner.layer(view, layer)
        plans.append(plan)
        letters.append(_letters(planner, plan, layer))
        found.append(field_node(planner, view, plan, _fields, "data"))
    firsts = np.cumsum([1, *(max(len(each), 1) for each in letters)])

    def work(*fields: Array) -> Data:
        data = _none(view.region)
        for plan, own, its, first in zip(plans, fields, letters, firsts, strict=False):
            data = _with(data, plan, own, its, int(first), view)
        return data

    key = key_of(data=found, region=view.region, scale=view.scale)
    return Node("tap", "data", key, view.region, work, tuple(found), keeps=False)


def _fields(piece: Piece, fine: float) -> Array:
    """Coverage, relief in frame pixels and normals of a piece, (H, W, 5), weighed by coverage."""
    facing = normals(piece.height, piece.matte)
    height = piece.height / np.float32(max(fine, 1e-9))
    weighed = np.dstack([height, facing]) * piece.matte[..., None]
    return np.dstack([piece.matte, weighed]).astype(np.float32)


def _none(region: Region) -> Data:
    size = (region.height, region.width)
    flat, facing = np.zeros(size, np.float32), np.zeros((*size, 3), np.float32)
    far = np.full(size, NOTHING, np.float32)
    return Data(flat, flat, facing, far, np.zeros(size, np.uint32))


def _with(
    data: Data, plan: LayerPlan, own: Array, letters: list[np.ndarray], first: int, view: View
) -> Data:
    """One more layer over all that is there."""
    cover = np.clip(own[..., 0], 0, 1) * np.float32(plan.opacity)
    share = np.where(own[..., 0] > 0, cover / np.maximum(own[..., 0], 1e-6), 0)
    height = own[..., 1] * share + data.height * (1 - cover)
    facing = own[..., 2:] * share[..., None] + data.normals * (1 - cover)[..., None]
    mine = cover >= _HALF
    relief = np.asarray(own[..., 1] / np.maximum(own[..., 0], 1e-6), np.float32)
    depth = np.where(mine, _depth(plan.card, relief, view), data.depth)
    number = _numbers(plan, letters, first, view) if mine.any() else data.letter
    return Data(
        (cover + data.matte * (1 - cover)).astype(np.float32),
        height.astype(np.float32),
        facing.astype(np.float32),
        depth.astype(np.float32),
        np.where(mine, number, data.letter).astype(np.uint32),
    )


def _depth(card: Card, relief: Array, view: View) -> Array:
    """How far from the viewer each pixel of a card, raised by its relief, lies."""
    region = view.region
    x = (np.arange(region.left, region.right) + 0.5) / view.scale
    y = (np.arange(region.top, region.bottom) + 0.5) / view.scale
    back = np.linalg.inv(card.homography + np.eye(3) * 1e-12)
    u, v, w = (back[i, 0] * x[None, :] + back[i, 1] * y[:, None] + back[i, 2] for i in range(3))
    w = np.where(np.abs(w) < 1e-12, 1e-12, w)
    across, down, out = card.turn[2] * card.scale
    z = card.place[2] + across * (u / w) + down * (v / w) + out * relief
    return np.asarray(np.clip(card.viewer[2] - z, 0, NOTHING), np.float32)


def _letters(planner: Planner, plan: LayerPlan, layer: Placed) -> list[np.ndarray]:
    """The outlines of each letter as it is set, in the pixels of the layer's piece."""
    if not isinstance(layer, Lettering):
        return []
    words = words_at(planner, layer, plan.scale)
    by = "letter" if words.apart is None else words.apart.by
    parts = list(planner.reader.parts(words, by).parts)
    if words.apart is not None:
        apart = words.apart
        moved = [
            moved_apart([part], [move], apart.about)
            for part, move in zip(parts, apart.moves, strict=True)
        ]
        parts = [each[0].lines if each else np.zeros((0, 4)) for each in moved]
    shift = np.array([*plan.shift, *plan.shift])
    return [part + shift for part in parts]


def _numbers(plan: LayerPlan, letters: list[np.ndarray], first: int, view: View) -> Numbers:
    """The number of the letter nearest to each pixel, over the view's region."""
    if len(letters) < 2:
        return np.full((view.region.height, view.region.width), first, np.uint32)
    inside = plan.bound.region
    most = np.zeros((inside.height, inside.width), np.float32)
    mine = np.zeros(most.shape, np.uint32)
    for number, lines in enumerate(letters, first):
        cover = fill(lines, inside) if len(lines) else np.zeros_like(most)
        mine[cover > most] = number
        np.maximum(most, cover, out=most)
    return _in_picture(plan, inside, _spread(mine), view)


def _spread(numbers: Numbers) -> Numbers:
    """Every pixel with the number of the nearest one that has one."""
    empty = (numbers == 0).astype(np.uint8)
    if empty.all():
        return numbers
    _, nearest = cv2.distanceTransformWithLabels(
        empty, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    of = np.zeros(int(nearest.max()) + 1, np.uint32)
    of[nearest[empty == 0]] = numbers[empty == 0]
    found: Numbers = of[nearest]
    return found


def _in_picture(plan: LayerPlan, inside: Region, numbers: Numbers, view: View) -> Numbers:
    """Numbers at their place in the picture, none of them mixed."""
    if plan.scale <= 0:
        return np.zeros((view.region.height, view.region.width), np.uint32)
    if plan.card.turned:
        matrix = between_arrays(plan.card, plan.scale, inside, view.region, view.scale)
    else:
        there = inside.moved(*plan.origin)
        matrix = np.array(
            [
                [1, 0, there.left - view.region.left],
                [0, 1, there.top - view.region.top],
                [0, 0, 1.0],
            ]
        )
    placed = cv2.warpPerspective(
        numbers.astype(np.float32), matrix, (view.region.width, view.region.height),
        flags=cv2.INTER_NEAREST, borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    return np.asarray(placed, np.uint32)
