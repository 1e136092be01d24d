"""How much of a card's plane the frame can show."""

import math

import numpy as np

from mabrel.camera import Matrix
from mabrel.field.polygons import nearer
from mabrel.render.layer import LayerPlan
from mabrel.steps import Region

_EDGE_ON = 1e-9  # of what a homography can be, below which it shows nothing but a line
_WIDEST = 1e6
_FARTHEST = 8.0  # times as far as the card's centre: beyond, all is seen eight times smaller


def shown_on_card(plan: LayerPlan, frame: Region, scale: float) -> Region | None:
    """All of a layer's plane that `frame` shows (render pixels from the frame's centre), in render
    pixels from the layer's centre; None where that is seen from its edge alone.

    What is so far away that it hardly can be seen is left out: the plane of a card that is turned
    far runs through the frame up to its horizon.
    """
    if not plan.card.turned:
        return frame.moved(-plan.origin[0], -plan.origin[1])
    card = plan.card.homography
    if abs(np.linalg.det(card)) < _EDGE_ON * np.abs(card).max() ** 3:
        return Region(0, 0, 0, 0)
    back = np.linalg.inv(card)
    corners = np.array(
        [
            [frame.left, frame.top, scale],
            [frame.right, frame.top, scale],
            [frame.right, frame.bottom, scale],
            [frame.left, frame.bottom, scale],
        ]
    )
    seen = nearer(corners @ back.T, _weight_at_centre(card) / _FARTHEST * scale)
    if not len(seen):
        return Region(0, 0, 0, 0)
    u, v = seen[:, 0] / seen[:, 2] * plan.scale, seen[:, 1] / seen[:, 2] * plan.scale
    u, v = np.clip(u, -_WIDEST, _WIDEST), np.clip(v, -_WIDEST, _WIDEST)
    left, top = math.floor(u.min()), math.floor(v.min())
    return Region(left, top, math.ceil(u.max()) - left, math.ceil(v.max()) - top)


def _weight_at_centre(card: Matrix) -> float:
    """The third coordinate of the card's centre, brought back from the picture: it falls with the
    distance from the viewer."""
    x, y, w = card @ [0.0, 0.0, 1.0]
    return float((np.linalg.inv(card) @ [x / w, y / w, 1.0])[2]) if w > 1e-9 else 1e-9
