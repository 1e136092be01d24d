"""Pictures in perspective, row by row: where a homography takes rows to rows."""

import math

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.footprint import level_for, samples, weights
from mabrel.kernels import kernel

Array = NDArray[np.float32]
Matrix = NDArray[np.float64]
_BESIDE = 4  # empty pixels on both sides of a row, for lookups beyond its ends
_STRAIGHT = 1e-9
_STAYS = 1e-4  # pixels that a row may run aside and still be taken as it is
_MANY = 3  # samples from which on linear lookups do


def keeps_rows(back: Matrix, size: tuple[int, int]) -> bool:
    """Whether each row of a picture of `size` (width, height) sees one row of the image: so it is
    with floors before a camera that doesn't roll, and, laid on their side, with cards turned about
    the vertical. `back` (3 × 3) takes places of the picture to those of the image."""
    across = np.abs(back[:, 0]) * size[0]
    rest = np.abs(back[:, 1]) * size[1] + np.abs(back[:, 2])
    return bool((across[1:] <= _STRAIGHT * rest[1:]).all())


def project_rows(
    levels: Array, starts: NDArray[np.int64], back: Matrix, few: float, out: Array
) -> None:
    """Write into `out` (H, W, 1 or 4) what each pixel sees of the image.

    Two passes of one dimension each (Catmull and Smith, "3-D transformations of images in scanline
    order", 1980): the mean of the image's rows that a row of the picture spans; then, along that,
    the mean of what each pixel spans, which leans where the image runs away to the side. `levels`
    and `starts` are the image and its means over rows, one beneath the other; of the one that it is
    looked up in, at least `few` rows make a row of the picture, where there are so many.
    """
    rows, columns, channels = levels.shape
    _project_rows(levels.reshape(rows, columns * channels), starts, back, channels, few, out)


@kernel(parallel=True)
def _project_rows(levels, starts, back, channels, few, out):  # type: ignore[no-untyped-def]
    height, width = starts[1] - starts[0], levels.shape[1] // channels
    rows, columns = out.shape[:2]
    for line in numba.prange(rows):
        y = np.int64(line)
        w = back[2, 1] * y + back[2, 2]
        if w <= 1e-12:
            continue
        v = (back[1, 1] * y + back[1, 2]) / w
        vy = (back[1, 1] - v * back[2, 1]) / w
        reach = 0.5 * abs(vy) + 2.0
        if v < -reach or v > height - 1 + reach:
            continue
        first = (back[0, 1] * y + back[0, 2]) / w
        step = back[0, 0] / w
        end = first + step * (columns - 1)
        shears = abs(back[0, 1] - first * back[2, 1]), abs(back[0, 1] - end * back[2, 1])
        spare = 0.5 * (abs(step) + max(shears[0], shears[1]) / w) + 3.0
        low = max(math.floor(min(first, end) - spare), 0)
        high = min(math.ceil(max(first, end) + spare) + 1, width)
        if high <= low:
            continue
        level, fewer = level_for(abs(vy), len(starts) - 1, few)
        image = levels[starts[level] : starts[level + 1]]
        row = np.zeros((high - low + 2 * _BESIDE) * channels, np.float32)
        inner = row[_BESIDE * channels : (_BESIDE + high - low) * channels]
        _mean_row(image[:, low * channels : high * channels], (v + 0.5) * fewer - 0.5,
                  vy * fewer, inner)  # fmt: skip
        skipped = math.floor(first + 0.5)
        stays = abs(first - skipped) + abs(end - skipped - (columns - 1)) + 0.5 * max(*shears) / w
        if stays < _STAYS:  # pixel for pixel, as in all that is level
            _move_along(row, (skipped - low + _BESIDE) * channels, out[y].reshape(-1))
            continue
        for x in range(columns):
            u = first + step * x
            shear = abs(back[0, 1] - u * back[2, 1]) / w
            sums = _mean_along(row, u - low + _BESIDE, abs(step), shear, channels)
            if channels == 4:
                out[y, x, 0], out[y, x, 1], out[y, x, 2], out[y, x, 3] = sums
            else:
                out[y, x, 0] = sums[0]


@kernel()
def _move_along(row, begin, out):  # type: ignore[no-untyped-def]
    """Write numbers of a row from `begin` on, as far as there are any."""
    for k in range(max(-begin, 0), min(row.shape[0] - begin, out.shape[0])):
        out[k] = row[begin + k]


@kernel()
def _mean_row(image, v, span, row):  # type: ignore[no-untyped-def]
    """Add to a row the mean of what lies within `span` rows about `v`."""
    height, length = image.shape
    count = samples(span)
    share = np.float32(1.0 / count)
    zero = np.float32(0)
    for j in range(count):
        at = v + span * ((j + 0.5) / count - 0.5)
        top = math.floor(at)
        if top < -2 or top > height:
            continue
        a, b, c, d = weights(np.float32(at - top))
        if top >= 1 and top + 2 < height:
            one, two = image[top - 1], image[top]
            three, four = image[top + 1], image[top + 2]
            for k in range(length):
                total = a * one[k] + b * two[k] + c * three[k] + d * four[k]
                total = min(max(total, min(two[k], three[k])), max(two[k], three[k]))
                row[k] += total * share
            continue
        for k in range(length):
            p = image[top - 1, k] if 0 <= top - 1 < height else zero
            q = image[top, k] if 0 <= top < height else zero
            r = image[top + 1, k] if 0 <= top + 1 < height else zero
            s = image[top + 2, k] if 0 <= top + 2 < height else zero
            total = a * p + b * q + c * r + d * s
            row[k] += min(max(total, min(q, r)), max(q, r)) * share


@kernel(inline="always")
def _mean_along(row, u, span, shear, channels):  # type: ignore[no-untyped-def]
    """The mean of what a pixel spans of a row, one or four channels of it: two boxes, one of which
    is as wide as the image runs to the side within a row of the picture."""
    last = row.shape[0] // channels - 3
    wide, narrow = span + shear, min(span, shear)
    count = samples(wide)
    zero = np.float32(0)
    sums = (zero, zero, zero, zero)
    weight = 0.0
    for k in range(count):
        away = wide * ((k + 0.5) / count - 0.5)
        own = min((0.5 * wide - abs(away)) / max(narrow, 1e-9), 1.0) if count > 1 else 1.0
        weight += own
        at = u + away
        left = math.floor(at)
        if left < 1 or left > last:
            continue
        place = np.uint64(left - 1) * np.uint64(channels)
        t, own = np.float32(at - left), np.float32(own)
        if count >= _MANY:
            sums = _add_near(row, place + np.uint64(channels), channels, t, own, sums)
        else:
            sums = _add_along(row, place, channels, t, own, sums)
    share = np.float32(1.0 / weight)
    return sums[0] * share, sums[1] * share, sums[2] * share, sums[3] * share


@kernel(inline="always")
def _add_near(row, place, channels, t, share, sums):  # type: ignore[no-untyped-def]
    """Add what lies between two pixels, linearly: enough where many are averaged."""
    b, c = share * (np.float32(1) - t), share * t
    if channels == 4:
        other = place + np.uint64(4)
        one, two, three = np.uint64(1), np.uint64(2), np.uint64(3)
        return (
            sums[0] + b * row[place] + c * row[other],
            sums[1] + b * row[place + one] + c * row[other + one],
            sums[2] + b * row[place + two] + c * row[other + two],
            sums[3] + b * row[place + three] + c * row[other + three],
        )
    return (sums[0] + b * row[place] + c * row[place + np.uint64(1)], sums[1], sums[2], sums[3])


@kernel(inline="always")
def _add_along(row, place, channels, t, share, sums):  # type: ignore[no-untyped-def]
    a, b, c, d = weights(t)
    if channels == 4:
        return (
            sums[0] + share * _between(row, place, 4, a, b, c, d),
            sums[1] + share * _between(row, place + np.uint64(1), 4, a, b, c, d),
            sums[2] + share * _between(row, place + np.uint64(2), 4, a, b, c, d),
            sums[3] + share * _between(row, place + np.uint64(3), 4, a, b, c, d),
        )
    return (sums[0] + share * _between(row, place, 1, a, b, c, d), sums[1], sums[2], sums[3])


@kernel(inline="always")
def _between(row, place, apart, a, b, c, d):  # type: ignore[no-untyped-def]
    """One channel between four pixels, within the middle two."""
    apart = np.uint64(apart)
    q, r = row[place + apart], row[place + np.uint64(2) * apart]
    total = a * row[place] + b * q + c * r + d * row[place + np.uint64(3) * apart]
    return min(max(total, min(q, r)), max(q, r))
