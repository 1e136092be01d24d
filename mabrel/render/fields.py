"""A field of a layer's piece at its place in the picture."""

from collections.abc import Callable

from mabrel.colour import over
from mabrel.render.floors import floor_node
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.placing import cast_in_picture, in_picture
from mabrel.render.view import View
from mabrel.steps import Array, Piece
from mabrel.title import Floor

Field = Callable[[Piece, float], Array]
"""From a piece, and its own render pixels a frame pixel, to (H, W) or (H, W, C)."""


def field_node(
    plans: Plans, view: View, plan: LayerPlan, field: Field, name: str, cast: bool = False
) -> Node[Array]:
    """`field`, known by its `name`, over the view's region: (H, W) or (H, W, C). With `cast`, what
    the layer casts on its surroundings lies beneath it."""
    if isinstance(plan.layer, Floor):
        return floor_node(plans, view, plan, plan.layer, field, name)

    def work(piece: Piece) -> Array:
        own = in_picture(plan, piece.region, field(piece, plan.scale), view.region, view.scale)
        return over(cast_in_picture(plan, piece, view.region), own) if cast else own

    key = key_of(
        tap=name, piece=plan.node, place=plan.place, face=plan.face_opacity,
        region=view.region, scale=view.scale,
    )  # fmt: skip
    return Node("tap", name, key, view.region, work, (plan.node,), plan.placed_by, keeps=False)
