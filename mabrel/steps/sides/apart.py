"""A body seen from its edge or its back: drawn in the picture itself, as no plane of its card could
hold it."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import BACK, SIDE, march
from mabrel.field.body import Seen as Hits
from mabrel.field.extrusion import Sides
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Extent
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.projections import seen_region
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
from mabrel.steps.sides.paint import NO_PLACES, Lit, lit_up, looked_up

_LOWEST = math.sin(math.radians(9))  # of the viewer's height over a card, below which it is apart
_FINE = 3  # rays across a pixel
_BAND = 160  # rows of rays that are worked on together
_FACING_BACK = -50.0  # how steeply the back leans: as good as straight back
Texture = Callable[[NDArray[np.float64], Array], Array]


@dataclass(frozen=True)
class Body:
    """A body that reaches straight back behind its card."""

    length: float
    grown: Array | None
    even: float
    """σ in pixels over which the facing is evened out."""
    slope: Array
    paint: Array
    lit: Lit | None
    back: Callable[[NDArray[np.float64]], Array]
    """Premultiplied colours (N, 4) of the back at places (N, 2)."""
    texture: Texture | None
    """Straight colours (N, 4) over the sides, at places (N, 2) on them, so deep (N)."""


def is_apart(scene: Scene) -> bool:
    """Whether one sees a card from its edge, or its back."""
    if not scene.turned:
        return False
    x, y, away = scene.viewer
    return away < _LOWEST * math.sqrt(x * x + y * y + away * away)


def target_of(extent: Extent, length: float, outgrown: float, scene: Scene) -> Region:
    """The part of the picture in which a body is seen."""
    spare = math.ceil(outgrown) + 2
    near = extent.region
    found = []
    for z in (0.0, -length):
        at_depth = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, z], [0, 0, 1.0]])
        wide = Region(
            near.left - spare, near.top - spare, near.width + 2 * spare, near.height + 2 * spare
        )
        found.append(seen_region(scene.seen @ at_depth, wide, scene))
    there = [each for each in found if each.area]
    if not there:
        return found[0]
    return there[0].joined(there[-1])


def drawn(piece: Piece, body: Body, target: Region, scene: Scene) -> Cast:
    """The sides and the back of a body, over `target` of the picture."""
    out = np.zeros((target.height, target.width, 4), np.float32)
    distance = np.ascontiguousarray(piece.distance, np.float32)
    even = cv2.GaussianBlur(distance, (0, 0), body.even, borderType=cv2.BORDER_REPLICATE)
    rays = np.asarray(np.linalg.inv(scene.seen[:, :3]), np.float64)
    across = (np.arange(target.width * _FINE) + 0.5) / _FINE + target.left
    profile = np.zeros(2, np.float32) if body.grown is None else body.grown
    for first in range(0, target.height, _BAND // _FINE):
        scene.pause()
        rows = min(_BAND // _FINE, target.height - first)
        down = (np.arange(rows * _FINE) + 0.5) / _FINE + target.top + first
        hits = march(
            distance, np.asarray(even, np.float32), piece.region[:2],
            length=body.length, profile=profile, viewer=scene.viewer, rays=rays,
            pixels=(across, down),
        )  # fmt: skip
        if hits.what.max() > 0:
            fine = _coloured(hits, body)
            size = (target.width, rows)
            out[first : first + rows] = cv2.resize(fine, size, interpolation=cv2.INTER_AREA)
    return Cast(target, out)


def _coloured(hits: Hits, body: Body) -> Array:
    """Premultiplied colours (H, W, 4) of what rays meet; nothing where that is the face."""
    out = np.zeros((*hits.what.shape, 4), np.float32)
    side, back = hits.what == SIDE, hits.what == BACK
    if side.any():
        out[side] = _of_sides(hits, side, body)
        _lighted(out, side, hits, body.slope, body)
    if back.any():
        out[back] = body.back(hits.place[back][:, :2].astype(np.float64))
        _lighted(out, back, hits, np.full_like(body.slope, _FACING_BACK), body)
    return out


def _of_sides(hits: Hits, side: NDArray[np.bool_], body: Body) -> Array:
    normal, depth = hits.normal[side], hits.depth[side]
    colour = looked_up(body.paint, normal, depth)
    if body.texture is not None:
        laid = body.texture(hits.place[side][:, :2].astype(np.float64), depth)
        colour[:, :3] += (laid[:, :3] - colour[:, :3]) * laid[:, 3:]
    colour[:, :3] *= colour[:, 3:]
    return colour


def _lighted(out: Array, where: NDArray[np.bool_], hits: Hits, slope: Array, body: Body) -> None:
    if body.lit is None or not body.lit.lights:
        return
    own = out * where[..., None]
    sides = Sides(where.astype(np.float32), hits.depth, hits.normal)
    lit_up(own, sides, slope, NO_PLACES, hits.place, body.lit)
    out[where] = own[where]
