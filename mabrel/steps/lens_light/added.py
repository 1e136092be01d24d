"""Light that a lens adds to a picture, reckoned in linear light."""

from collections.abc import Callable

import numba
import numpy as np

from mabrel.colour import from_code, to_linear
from mabrel.colour.spaces import encoded, linear
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region


def bright_light(piece: Piece, threshold: float) -> Array:
    """(H, W, 3): of the linear light of a piece, what is brighter than `threshold` (an encoded
    brightness 0..1), coming in softly above it."""
    level = float(to_linear(np.array([threshold], np.float32))[0])
    picture = flattened(piece)
    out = np.empty((*picture.shape[:2], 3), np.float32)
    _bright(picture, np.float32(level), np.float32(max(1.0 - level, 0.02)), out)
    return out


@numba.njit(cache=True, parallel=True)
def _bright(picture, level, over_it, out):  # type: ignore[no-untyped-def]
    rows, columns = picture.shape[:2]
    zero, one = np.float32(0), np.float32(1)
    red, green, blue = np.float32(0.2126), np.float32(0.7152), np.float32(0.0722)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            alpha = picture[y, x, 3]
            share = alpha if alpha > np.float32(1e-4) else one
            r = share * linear(max(picture[y, x, 0] / share, zero))
            g = share * linear(max(picture[y, x, 1] / share, zero))
            b = share * linear(max(picture[y, x, 2] / share, zero))
            weight = (r * red + g * green + b * blue - level) / over_it
            weight = min(max(weight, zero), one)
            out[y, x, 0], out[y, x, 1], out[y, x, 2] = r * weight, g * weight, b * weight


def lit_part(light: Array, region: Region, reach: int) -> Region:
    """As much of a region as light ((H, W, C), over it) that spreads `reach` pixels can touch."""
    columns, rows = np.zeros(light.shape[1], np.bool_), np.zeros(light.shape[0], np.bool_)
    _find_light(light, rows, columns)
    there, along = np.flatnonzero(rows), np.flatnonzero(columns)
    if not len(there):
        return Region(region.left, region.top, 1, 1)
    left, top = int(along[0]) + region.left, int(there[0]) + region.top
    own = Region(left, top, int(along[-1]) - int(along[0]) + 1, int(there[-1]) - int(there[0]) + 1)
    return own.grown(Margin(reach, reach, reach, reach)).common(region)


@numba.njit(cache=True)
def _find_light(light, rows, columns):  # type: ignore[no-untyped-def]
    for y in range(light.shape[0]):
        for x in range(light.shape[1]):
            if light[y, x, 0] > 0 or light[y, x, 1] > 0 or light[y, x, 2] > 0:
                rows[y] = True
                columns[x] = True


def spread(
    light: Array, region: Region, reach: int, how: Callable[[Array, Region], Array]
) -> Array:
    """Light (H, W, 3) over a region, spread by `how` where it can be at all; `how` is given a part
    of it and where that lies."""
    part = lit_part(light, region, reach)
    inside = part.within(region)
    out = np.zeros_like(light)
    out[inside] = how(np.ascontiguousarray(light[inside]), part)
    return out


def linear_colour(code: str) -> Array:
    """The light of a colour code, (3)."""
    return to_linear(np.array(from_code(code)[:3], np.float32))


def with_light(piece: Piece, added: Array) -> Piece:
    """The piece with linear light ((H, W, 3)) added to all that is seen of it.

    Over what is there, the sum is exact. Beyond it, where nobody knows what will lie beneath, the
    light covers as much as it is bright: that comes close to adding it, and leaves clean alpha.
    """
    before = flattened(piece)
    front = np.zeros_like(before)
    _in_front(before, np.ascontiguousarray(added, np.float32), front)
    return piece.in_front(front)


@numba.njit(cache=True, parallel=True)
def _in_front(before, added, front):  # type: ignore[no-untyped-def]
    """What must lie in front, covering as much as the light is bright before black, so that the
    whole looks as it should."""
    rows, columns = before.shape[:2]
    zero, one = np.float32(0), np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            if max(added[y, x, 0], added[y, x, 1], added[y, x, 2]) <= zero:
                continue
            alpha = before[y, x, 3]
            share = alpha if alpha > np.float32(1e-4) else one
            cover = zero
            for c in range(3):
                cover = max(cover, encoded(max(added[y, x, c], zero)))
            cover = min(cover, one)
            for c in range(3):
                light = max(added[y, x, c], zero)
                glow = encoded(light)
                under = max(before[y, x, c] / share, zero)
                seen = share * encoded(linear(under) + light * (alpha / share))
                front[y, x, c] = max(
                    seen + (one - alpha) * glow - before[y, x, c] * (one - cover), zero
                )
            front[y, x, 3] = cover
