"""Light that a lens adds to a picture, reckoned in linear light."""

from collections.abc import Callable

import numba
import numpy as np

from mabrel.colour import from_code, to_linear
from mabrel.colour.transfer import encode, lighten, unpack
from mabrel.kernels import kernel
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region


def bright_light(picture: Array, threshold: float) -> Array:
    """(H, W, 3): of the linear light of a picture (H, W, 4), what is brighter than `threshold` (an
    encoded brightness 0..1), coming in softly above it."""
    level = float(to_linear(np.array([threshold], np.float32))[0])
    out = np.empty((*picture.shape[:2], 3), np.float32)
    _bright(picture, np.float32(level), np.float32(max(1.0 - level, 0.02)), out)
    return out


@kernel(parallel=True)
def _bright(picture, level, over_it, out):  # type: ignore[no-untyped-def]
    rows, columns = picture.shape[:2]
    zero, one = np.float32(0), np.float32(1)
    red, green, blue = np.float32(0.2126), np.float32(0.7152), np.float32(0.0722)
    for line in numba.prange(rows):
        y = np.int64(line)
        planes = np.empty((4, columns), np.float32)
        unpack(picture[y], planes)
        for c in range(3):
            lighten(planes[c])
        for x in range(columns):
            r, g, b = planes[0, x], planes[1, x], planes[2, x]
            share = planes[3, x]
            weight = (share * (r * red + g * green + b * blue) - level) / over_it
            share *= min(max(weight, zero), one)
            out[y, x, 0], out[y, x, 1], out[y, x, 2] = r * share, g * share, b * share


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


@kernel()
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
    out = np.zeros(light.shape, np.float32)
    out[inside] = how(np.ascontiguousarray(light[inside]), part)
    return out


def linear_colour(code: str) -> Array:
    """The light of a colour code, (3)."""
    return to_linear(np.array(from_code(code)[:3], np.float32))


def with_light(piece: Piece, before: Array, added: Array) -> Piece:
    """The piece with linear light ((H, W, 3)) added to all that is seen of it, which is `before`
    (H, W, 4).

    Over what is there, the sum is exact. Beyond it, where nobody knows what will lie beneath, the
    light covers as much as it is bright: that comes close to adding it, and leaves clean alpha.
    """
    front = np.zeros(before.shape, np.float32)  # its memory is first touched where light falls
    _in_front(before, np.ascontiguousarray(added, np.float32), front)
    return piece.in_front(front)


@kernel(parallel=True)
def _in_front(before, added, front):  # type: ignore[no-untyped-def]
    """What must lie in front, covering as much as the light is bright before black, so that the
    whole looks as it should."""
    zero, one = np.float32(0), np.float32(1)
    for line in numba.prange(before.shape[0]):
        y = np.int64(line)
        first, end = _lit_span(added[y])
        if end <= first:
            continue
        row, light = before[y, first:end], added[y, first:end]
        planes = np.empty((4, end - first), np.float32)
        glow = np.empty((3, end - first), np.float32)
        cover = np.zeros(end - first, np.float32)
        unpack(row, planes)
        low, high = _inked_span(row)
        for c in range(3):
            lighten(planes[c, low:high])
            for x in range(end - first):
                share = planes[3, x]
                glow[c, x] = max(light[x, c], zero)
                planes[c, x] += glow[c, x] * min(row[x, 3] / share, one)
            encode(planes[c, low:high])
            encode(glow[c])
            for x in range(end - first):
                cover[x] = min(max(cover[x], glow[c, x]), one)
        for x in range(end - first):
            if cover[x] <= zero:
                continue
            alpha, share = row[x, 3], planes[3, x]
            for c in range(3):
                whole = share * planes[c, x] + (one - alpha) * glow[c, x]
                front[y, first + x, c] = max(whole - row[x, c] * (one - cover[x]), zero)
            front[y, first + x, 3] = cover[x]


@kernel(inline="always")
def _inked_span(row):  # type: ignore[no-untyped-def]
    """From the first to beyond the last pixel of a row (N, 4) that has any colour."""
    first, end = 0, row.shape[0]
    while first < end and not _inked(row[first]):
        first += 1
    while end > first and not _inked(row[end - 1]):
        end -= 1
    return first, end


@kernel(inline="always")
def _inked(pixel):  # type: ignore[no-untyped-def]
    zero = np.float32(0)
    return pixel[3] > zero or pixel[0] > zero or pixel[1] > zero or pixel[2] > zero


@kernel(inline="always")
def _lit_span(row):  # type: ignore[no-untyped-def]
    """From the first to beyond the last pixel of a row (N, 3) to which light is added."""
    first, end = 0, row.shape[0]
    while first < end and max(row[first, 0], row[first, 1], row[first, 2]) <= np.float32(0):
        first += 1
    while end > first and max(row[end - 1, 0], row[end - 1, 1], row[end - 1, 2]) <= np.float32(0):
        end -= 1
    return first, end
