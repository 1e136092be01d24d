"""Light drawn out along a line."""

import math
from collections.abc import Sequence

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]


def streaked(image: Array, angle: float, length: float, tail: float = 0.0) -> Array:
    """Draw (H, W, C) out to one side, `length` pixels in the direction `angle` (degrees).

    With `tail` 0 every place on the way gets the same; above 0 it falls off exponentially, to
    1/e at that share of the length. The result keeps the image's sum. Each pass adds a shifted
    copy of what was made so far, so the time grows with the logarithm of the length; what comes
    from beyond the border is 0.
    """
    turn = math.radians(angle)
    across, down = math.cos(turn), math.sin(turn)
    passes = _passes(length)
    drawn = np.ascontiguousarray(image, np.float32)
    fine = length / 2**passes  # pixels from one sample to the next
    for k in range(passes):
        away = fine * 2**k
        kept = math.exp(-away / (tail * length)) if tail > 0 else 1.0
        out = np.empty_like(drawn)
        share = 1 / (1 + kept)
        _shifted_sum(drawn, across * away, down * away, share, kept * share, out)
        drawn = out
    return drawn


def streaked_planes(planes: Array, angle: float, length: float, tails: Sequence[float]) -> Array:
    """The same for each plane (N, H, W) with a tail of its own, above 0."""
    turn = math.radians(angle)
    across, down = math.cos(turn), math.sin(turn)
    passes = _passes(length)
    drawn = np.ascontiguousarray(planes, np.float32)
    for k in range(passes):
        away = length * 2.0 ** (k - passes)
        kept = np.exp(-away / (np.array(tails) * length))
        share = 1 / (1 + kept)
        left, top, shares = _four_around(-across * away, -down * away)
        there = np.asarray((kept * share)[:, None] * shares, np.float32)
        out = np.empty_like(drawn)
        _sum_planes(drawn, left, top, share.astype(np.float32), there, out)
        drawn = out
    return drawn


def zoomed(image: Array, centre: tuple[float, float], length: float, tail: float = 0.0) -> Array:
    """Draw (H, W, C) out away from `centre` (array coordinates), as far as a factor 1 + `length`.

    With `tail` it falls off on the way as in `streaked`.
    """
    height, width = image.shape[:2]
    passes = _passes(length * max(height, width))
    drawn = np.ascontiguousarray(image, np.float32)
    fine = math.log1p(length) / 2**passes
    for k in range(passes):
        out = np.empty_like(drawn)
        kept = math.exp(-(2.0 ** (k - passes)) / tail) if tail > 0 else 1.0
        share = 1 / (1 + kept)
        factor = math.exp(-fine * 2**k)
        _scaled_sum(drawn, centre[0], centre[1], factor, share, kept * share, out)
        drawn = out
    return drawn


def _passes(length: float) -> int:
    """So many that samples lie at most a pixel apart."""
    return max(math.ceil(math.log2(max(length, 1.0))), 0)


def _shifted_sum(image: Array, dx: float, dy: float, here: float, there: float, out: Array) -> None:
    """`here` times the image and `there` times what lies (−dx, −dy) pixels away."""
    left, top, shares = _four_around(-dx, -dy)
    rows, columns, channels = image.shape
    flat, sums = (each.reshape(rows, columns * channels) for each in (image, out))
    _sum_rows(flat, left * channels, top, channels, np.float32(here), shares * there, sums)


def _four_around(x: float, y: float) -> tuple[int, int, Array]:
    """The upper left of the four pixels around a place, and the shares of these (4)."""
    left, top = math.floor(x), math.floor(y)
    u, v = x - left, y - top
    return left, top, np.array([(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v], np.float32)


@kernel(parallel=True)
def _sum_rows(image, left, top, channels, here, shares, out):  # type: ignore[no-untyped-def]
    """Rows of pixels side by side; shares are those of the four pixels around a place."""
    nothing = np.zeros(image.shape[1], np.float32)
    for line in numba.prange(image.shape[0]):
        y = np.int64(line)
        _sum_row(image, y, left, top, channels, here, shares, nothing, out[y])


@kernel(parallel=True)
def _sum_planes(planes, left, top, here, shares, out):  # type: ignore[no-untyped-def]
    count, rows, columns = planes.shape
    nothing = np.zeros(columns, np.float32)
    for line in numba.prange(count * rows):
        n, y = np.int64(line) // rows, np.int64(line) % rows
        _sum_row(planes[n], y, left, top, 1, here[n], shares[n], nothing, out[n, y])


@kernel()
def _sum_row(image, y, left, top, channels, here, shares, nothing, drawn):  # type: ignore[no-untyped-def]
    rows, length = image.shape
    low, high = min(max(-left, 0), length), max(min(length - left - channels, length), 0)
    upper = image[y + top] if 0 <= y + top < rows else nothing
    lower = image[y + top + 1] if 0 <= y + top + 1 < rows else nothing
    own = image[y]
    for x in range(min(low, length)):
        drawn[x] = own[x] * here + _at_end(upper, lower, x + left, channels, shares)
    for x in range(max(low, high), length):
        drawn[x] = own[x] * here + _at_end(upper, lower, x + left, channels, shares)
    if high <= low:
        return
    a, b, c, d = shares
    one, two = upper[low + left : high + left], upper[low + left + channels :]
    three, four = lower[low + left : high + left], lower[low + left + channels :]
    own, drawn = own[low:high], drawn[low:high]
    for x in range(high - low):
        there = a * one[x] + b * two[x] + c * three[x] + d * four[x]
        drawn[x] = own[x] * here + there


@kernel(inline="always")
def _at_end(upper, lower, x, channels, shares):  # type: ignore[no-untyped-def]
    """The same where some of the four lie beyond the ends of their rows."""
    total = np.float32(0)
    if 0 <= x < upper.shape[0]:
        total += shares[0] * upper[x] + shares[2] * lower[x]
    if 0 <= x + channels < upper.shape[0]:
        total += shares[1] * upper[x + channels] + shares[3] * lower[x + channels]
    return total


@kernel(parallel=True)
def _scaled_sum(image, cx, cy, factor, here, there, out):  # type: ignore[no-untyped-def]
    rows, columns, channels = image.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        v = cy + (y - cy) * factor
        j = math.floor(v)
        t = np.float32(v - j)
        for x in range(columns):
            u = cx + (x - cx) * factor
            i = math.floor(u)
            s = np.float32(u - i)
            for channel in range(channels):
                total = image[y, x, channel] * here
                for dj in range(2):
                    for di in range(2):
                        row, column = j + dj, i + di
                        if row >= 0 and row < rows and column >= 0 and column < columns:
                            weight = (t if dj else 1 - t) * (s if di else 1 - s)
                            total += image[row, column, channel] * weight * there
                out[y, x, channel] = total
