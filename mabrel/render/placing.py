"""From a finished piece to the picture."""

import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from mabrel.camera import Card, Matrix
from mabrel.colour import over
from mabrel.field.projection import projected
from mabrel.render.layer import LayerPlan
from mabrel.steps import Array, Piece, Region
from mabrel.steps.faces.flattening import WHOLE, flattened

_MOST_OF_IT = 0.6
_FARTHEST = 8192  # render pixels from the frame's centre: nothing is drawn beyond


class Laid(NamedTuple):
    """The part of the picture that a layer covers, and its colours (H, W, 4) there: all that is
    seen of it, and perhaps more."""

    region: Region
    pixels: Array

    def over(self, region: Region) -> Array:
        """(H, W, 4): the same over another part of the picture."""
        return _placed(self.region, self.pixels, region)

    @property
    def arrays(self) -> list[Array]:
        return [self.pixels]


def extent(plan: LayerPlan, inside: Region, scale: float) -> Region:
    """All of the picture that a layer's array in `inside` reaches, in render pixels."""
    if not plan.card.turned:
        return inside.moved(*plan.origin)
    if plan.scale <= 0:
        return Region(0, 0, 0, 0)
    corners = np.array([[0, inside.width, inside.width, 0], [0, 0, inside.height, inside.height]])
    matrix = between_arrays(plan.card, plan.scale, inside, Region(0, 0, 1, 1), scale)
    x, y, w = matrix @ np.vstack([corners, np.ones(4)])
    if (w <= 1e-9).any():  # partly behind the viewer: it may reach anywhere, as far as one sees
        return Region(-_FARTHEST, -_FARTHEST, 2 * _FARTHEST, 2 * _FARTHEST)
    left, top = math.floor(min(x / w)) - 2, math.floor(min(y / w)) - 2
    return Region(left, top, math.ceil(max(x / w)) + 2 - left, math.ceil(max(y / w)) + 2 - top)


def reached(plan: LayerPlan, inside: Region, thrown: Region | None, scale: float) -> Region:
    """All of the picture that a layer and what it casts can reach."""
    own = extent(plan, inside, scale)
    if thrown is None or not thrown.area:
        return own
    cast = thrown.moved(*plan.origin)
    return own.joined(cast) if own.area else cast


def laid(plan: LayerPlan, piece: Piece, region: Region, scale: float) -> Laid:
    """A layer as it looks in `region` of the picture."""
    thrown = None if piece.cast is None else piece.cast.region
    part = reached(plan, piece.region, thrown, scale).common(region)
    if not part.area:
        return Laid(part, np.zeros((part.height, part.width, 4), np.float32))
    whole = piece.region.moved(*plan.origin)
    if not plan.card.turned and thrown is None and part.area > _MOST_OF_IT * whole.area:
        flat = flattened(piece, plan.face_opacity)  # as it is: to cut it takes as long
        return Laid(whole, flat.copy() if flat is piece.face else flat)
    pixels = _own(plan, piece, part, scale)
    if piece.cast is None:
        return Laid(part, pixels)
    return Laid(part, over(cast_in_picture(plan, piece, part), pixels))


def cast_in_picture(plan: LayerPlan, piece: Piece, region: Region) -> Array:
    """What a layer casts on its surroundings, (H, W, 4) in `region` of the picture."""
    if piece.cast is None:
        return np.zeros((region.height, region.width, 4), np.float32)
    return _placed(piece.cast.region.moved(*plan.origin), piece.cast.pixels, region)


def _own(plan: LayerPlan, piece: Piece, part: Region, scale: float) -> Array:
    if plan.card.turned:
        seen = extent(plan, piece.region, scale).common(part)  # what it casts reaches further
        flat = flattened(piece.without_cast(), plan.face_opacity)
        return _placed(seen, _turned(plan, piece.region, flat, seen, scale), part)
    there = piece.region.moved(*plan.origin).common(part)
    own = piece.seen_in(there.moved(-plan.origin[0], -plan.origin[1]))
    return _placed(there, flattened(own, plan.face_opacity), part)


def _turned(plan: LayerPlan, inside: Region, flat: Array, part: Region, scale: float) -> Array:
    """Colours on a turned card at their place in the picture. What is brighter than white comes
    back only where a pixel is wholly white: an edge between it and something dark stays smooth."""
    if flat.size == 0 or flat.max() <= 1:
        return in_picture(plan, inside, flat, part, scale)
    limited = np.minimum(flat, np.float32(1))
    seen = in_picture(plan, inside, limited, part, scale)
    more = in_picture(plan, inside, flat - limited, part, scale)
    return np.where(seen >= WHOLE, seen + more, seen)


def on_card(
    plan: LayerPlan, region: Region, scale: float, seen: Callable[[Region], Array]
) -> Array:
    """What is seen of the picture ((H, W) over any part of it) on a layer's own `region`."""
    if not plan.card.turned:
        return seen(region.moved(*plan.origin))
    part = extent(plan, region, scale)
    held = part.common(Region(-_FARTHEST, -_FARTHEST, 2 * _FARTHEST, 2 * _FARTHEST))
    if not held.area:
        return np.zeros((region.height, region.width), np.float32)
    matrix = np.linalg.inv(between_arrays(plan.card, plan.scale, region, held, scale))
    middle = np.linalg.inv(matrix) @ [region.width / 2, region.height / 2, 1.0]
    return projected(seen(held), matrix * np.sign(middle[2]), (region.width, region.height))


def between_arrays(card: Card, fine: float, inside: Region, region: Region, scale: float) -> Matrix:
    """From pixel places in an array over the card's `inside`, `fine` render pixels a pixel of
    the card, to those over the picture's `region` at `scale`, 3 × 3."""
    to_card = np.array([[1, 0, inside.left + 0.5], [0, 1, inside.top + 0.5], [0, 0, fine]])
    to_array = np.array([[scale, 0, -region.left - 0.5], [0, scale, -region.top - 0.5], [0, 0, 1]])
    matrix: Matrix = to_array @ card.homography @ to_card
    return matrix


def in_picture(plan: LayerPlan, inside: Region, flat: Array, region: Region, scale: float) -> Array:
    """A layer's array ((H, W) or (H, W, C), lying in `inside`) at its place in the picture's
    `region`, in render pixels from the frame's centre; turned cards in one resampling."""
    if not plan.card.turned:
        return _placed(inside.moved(*plan.origin), flat, region)
    if plan.scale <= 0:
        return np.zeros((region.height, region.width, *flat.shape[2:]), np.float32)
    matrix = between_arrays(plan.card, plan.scale, inside, region, scale)
    return projected(flat, matrix, (region.width, region.height))


def _placed(there: Region, pixels: Array, region: Region) -> Array:
    """Pixels that lie in `there`, over `region`: nothing where they don't reach."""
    if there == region:
        return pixels
    common = there.common(region)
    if common == region:
        return np.ascontiguousarray(pixels[region.within(there)])
    out = np.zeros((region.height, region.width, *pixels.shape[2:]), np.float32)
    if common.area:
        out[common.within(region)] = pixels[common.within(there)]
    return out
