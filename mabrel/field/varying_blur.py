"""A blur that differs from place to place."""

import itertools
from collections.abc import Callable

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.blur import DIRECT, blur_support, blur_to_look_up, gaussian_blur
from mabrel.kernels import LANES, kernel

Array = NDArray[np.float32]
_LEVELS = 6
_CLOSE = 1e-3


def _go_on() -> None:
    pass


def varying_blur(image: Array, sigma: Array, pause: Callable[[], None] = _go_on) -> Array:
    """Blur (H, W) or (H, W, C) by a Gaussian of its own σ in pixels at each place ((H, W)).

    Between blurs whose σ grow by equal steps of their square root, the two nearest are mixed by
    their variance: the mix has the variance asked for. Wide ones are kept on the coarse grid on
    which they were made and looked up where they are needed. What lies beyond the border is 0.
    `pause` is called between the blurs, and may raise to give up.
    """
    most, least = float(sigma.max()), float(sigma.min())
    if most - least < 0.05:
        return gaussian_blur(image, most)
    layers = image if image.ndim == 3 else image[..., None]
    out = np.empty(layers.shape, np.float32)
    sizes = least + (most - least) * np.linspace(0, 1, _LEVELS) ** 2
    lows, highs = sigma.min(axis=1), sigma.max(axis=1)
    before = _level(layers, sizes, 0, lows, highs)
    for k, (low, high) in enumerate(itertools.pairwise(sizes)):
        pause()
        after = _level(layers, sizes, k + 1, lows, highs)
        ends = (k == 0, k == _LEVELS - 2)
        span = np.float32(low), np.float32(high)
        _mix_levels(*before, *after, sigma, lows, highs, *span, *ends, out)
        before = after
    return out if image.ndim == 3 else out[..., 0]


def _level(
    image: Array, sizes: NDArray[np.float64], k: int, lows: Array, highs: Array
) -> tuple[Array, int, int]:
    """One of the blurs, where the σ of any place (`lows` to `highs` in each row) lies beside it:
    control points, how far they are apart, and the row of the image where they begin."""
    sigma, rows = float(sizes[k]), len(image)
    before, after = sizes[max(k - 1, 0)], sizes[min(k + 1, _LEVELS - 1)]
    used = np.flatnonzero((highs >= before - _CLOSE) & (lows <= after + _CLOSE))
    if not len(used):
        return image[:1], 1, 0
    first, last = 0, rows
    if sigma <= DIRECT:  # wider ones are quick, and on a grid that begins at the top
        reach = blur_support(sigma)
        first, last = max(int(used[0]) - reach, 0), min(int(used[-1]) + 1 + reach, rows)
    points, apart = blur_to_look_up(np.ascontiguousarray(image[first:last]), sigma)
    return points.reshape(*points.shape[:2], image.shape[2]), apart, first


@kernel(parallel=True)
def _mix_levels(  # type: ignore[no-untyped-def]
    first, first_apart, first_row, second, second_apart, second_row,
    sigma, lows, highs, low, high, lowest, highest, out,
):  # fmt: skip
    """Write the places whose σ lies from `low` to `high`: between two blurs."""
    rows, columns, channels = out.shape
    span = max(high * high - low * low, np.float32(1e-12))
    across = _splines(first_apart), _splines(second_apart)
    for lane in numba.prange(LANES):
        one = np.empty((columns, channels), np.float32)
        two = np.empty((columns, channels), np.float32)
        for y in range(np.int64(lane), rows, LANES):
            if (highs[y] < low and not lowest) or (lows[y] >= high and not highest):
                continue
            begin, end = columns, 0
            for x in range(columns):
                if (sigma[y, x] >= low or lowest) and (sigma[y, x] < high or highest):
                    begin, end = min(begin, x), x + 1
            if end <= begin:
                continue
            _look_up(first, first_apart, across[0], y - first_row, begin, end, one)
            _look_up(second, second_apart, across[1], y - second_row, begin, end, two)
            for x in range(begin, end):
                own = sigma[y, x]
                if (own < low and not lowest) or (own >= high and not highest):
                    continue
                share = min(max((own * own - low * low) / span, np.float32(0)), np.float32(1))
                if channels == 4:  # side by side, for a processor that takes four at a time
                    out[y, x, 0] = one[x, 0] + (two[x, 0] - one[x, 0]) * share
                    out[y, x, 1] = one[x, 1] + (two[x, 1] - one[x, 1]) * share
                    out[y, x, 2] = one[x, 2] + (two[x, 2] - one[x, 2]) * share
                    out[y, x, 3] = one[x, 3] + (two[x, 3] - one[x, 3]) * share
                else:
                    for c in range(channels):
                        out[y, x, c] = one[x, c] + (two[x, c] - one[x, c]) * share


@kernel()
def _look_up(points, apart, across, y, begin, end, out):  # type: ignore[no-untyped-def]
    """The pixels of a row from `begin` to `end` (N, C), from points that are `apart` pixels apart:
    control points of a spline, unless there is one for each; see `blur_to_look_up`."""
    if apart == 1:
        out[begin:end] = points[y, begin:end]
        return
    row = y // apart + 2
    a, b, c, d = _spline((y % apart) / np.float32(apart))
    along = np.empty(points.shape[1:], np.float32)
    for x in range(begin // apart + 1, min((end - 1) // apart + 5, points.shape[1])):
        for k in range(points.shape[2]):
            total = a * points[row - 1, x, k] + b * points[row, x, k]
            along[x, k] = total + c * points[row + 1, x, k] + d * points[row + 2, x, k]
    at, t = begin // apart + 2, begin % apart
    for x in range(begin, end):
        a, b, c, d = across[t]
        if points.shape[2] == 4:
            for k in range(4):
                total = a * along[at - 1, k] + b * along[at, k]
                out[x, k] = total + c * along[at + 1, k] + d * along[at + 2, k]
        else:
            for k in range(points.shape[2]):
                total = a * along[at - 1, k] + b * along[at, k]
                out[x, k] = total + c * along[at + 1, k] + d * along[at + 2, k]
        t += 1
        if t == apart:
            at, t = at + 1, 0


@kernel()
def _splines(apart):  # type: ignore[no-untyped-def]
    """The weights at each of `apart` pixels between two control points, (apart, 4)."""
    found = np.empty((apart, 4), np.float32)
    for t in range(apart):
        found[t] = _spline(t / np.float32(apart))
    return found


@kernel(inline="always")
def _spline(t):  # type: ignore[no-untyped-def]
    """The weights of four control points, the second of which lies before a place by the share
    `t` of the way to the next."""
    t = np.float32(t)
    s = np.float32(1) - t
    sixth, four, three = np.float32(1 / 6), np.float32(4), np.float32(3)
    a, d = s * s * s * sixth, t * t * t * sixth
    b = (four - t * t * (np.float32(6) - three * t)) * sixth
    return a, b, np.float32(1) - a - b - d, d
