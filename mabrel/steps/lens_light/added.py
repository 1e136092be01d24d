"""Light that a lens adds to a picture, reckoned in linear light."""

from collections.abc import Callable
from dataclasses import replace

import numba
import numpy as np

from mabrel.colour import from_code, to_linear
from mabrel.colour.transfer import encode, lighten, unpack
from mabrel.kernels import LANES, kernel
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
    columns, rows = np.zeros((LANES, light.shape[1]), np.bool_), np.zeros(len(light), np.bool_)
    _find_light(light, rows, columns)
    there, along = np.flatnonzero(rows), np.flatnonzero(columns.any(axis=0))
    if not len(there):
        return Region(region.left, region.top, 1, 1)
    left, top = int(along[0]) + region.left, int(there[0]) + region.top
    own = Region(left, top, int(along[-1]) - int(along[0]) + 1, int(there[-1]) - int(there[0]) + 1)
    return own.grown(Margin(reach, reach, reach, reach)).common(region)


@kernel(parallel=True)
def _find_light(light, rows, columns):  # type: ignore[no-untyped-def]
    for lane in numba.prange(LANES):
        for y in range(np.int64(lane), light.shape[0], LANES):
            for x in range(light.shape[1]):
                if light[y, x, 0] > 0 or light[y, x, 1] > 0 or light[y, x, 2] > 0:
                    rows[y] = True
                    columns[lane, x] = True


def spread(
    light: Array, region: Region, reach: int, how: Callable[[Array, Region], Array]
) -> Array:
    """Light (H, W, 3) over a region, spread by `how` where it can be at all; `how` is given a part
    of it and where that lies."""
    part = lit_part(light, region, reach)
    if part == region:
        return how(light, part)
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
    light = np.ascontiguousarray(added, np.float32)
    if piece.is_plane:
        face = np.empty(before.shape, np.float32)
        _lit(before, light, face)
        return replace(piece, face=face)
    front = np.zeros(before.shape, np.float32)  # its memory is first touched where light falls
    _in_front(before, light, front)
    return piece.in_front(front)


@kernel(parallel=True)
def _lit(before, added, out):  # type: ignore[no-untyped-def]
    """The whole, as it looks with that light."""
    one = np.float32(1)
    for line in numba.prange(before.shape[0]):
        y = np.int64(line)
        first, end = _lit_span(added[y])
        out[y, :first], out[y, end:] = before[y, :first], before[y, end:]
        if end <= first:
            continue
        row, light = before[y, first:end], added[y, first:end]
        planes = np.empty((4, end - first), np.float32)
        glow = np.empty((3, end - first), np.float32)
        thinnest = one
        for x in range(end - first):
            thinnest = min(thinnest, row[x, 3])
        _add(row, light, planes, glow, thinnest < one)
        seen = out[y, first:end]
        for x in range(end - first):
            lit = max(light[x, 0], light[x, 1], light[x, 2]) > np.float32(0)
            share, beneath = planes[3, x], one - row[x, 3]
            for c in range(3):
                sum_ = share * planes[c, x]
                sum_ = sum_ + beneath * glow[c, x] if beneath != np.float32(0) else sum_
                seen[x, c] = sum_ if lit else row[x, c]
            cover = min(max(glow[0, x], glow[1, x], glow[2, x]), one)
            opaque = cover + row[x, 3] * (one - cover)
            seen[x, 3] = opaque if lit and beneath != np.float32(0) else row[x, 3]


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
        _add(row, light, planes, glow, True)
        laid = front[y, first:end]
        for x in range(end - first):
            cover = min(max(glow[0, x], glow[1, x], glow[2, x]), one)
            beneath, share, kept = one - row[x, 3], planes[3, x], one - cover
            lit = one if cover > zero else zero
            red = share * planes[0, x] + beneath * glow[0, x] - row[x, 0] * kept
            green = share * planes[1, x] + beneath * glow[1, x] - row[x, 1] * kept
            blue = share * planes[2, x] + beneath * glow[2, x] - row[x, 2] * kept
            laid[x, 0], laid[x, 1] = max(red, zero) * lit, max(green, zero) * lit
            laid[x, 2], laid[x, 3] = max(blue, zero) * lit, cover


@kernel(inline="always")
def _add(row, light, planes, glow, beyond):  # type: ignore[no-untyped-def]
    """The straight codes of a row of pixels (N, 4) and of light (N, 3) together, into `planes`
    (4, N), with the share that they have; and of the light alone into `glow` (3, N), where it is
    seen `beyond` what is there."""
    zero, one = np.float32(0), np.float32(1)
    solid = np.empty(row.shape[0], np.float32)
    unpack(row, planes)
    for x in range(row.shape[0]):
        solid[x] = min(row[x, 3] / planes[3, x], one)
        glow[0, x] = max(light[x, 0], zero)
        glow[1, x] = max(light[x, 1], zero)
        glow[2, x] = max(light[x, 2], zero)
    low, high = _inked_span(row)
    for c in range(3):
        lighten(planes[c, low:high])
        for x in range(row.shape[0]):
            planes[c, x] += glow[c, x] * solid[x]
        encode(planes[c, low:high])
        if beyond:
            encode(glow[c])


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
