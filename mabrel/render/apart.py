"""A layer's planes apart from one another, as they lie in the picture."""

from typing import NamedTuple

import numpy as np

from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node, key_of
from mabrel.render.placing import cast_in_picture, in_picture, laid
from mabrel.render.planner import Planner
from mabrel.render.view import View
from mabrel.steps import Array, Piece
from mabrel.steps.faces.flattening import flattened_face
from mabrel.title import Layer, Placed


class Planes(NamedTuple):
    """(H, W, 4) each: laid over one another, the front one last, they are the layer."""

    behind: Array
    face: Array
    before: Array


def planes_node(planner: Planner, view: View, layer: Layer) -> Node[Planes]:
    """A layer's planes over the view's region.

    A turned card is resampled as a whole, and a layer that is faded or takes a matte is cut as a
    whole: there only what it casts on its surroundings lies behind, or nothing at all.
    """
    plan = planner.layer(view, layer)
    whole = not isinstance(layer, Placed) or layer.matte_from is not None or plan.opacity < 1
    if whole:
        canvas = planner.canvas(view, [layer])
        key = key_of(planes=canvas)
        return Node("tap", "planes", key, view.region, _alone, (canvas,), keeps=False)

    def work(piece: Piece) -> Planes:
        return _apart(plan, piece, view)

    key = key_of(
        planes=plan.node, place=plan.place, face=plan.face_opacity, region=view.region,
        scale=view.scale,
    )  # fmt: skip
    return Node("tap", "planes", key, view.region, work, (plan.node,), keeps=False)


def _alone(pixels: Array) -> Planes:
    nothing = np.zeros_like(pixels)
    return Planes(nothing, pixels, nothing)


def _apart(plan: LayerPlan, piece: Piece, view: View) -> Planes:
    region, scale = view.region, view.scale
    nothing = np.zeros((region.height, region.width, 4), np.float32)

    def placed(plane: Array | None) -> Array:
        return nothing if plane is None else in_picture(plan, piece.region, plane, region, scale)

    thrown = cast_in_picture(plan, piece, region)
    if plan.card.turned:
        own = laid(plan, piece.without_cast(), region, scale)
        face = nothing.copy()
        if own.region.area:
            face[own.region.within(region)] = own.pixels
        return Planes(thrown, face, nothing)
    face = flattened_face(piece, plan.face_opacity) * piece.matte[..., None]
    behind = placed(piece.behind)
    if piece.cast is not None:
        behind = behind + thrown * (1 - behind[..., 3:])
    return Planes(behind, placed(face), placed(piece.front))
