"""How far places are from an outline whose corners are joined in one way or another."""

import math
from typing import Literal

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.outline_crossings import Edge, following
from mabrel.kernels import kernel

Array = NDArray[np.float32]
Lines = NDArray[np.float64]
Join = Literal["round", "mitre", "bevel"]
_FAR = np.float32(1e9)
_ON_IT = np.float32(0.12)  # pixels from a line within which a centre may be on either side of it
_MOST_PIXELS = 4e8
_BAND = 32  # rows that are worked on together
_KINDS = {"round": 0, "mitre": 1, "bevel": 2}
_LONGEST_MITRE = 4.0  # times the distance, as in SVG: beyond, a mitre is cut off


def joined_distance(
    lines: Lines,
    edge: Edge,
    distance: Array,
    reach: float,
    *,
    outer: Join = "round",
    inner: Join = "round",
    limit: float = _LONGEST_MITRE,
) -> Array:
    """Signed distance (H, W) to closed outlines, exactly, up to `reach`; negative inside.

    `lines` (N, 4), in pixels from the first centre, have what is inside on the left of the way
    that x and y run, and touch nowhere (`outlines_of`). The places at one distance are the
    outline's parallel curve: at corners that turn away from them, a circle ("round"), or the
    parallels of both sides, run on until they meet ("mitre", cut off as far away as `limit` times
    the distance), or the straight line between their ends ("bevel"). `outer` holds outside, where
    the shape's own corners stick out; `inner` inside, at the corners of bays and counters. Farther
    than `reach`, the result is the shape's own signed `distance` (H, W), with corners rounded.

    Each line is responsible for the strip beside it, each corner for the wedge between two
    strips; of all that reach a place the nearest counts. With mitres all around, the level lines
    inside are the offsets of a polygon and the heights its roof (O. Aichholzer et al., "A novel
    type of skeleton for polygons", 1995), as far as strips of consumed edges don't matter. Corners
    stay rounded where there are so many that it would take long: those of a grainy photo.
    """
    out = np.full(edge.inside.shape, _FAR, np.float32)
    if len(lines):
        table = _features(lines, reach, _KINDS[outer], _KINDS[inner], max(limit, 1.0))
        if _pixels_of(table[0], table[2], reach) > _MOST_PIXELS:
            return distance.copy()
        _nearest(*table, np.float32(reach), edge.inside, out)
    bevelled = "bevel" in (outer, inner)
    _signed(edge.inside, distance, np.float32(8 if bevelled else 1), out)
    return out


def _features(
    lines: Lines, reach: float, outer: int, inner: int, limit: float
) -> tuple[Lines, Lines, NDArray[np.int8], float]:
    """Of each line its start, unit way and length; of the corner at its end the next way and how
    far a place is from it by its kind; and the rows that it can touch."""
    after = following(lines)
    way = lines[:, 2:] - lines[:, :2]
    length = np.hypot(way[:, 0], way[:, 1])
    there = length > 1e-9
    if not there.all():
        return _features(lines[there], reach, outer, inner, limit)
    unit = way / length[:, None]
    next_unit = unit[after]
    turn = unit[:, 0] * next_unit[:, 1] - unit[:, 1] * next_unit[:, 0]
    straight = (unit * next_unit).sum(axis=1)
    # Inside lies left (as y runs down: towards (uy, −ux)); a corner that turns left sticks out.
    sticks_out = turn < 0
    kind = np.where(sticks_out, outer, inner).astype(np.int8)
    half = np.sqrt(np.maximum((1 + straight) / 2, 1e-9))  # cosine of half the turn
    far = np.where(kind == 1, reach * np.minimum(1 / half, limit), reach)
    low = np.minimum(lines[:, 1], lines[:, 3]) - far - 1
    high = np.maximum(lines[:, 1], lines[:, 3]) + far + 1
    numbers = np.stack([*lines.T, *unit.T, *next_unit.T, length, half, far], axis=1)
    rows = np.stack([low, high], axis=1)
    sides = np.where(sticks_out, 1, np.where(turn > 0, -1, 0)).astype(np.int8)
    return numbers, rows, np.stack([kind, sides], axis=1), limit


def _pixels_of(numbers: Lines, kinds: NDArray[np.int8], reach: float) -> float:
    """How many pixels lie in all strips and wedges together."""
    turn = 2 * np.arccos(np.clip(numbers[:, 9], 0, 1))
    wedges = np.where(kinds[:, 1] == 0, 0, turn / 2 * numbers[:, 10] ** 2)
    return float((2 * reach * numbers[:, 8]).sum() + wedges.sum())


@kernel(parallel=True)
def _nearest(numbers, spans, kinds, limit, reach, inside, out):  # type: ignore[no-untyped-def]
    rows = out.shape[0]
    for band in numba.prange((rows + _BAND - 1) // _BAND):
        first, end = band * _BAND, min(band * _BAND + _BAND, rows)
        for i in range(numbers.shape[0]):
            if spans[i, 1] >= first and spans[i, 0] <= end:
                _strip(numbers[i], reach, inside, out, first, end)
                _wedge(numbers[i], kinds[i], limit, reach, inside, out, first, end)


@kernel()
def _strip(line, reach, inside, out, first, end):  # type: ignore[no-untyped-def]
    """Places beside a line, on both of its sides."""
    columns = out.shape[1]
    x1, y1, y2, ux, uy, length = line[0], line[1], line[3], line[4], line[5], line[8]
    top = max(math.floor(min(y1, y2) - reach * abs(ux)), first)
    bottom = min(math.ceil(max(y1, y2) + reach * abs(ux)) + 1, end)
    for y in range(top, bottom):
        low, high = _row_of_strip(x1, y1, ux, uy, length, reach, y, columns)
        for x in range(low, high):
            dx, dy = x - x1, y - y1
            along = dx * ux + dy * uy
            if along < -1e-6 or along > length + 1e-6:
                continue
            beside = np.float32(dx * uy - dy * ux)  # positive: on the inside
            away = abs(beside)
            if away < out[y, x] and (away < _ON_IT or (beside > 0) == inside[y, x]):
                out[y, x] = away


@kernel(inline="always")
def _row_of_strip(x1, y1, ux, uy, length, reach, y, columns):  # type: ignore[no-untyped-def]
    """The columns of a row between which a strip lies."""
    low, high = -1e18, 1e18
    dy = y - y1
    if abs(ux) > 1e-9:  # 0 <= dx·ux + dy·uy <= length
        a, b = -dy * uy / ux, (length - dy * uy) / ux
        low, high = max(low, min(a, b)), min(high, max(a, b))
    if abs(uy) > 1e-9:  # −reach <= dx·uy − dy·ux <= reach
        a, b = (dy * ux - reach) / uy, (dy * ux + reach) / uy
        low, high = max(low, min(a, b)), min(high, max(a, b))
    left = max(min(low + x1, columns + 1.0), -1.0)
    right = max(min(high + x1, columns + 1.0), -1.0)
    return max(math.floor(left), 0), min(math.ceil(right) + 1, columns)


@kernel()
def _wedge(line, kind, limit, reach, inside, out, first, end):  # type: ignore[no-untyped-def]
    """Places between the strips of two lines that meet in a corner, on the side where it sticks
    out."""
    join, side = kind[0], kind[1]
    if side == 0:
        return
    columns = out.shape[1]
    cx, cy, ux, uy, vx, vy = line[2], line[3], line[4], line[5], line[6], line[7]
    half, far = line[9], line[10]
    within = side < 0  # a corner that turns inwards has its wedge inside
    sign = 1.0 if within else -1.0
    bx, by = (uy + vy) * sign, -(ux + vx) * sign  # towards the middle of the wedge
    size = max(math.sqrt(bx * bx + by * by), 1e-9)
    bx, by = bx / size, by / size
    for y in range(max(math.floor(cy - far), first), min(math.ceil(cy + far) + 1, end)):
        left, right = _row_of_wedge(cx, cy, ux, uy, vx, vy, far, y, columns)
        for x in range(left, right):
            dx, dy = x - cx, y - cy
            on_it = dx * dx + dy * dy < _ON_IT * _ON_IT
            if not on_it and inside[y, x] != within:
                continue
            if dx * ux + dy * uy < -1e-6 or dx * vx + dy * vy > 1e-6:
                continue
            if join == 0:
                away = math.sqrt(dx * dx + dy * dy)
            else:
                middle = dx * bx + dy * by
                cut = middle / half if join == 2 else middle / limit
                p, q = (dx * uy - dy * ux) * sign, (dx * vy - dy * vx) * sign
                away = max(max(p, q), cut)
            if away < out[y, x] and away <= reach:
                out[y, x] = np.float32(away)


@kernel(inline="always")
def _row_of_wedge(cx, cy, ux, uy, vx, vy, far, y, columns):  # type: ignore[no-untyped-def]
    """The columns of a row between which a wedge lies: beyond the end of one line, before the
    beginning of the next, no farther than `far` from the corner."""
    dy = y - cy
    wide = math.sqrt(max(far * far - dy * dy, 0.0))
    low, high = -wide, wide
    if ux > 1e-9:
        low = max(low, -dy * uy / ux)
    elif ux < -1e-9:
        high = min(high, -dy * uy / ux)
    if vx > 1e-9:
        high = min(high, -dy * vy / vx)
    elif vx < -1e-9:
        low = max(low, -dy * vy / vx)
    left = max(min(low + cx, columns + 1.0), -1.0)
    right = max(min(high + cx, columns + 1.0), -1.0)
    return max(math.floor(left), 0), min(math.ceil(right) + 1, columns)


@kernel(parallel=True)
def _signed(inside, distance, most, out):  # type: ignore[no-untyped-def]
    """No mitre is farther than a rounded corner, no bevel much more: what nothing
    has reached, since a tip holds no centre, has that."""
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(out.shape[1]):
            round_away = abs(distance[y, x])
            away = out[y, x] if out[y, x] <= most * round_away else round_away
            out[y, x] = -away if inside[y, x] else away
