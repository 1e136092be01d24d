"""Fractal noise: clouds, and streaks when it is stretched."""

from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.noise import hashed
from mabrel.kernels import kernel

ROUND = 64
"""After so much phase the noise is the same again, unless it is told to come round sooner."""
_FLAT = np.array(
    [(-1, -1), (1, -1), (-1, 1), (1, 1), (-1, 0), (1, 0), (-1, 0), (1, 0), (0, -1), (0, 1), (0, -1),
     (0, 1)], np.float32,
)  # fmt: skip
"""The gradients of `_slope` across and down."""


def fractal_noise(
    shape: tuple[int, int],
    origin: tuple[float, float],
    size: tuple[float, float],
    *,
    octaves: int = 4,
    roughness: float = 0.5,
    phase: float = 0.0,
    around: int = ROUND,
    seed: int = 0,
    ridged: bool = False,
) -> NDArray[np.float32]:
    """Smooth noise (H, W), about 0 to 1, its largest blobs `size` (x, y) pixels wide.

    Gradient noise (Perlin, "Improving noise", 2002) in three dimensions, the third being
    `phase`; each of the `octaves` is half as wide as the one before and weighs `roughness`
    times as much. `ridged` folds it about its middle, which makes veins. Octaves finer than the
    pixels fade out, so nothing flickers at any scale. It depends on the place in the noise's
    plane alone; `origin` is that of the first pixel. Over a phase of
    `around` it comes round: the last of its layers is the first again.
    """
    if not (size[0] > 0 and size[1] > 0):
        raise ValueError(f"size must be more than 0, not {size}")
    out = np.zeros(shape, np.float32)
    total, weight = 0.0, 1.0
    for octave in range(octaves):
        width, height = size[0] / 2**octave, size[1] / 2**octave
        shown = min(max(min(width, height) - 1.5, 0.0), 1.0)
        total += weight
        if shown > 0:
            draw = np.uint32(seed * 31 + octave)
            gain = np.float32(weight * shown)
            place = phase * 2**octave
            add_noise(out, origin, (width, height), place, draw, gain, ridged, around)
        weight *= roughness
    # Gradient noise keeps within about ±0.7; a sum of octaves rarely leaves half of that.
    if ridged:
        return np.asarray(np.clip(1 - out / np.float32(total) * np.float32(2.2), 0, 1), np.float32)
    return np.asarray(0.5 + out / np.float32(total) * np.float32(0.95), np.float32)


@kernel(inline="always")
def _slope(h, x, y, z):  # type: ignore[no-untyped-def]
    """One of twelve gradients towards the edges of a cube."""
    side = h % np.uint32(12)
    if side < 4:
        return (x if side & 1 else -x) + (y if side & 2 else -y)
    if side < 8:
        return (x if side & 1 else -x) + (z if side & 2 else -z)
    return (y if side & 1 else -y) + (z if side & 2 else -z)


@kernel(inline="always")
def _fade(t):  # type: ignore[no-untyped-def]
    return t * t * t * (t * (t * 6 - 15) + 10)


@kernel()
def _gradient_noise(u, v, z, seed, around):  # type: ignore[no-untyped-def]
    column, row, layer = int(np.floor(u)), int(np.floor(v)), int(np.floor(z))
    x, y, w = u - column, v - row, z - layer
    fx, fy, fz = _fade(x), _fade(y), _fade(w)
    total = 0.0
    for k in range(2):
        wz = fz if k else 1 - fz
        if wz == 0:
            continue
        salt = seed + np.uint32(((layer + k) % around) * 7919)
        for j in range(2):
            wy = fy if j else 1 - fy
            for i in range(2):
                wx = fx if i else 1 - fx
                h = hashed(column + i, row + j, salt)
                total += wx * wy * wz * _slope(h, x - i, y - j, w - k)
    return total


def add_noise(
    out: NDArray[np.float32],
    origin: tuple[float, float],
    size: tuple[float, float],
    phase: float,
    seed: np.uint32,
    gain: np.float32,
    ridged: bool = False,
    around: int = ROUND,
) -> None:
    """Add one octave, `gain` times, to a picture (H, W) whose first pixel lies at `origin`.

    Between four points of the lattice the noise is linear in their slopes, and a row of pixels
    looks at two rows of them: so those are blended once a row, and a pixel costs a few sums.
    """
    start, per = np.array(origin, np.float64), 1 / np.array(size, np.float64)
    _add(out, start, per, float(phase), seed, around, gain, ridged)


@kernel(parallel=True)
def _add(out, start, per, phase, seed, around, gain, ridged):  # type: ignore[no-untyped-def]
    height, width = out.shape
    left, top = int(np.floor(start[0] * per[0])), int(np.floor(start[1] * per[1]))
    right = int(np.floor((start[0] + (width - 1)) * per[0])) + 1
    low = int(np.floor((start[1] + (height - 1)) * per[1])) + 1
    slopes = np.zeros((low - top + 1, right - left + 1, 3), np.float32)
    many = slopes.shape[1]
    for row in numba.prange(slopes.shape[0]):
        _draw_slopes(slopes[row], left, top + np.int64(row), phase, seed, around)
    one = np.float32(1)
    columns = np.empty(width, np.int64)
    across, ease = np.empty(width, np.float32), np.empty(width, np.float32)
    for x in range(width):
        columns[x], across[x], ease[x] = _place((start[0] + x) * per[0], left)
    for line in numba.prange(height):
        y = np.int64(line)
        j, v, share = _place((start[1] + y) * per[1], top)
        slope = np.empty(many, np.float32)
        value = np.empty(many, np.float32)
        for i in range(many):
            a, b = slopes[j, i], slopes[j + 1, i]
            above, below = a[1] * v + a[2], b[1] * (v - one) + b[2]
            slope[i] = a[0] + (b[0] - a[0]) * share
            value[i] = above + (below - above) * share
        for x in range(width):
            i, u = columns[x], across[x]
            before = slope[i] * u + value[i]
            after = slope[i + 1] * (u - one) + value[i + 1]
            noise = before + (after - before) * ease[x]
            out[y, x] += gain * (abs(noise) if ridged else noise)


@kernel(inline="always")
def _place(place, first):  # type: ignore[no-untyped-def]
    """The lattice point before a place, counted from the `first` one, how far it lies beyond that,
    and the share of the next one."""
    whole = np.floor(place)
    beyond = place - whole
    return int(whole) - first, np.float32(beyond), np.float32(_fade(beyond))


@kernel(inline="always")
def _draw_slopes(slopes, left, row, phase, seed, around):  # type: ignore[no-untyped-def]
    """For each lattice point of a row its slope across and down, and its value, at this phase."""
    layer = int(np.floor(phase))
    w = phase - layer
    share = _fade(w)
    for i in range(slopes.shape[0]):
        for k in range(2):
            weight = share if k else 1 - share
            if weight == 0:
                continue
            salt = seed + np.uint32(((layer + k) % around) * 7919)
            h = hashed(left + i, row, salt)
            slopes[i, 0] += np.float32(weight * _slope(h, 1.0, 0.0, 0.0))
            slopes[i, 1] += np.float32(weight * _slope(h, 0.0, 1.0, 0.0))
            slopes[i, 2] += np.float32(weight * _slope(h, 0.0, 0.0, w - k))


def rough_picture(
    shape: tuple[int, int],
    origin: tuple[float, float],
    size: tuple[float, float],
    seed: int,
    phase: float = 0.0,
    around: int = ROUND,
) -> NDArray[np.float32]:
    """`rough_noise` over a picture (H, W) whose first pixel lies at `origin`: about −1 to 1.
    Octaves whose blobs are finer than the pixels fade out, down to half of one."""
    out = np.zeros(shape, np.float32)
    for finer in (1, 2, 4):
        part = (size[0] / finer, size[1] / finer)
        shown = min(max(2 * min(part) - 1, 0.0), 1.0)
        if shown > 0:
            gain = np.float32(1.4 / finer * shown)
            add_noise(out, origin, part, phase, np.uint32(seed + finer), gain, around=around)
    return out


def noise_at(
    x: NDArray[np.float64],
    y: NDArray[np.float64],
    phase: float,
    seed: int,
    around: int = ROUND,
) -> NDArray[np.float64]:
    """One octave of the same noise at any places, in blobs: about −1 to 1, the same shape."""
    flat_x, flat_y = np.ravel(x).astype(np.float64), np.ravel(y).astype(np.float64)
    out = np.empty(flat_x.shape, np.float64)
    _at_places(flat_x, flat_y, float(phase), np.uint32(seed), around, out)
    return out.reshape(np.shape(x))


def rough_noise(x: NDArray[Any], y: NDArray[Any], seed: int) -> NDArray[np.float32]:
    """Three octaves of it, each half as wide and as strong as the one before, at phase 0: at any
    places, the same shape, about −1 to 1."""
    flat_x, flat_y = np.ravel(x).astype(np.float64), np.ravel(y).astype(np.float64)
    out = np.empty(flat_x.shape, np.float32)
    _rough_at(flat_x, flat_y, seed, out)
    return out.reshape(np.shape(x))


@kernel(parallel=True)
def _rough_at(x, y, seed, out):  # type: ignore[no-untyped-def]
    for i in numba.prange(x.size):
        total = np.float32(0)
        for octave in range(3):
            finer = 1 << octave
            noise = _flat_noise(x[i] * finer, y[i] * finer, np.uint32(seed + finer))
            total += np.float32(1.4) / np.float32(finer) * noise
        out[i] = total


@kernel(inline="always")
def _flat_slope(h, x, y):  # type: ignore[no-untyped-def]
    """`_slope` at z = 0, looked up: which one it is can't be foreseen."""
    side = h % np.uint32(12)
    return _FLAT[side, 0] * x + _FLAT[side, 1] * y


@kernel(inline="always")
def _flat_noise(u, v, seed):  # type: ignore[no-untyped-def]
    """`_gradient_noise` in its first layer."""
    column, row = np.floor(u), np.floor(v)
    x, y = np.float32(u - column), np.float32(v - row)
    left, top, one = int(column), int(row), np.float32(1)
    fx, fy = np.float32(_fade(x)), np.float32(_fade(y))
    a = _flat_slope(hashed(left, top, seed), x, y)
    b = _flat_slope(hashed(left + 1, top, seed), x - one, y)
    c = _flat_slope(hashed(left, top + 1, seed), x, y - one)
    d = _flat_slope(hashed(left + 1, top + 1, seed), x - one, y - one)
    above, below = a + (b - a) * fx, c + (d - c) * fx
    return above + (below - above) * fy


@kernel(parallel=True)
def _at_places(x, y, phase, seed, around, out):  # type: ignore[no-untyped-def]
    for i in numba.prange(x.size):
        out[i] = 1.4 * _gradient_noise(x[i], y[i], phase, seed, around)
