"""From a finished piece to the picture."""

import math
from collections.abc import Callable

import numpy as np

from mabrel.field.projection import projected
from mabrel.render.camera import Card, Matrix
from mabrel.render.planned import PlannedLayer
from mabrel.steps import Array, Region

_FARTHEST = 8192  # render pixels from the frame's centre: nothing is drawn beyond


def extent(planned: PlannedLayer, inside: Region, scale: float) -> Region:
    """All of the picture that a layer's array in `inside` reaches, in render pixels."""
    if not planned.card.turned:
        return inside.moved(*planned.origin)
    if planned.scale <= 0:
        return Region(0, 0, 0, 0)
    corners = np.array([[0, inside.width, inside.width, 0], [0, 0, inside.height, inside.height]])
    matrix = between_arrays(planned.card, planned.scale, inside, Region(0, 0, 1, 1), scale)
    x, y, w = matrix @ np.vstack([corners, np.ones(4)])
    if (w <= 1e-9).any():  # partly behind the viewer: it may reach anywhere, as far as one sees
        return Region(-_FARTHEST, -_FARTHEST, 2 * _FARTHEST, 2 * _FARTHEST)
    left, top = math.floor(min(x / w)) - 2, math.floor(min(y / w)) - 2
    return Region(left, top, math.ceil(max(x / w)) + 2 - left, math.ceil(max(y / w)) + 2 - top)


def on_card(
    planned: PlannedLayer, region: Region, scale: float, seen: Callable[[Region], Array]
) -> Array:
    """What is seen of the picture ((H, W) over any part of it) on a layer's own `region`."""
    if not planned.card.turned:
        return seen(region.moved(*planned.origin))
    part = extent(planned, region, scale)
    held = part.common(Region(-_FARTHEST, -_FARTHEST, 2 * _FARTHEST, 2 * _FARTHEST))
    if not held.area:
        return np.zeros((region.height, region.width), np.float32)
    matrix = np.linalg.inv(between_arrays(planned.card, planned.scale, region, held, scale))
    middle = np.linalg.inv(matrix) @ [region.width / 2, region.height / 2, 1.0]
    return projected(seen(held), matrix * np.sign(middle[2]), (region.width, region.height))


def between_arrays(card: Card, fine: float, inside: Region, region: Region, scale: float) -> Matrix:
    """From pixel places in an array over the card's `inside`, `fine` render pixels a pixel of
    the card, to those over the picture's `region` at `scale`, 3 × 3."""
    to_card = np.array([[1, 0, inside.left + 0.5], [0, 1, inside.top + 0.5], [0, 0, fine]])
    to_array = np.array([[scale, 0, -region.left - 0.5], [0, scale, -region.top - 0.5], [0, 0, 1]])
    matrix: Matrix = to_array @ card.homography() @ to_card
    return matrix


def covered_region(planned: PlannedLayer, inside: Region, region: Region, scale: float) -> Region:
    """The part of the picture that a layer can touch."""
    if planned.card.turned:
        return extent(planned, inside, scale).common(region)
    return inside.moved(*planned.origin).common(region)


def in_picture(
    planned: PlannedLayer, inside: Region, flat: Array, region: Region, scale: float
) -> Array:
    """A layer's array ((H, W) or (H, W, C), lying in `inside`) at its place in the picture's
    `region`, in render pixels from the frame's centre."""
    if planned.card.turned:
        return _projected(planned, inside, flat, region, scale)
    out = np.zeros((region.height, region.width, *flat.shape[2:]), np.float32)
    there = inside.moved(*planned.origin)
    common = there.common(region)
    if common.area:
        out[common.within(region)] = flat[common.within(there)]
    return out


def _projected(
    planned: PlannedLayer, inside: Region, flat: Array, region: Region, scale: float
) -> Array:
    """Through the card's homography, in one resampling of pixel centres."""
    if planned.scale <= 0:
        return np.zeros((region.height, region.width, *flat.shape[2:]), np.float32)
    matrix = between_arrays(planned.card, planned.scale, inside, region, scale)
    return projected(flat, matrix, (region.width, region.height))
