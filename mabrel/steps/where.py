"""Where a step counts: weights over a piece."""

import math
from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness
from mabrel.field import gaussian_blur
from mabrel.field.fill import fill
from mabrel.source.uniting import even_odd
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.title import Ellipse, HalfPlane, LayerMatte, Outline, Polygon, Rectangle, Where
from mabrel.title.varying import Varying, value_at

_MOST_CROSSINGS = 400


def where_at(where: Where | None, time: float) -> Where | None:
    """With every value at `time` seconds."""
    if where is None:
        return None
    values = {name: getattr(where, name) for name in type(where).model_fields}
    plain = {k: value_at(v, time) if isinstance(v, Varying) else v for k, v in values.items()}
    return where.model_copy(update=plain)


def weights(where: Any, piece: Piece, scale: float, matte: Callable[[str, Region], Array]) -> Array:
    """(H, W), 0..1: how much a step counts at each place of the piece that it is given.

    `where` must be plain (see `where_at`); `matte` gives a layer's coverage over a region.
    """
    if isinstance(where, Ellipse):
        inside = _ellipse(where, piece.region, scale)
    elif isinstance(where, Rectangle):
        inside = _rectangle(where, piece.region, scale)
    elif isinstance(where, HalfPlane):
        inside = _half_plane(where, piece.region, scale)
    elif isinstance(where, Outline):
        inside = _inside(where, piece, scale)
    elif isinstance(where, Polygon):
        inside = _polygon(where, piece.region, scale)
    elif isinstance(where, LayerMatte):
        inside = matte(where.layer, piece.region)
    else:
        inside = _between(brightness(piece.face), float(where.low), float(where.high), where.soft)
    return np.asarray(1 - inside if where.inverted else inside, np.float32)


def _axes(where: Any, region: Region, scale: float) -> tuple[Array, Array]:
    """Pixel centres in the axes of an ellipse or rectangle."""
    x = np.arange(region.width, dtype=np.float32) + (region.left + 0.5 - where.x * scale)
    y = np.arange(region.height, dtype=np.float32) + (region.top + 0.5 - where.y * scale)
    turn = math.radians(where.turn)
    across = x[None, :] * math.cos(turn) + y[:, None] * math.sin(turn)
    down = y[:, None] * math.cos(turn) - x[None, :] * math.sin(turn)
    return across.astype(np.float32), down.astype(np.float32)


def _ellipse(where: Any, region: Region, scale: float) -> Array:
    across, down = _axes(where, region, scale)
    a, b = (max(side * scale / 2, 0.01) for side in (where.width, where.height))
    share = np.hypot(across / a, down / b)
    # Distance to first order: the implicit function over the length of its slope.
    slope = np.hypot(across / (a * a), down / (b * b)) / np.maximum(share, 1e-6)
    away = (share - 1) / np.maximum(slope, 1 / max(a, b))
    return _faded(away, where.feather * scale)


def _rectangle(where: Any, region: Region, scale: float) -> Array:
    across, down = _axes(where, region, scale)
    x = np.abs(across) - np.float32(where.width * scale / 2)
    y = np.abs(down) - np.float32(where.height * scale / 2)
    outside = np.hypot(np.maximum(x, 0), np.maximum(y, 0))
    return _faded(outside + np.minimum(np.maximum(x, y), 0), where.feather * scale)


def _half_plane(where: Any, region: Region, scale: float) -> Array:
    across, _ = _axes(where, region, scale)
    return _faded(-across, where.feather * scale)


def _inside(where: Any, piece: Piece, scale: float) -> Array:
    return _faded(piece.distance - np.float32(where.grow * scale), where.feather * scale)


def _crossings(points: NDArray[np.float64]) -> int:
    """How often the sides of a polygon (N, 2) cross one another."""
    a, b = points, np.roll(points, -1, axis=0)

    def side(p: NDArray[np.float64]) -> NDArray[np.float64]:
        way, off = b - a, p[None] - a[:, None]
        return np.asarray(np.sign(way[:, None, 0] * off[..., 1] - way[:, None, 1] * off[..., 0]))

    parted = (side(a) * side(b)) < 0
    return int((parted & parted.T).sum()) // 2


def _polygon(where: Any, region: Region, scale: float) -> Array:
    """Exactly; one that crosses itself all over is filled on a grid several times as fine."""
    points = np.array(where.points) * scale
    if _crossings(points) > _MOST_CROSSINGS:
        return _blurred(_filled_finely(points, region), where.feather * scale)
    box = (region.left, region.top, region.right, region.bottom)
    return _blurred(fill(even_odd(points, box), region), where.feather * scale)


def _filled_finely(points: NDArray[np.float64], region: Region) -> Array:
    finer = 4 if region.area < 4_000_000 else 2
    corners = (points - [region.left, region.top]) * finer
    mask = np.zeros((region.height * finer, region.width * finer), np.uint8)
    held = np.clip(np.round(corners * 16), -(2**30), 2**30).astype(np.int32)
    cv2.fillPoly(mask, [held], 255, shift=4)
    size = (region.width, region.height)
    inside = cv2.resize(mask, size, interpolation=cv2.INTER_AREA).astype(np.float32)
    return np.asarray(inside / np.float32(255), np.float32)


def _blurred(inside: Array, feather: float) -> Array:
    return gaussian_blur(inside, feather / 4) if feather > 0.5 else inside


def _faded(away: Array, feather: float) -> Array:
    """From 1 inside to 0 outside over `feather` pixels, at least one."""
    share = np.clip(0.5 - away / np.float32(max(feather, 1.0)), 0, 1)
    return np.asarray(share * share * (3 - 2 * share) if feather > 1 else share, np.float32)


def _between(tone: Array, low: float, high: float, soft: float) -> Array:
    low, high = min(low, high), max(low, high)
    reach = max(float(soft), 1e-3)
    rising = np.clip((tone - (low - reach)) / reach, 0, 1) if low > 0 else 1.0
    falling = np.clip(((high + reach) - tone) / reach, 0, 1) if high < 1 else 1.0
    return np.asarray(np.broadcast_to(rising * falling, tone.shape), np.float32)
