"""A blur that differs from place to place."""

import itertools
from collections.abc import Callable

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.blur import blur_to_look_up, gaussian_blur
from mabrel.kernels import kernel

Array = NDArray[np.float32]
_LEVELS = 6


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
    before = _level(layers, float(sizes[0]))
    for low, high in itertools.pairwise(sizes):
        pause()
        after = _level(layers, float(high))
        ends = (low == sizes[0], high == sizes[-1])
        _mix_levels(*before, *after, sigma, np.float32(low), np.float32(high), *ends, out)
        before = after
    return out if image.ndim == 3 else out[..., 0]


def _level(image: Array, sigma: float) -> tuple[Array, int]:
    points, apart = blur_to_look_up(image, sigma)
    return points.reshape(*points.shape[:2], image.shape[2]), apart


@kernel(parallel=True)
def _mix_levels(  # type: ignore[no-untyped-def]
    first, first_apart, second, second_apart, sigma, low, high, lowest, highest, out
):
    """Write the places whose σ lies from `low` to `high`: between two blurs."""
    rows, columns, channels = out.shape
    span = high * high - low * low
    for line in numba.prange(rows):
        y = np.int64(line)
        one = np.empty(channels, np.float32)
        two = np.empty(channels, np.float32)
        for x in range(columns):
            own = sigma[y, x]
            if (own < low and not lowest) or (own >= high and not highest):
                continue
            share = (own * own - low * low) / max(span, np.float32(1e-12))
            share = min(max(share, np.float32(0)), np.float32(1))
            _look_up(first, first_apart, y, x, one)
            _look_up(second, second_apart, y, x, two)
            for c in range(channels):
                out[y, x, c] = one[c] + (two[c] - one[c]) * share


@kernel()
def _look_up(points, apart, y, x, pixel):  # type: ignore[no-untyped-def]
    """The pixel of control points that are `apart` pixels apart; see `blur_to_look_up`."""
    channels = pixel.shape[0]
    if apart == 1:
        for c in range(channels):
            pixel[c] = points[y, x, c]
        return
    column, row = x // apart + 2, y // apart + 2
    across = _spline((x % apart) / np.float32(apart))
    down = _spline((y % apart) / np.float32(apart))
    for c in range(channels):
        total = np.float32(0)
        for j in range(4):
            r = row + j - 1
            total += down[j] * (
                across[0] * points[r, column - 1, c] + across[1] * points[r, column, c]
                + across[2] * points[r, column + 1, c] + across[3] * points[r, column + 2, c]
            )  # fmt: skip
        pixel[c] = total


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
