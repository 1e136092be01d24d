"""Fractal noise: clouds, and streaks when it is stretched."""

from collections.abc import Sequence
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.noise import hashed
from mabrel.kernels import kernel

ROUND = 64
"""After so much phase the noise is the same again, unless it is told to come round sooner."""


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
    shown = []
    total, weight = 0.0, 1.0
    for octave in range(octaves):
        width, height = size[0] / 2**octave, size[1] / 2**octave
        share = min(max(min(width, height) - 1.5, 0.0), 1.0)
        total += weight
        if share > 0:
            draw = np.uint32(seed * 31 + octave)
            shown.append(Octave(width, height, phase * 2**octave, draw, weight * share))
        weight *= roughness
    # Gradient noise keeps within about ±0.7; a sum of octaves rarely leaves half of that.
    out = np.zeros(shape, np.float32)
    lift, gain = (1.0, -2.2) if ridged else (0.5, 0.95)
    _add(out, origin, shown, around, ridged, lift, gain / total)
    return np.clip(out, 0, 1, out=out) if ridged else out


@kernel(inline="always")
def slope_towards(h, x, y, z):  # type: ignore[no-untyped-def]
    """One of twelve gradients towards the edges of a cube."""
    side = h % np.uint32(12)
    if side < 4:
        return (x if side & 1 else -x) + (y if side & 2 else -y)
    if side < 8:
        return (x if side & 1 else -x) + (z if side & 2 else -z)
    return (y if side & 1 else -y) + (z if side & 2 else -z)


@kernel(inline="always")
def fade(t):  # type: ignore[no-untyped-def]
    return t * t * t * (t * (t * 6 - 15) + 10)


class Octave(NamedTuple):
    """One layer of noise: how wide and how high its blobs are in pixels, its phase, its draw and
    how much of it there is."""

    width: float
    height: float
    phase: float
    seed: np.uint32
    gain: float


def _add(
    out: NDArray[np.float32],
    origin: tuple[float, float],
    octaves: Sequence[Octave],
    around: int,
    ridged: bool = False,
    lift: float = 0.0,
    gain: float = 1.0,
) -> None:
    """Sum up octaves over a picture (H, W) whose first pixel lies at `origin`, `gain` times, and
    add that and `lift` to what is there.

    Between four points of the lattice the noise is linear in their slopes, and a row of pixels
    looks at two rows of them: so those are blended once a row, and a pixel costs a few sums.
    """
    if not octaves:
        out += np.float32(lift)
        return
    _add_octaves(
        out,
        np.array(origin, np.float64),
        np.array([(1 / each.width, 1 / each.height) for each in octaves], np.float64),
        np.array([each.phase for each in octaves], np.float64),
        np.array([each.seed for each in octaves], np.uint32),
        np.array([each.gain * gain for each in octaves], np.float32),
        around,
        ridged,
        np.float32(lift),
    )


@kernel(parallel=True)
def _add_octaves(out, start, pers, phases, seeds, gains, around, ridged, lift):  # type: ignore[no-untyped-def]
    height, width = out.shape
    count = gains.shape[0]
    first, size = np.empty((count, 2), np.int64), np.empty((count, 2), np.int64)
    for k in range(count):  # the lattice points that it needs: columns and rows
        for axis, pixels in ((0, width), (1, height)):
            first[k, axis] = int(np.floor(start[axis] * pers[k, axis]))
            end = int(np.floor((start[axis] + (pixels - 1)) * pers[k, axis])) + 1
            size[k, axis] = end - first[k, axis] + 1
    begins = np.zeros(count + 1, np.int64)
    rows = np.zeros(count + 1, np.int64)
    begins[1:], rows[1:] = np.cumsum(size[:, 0] * size[:, 1]), np.cumsum(size[:, 1])
    slopes = np.zeros((begins[count], 3), np.float32)
    for line in numba.prange(rows[count]):
        own = np.searchsorted(rows, np.int64(line), side="right") - 1
        row = np.int64(line) - rows[own]
        here = begins[own] + row * size[own, 0]
        _draw_slopes(
            slopes[here : here + size[own, 0]], first[own, 0], first[own, 1] + row, phases[own],
            seeds[own], around,
        )  # fmt: skip
    widest = size[:, 0].max()
    across, ease = np.empty((count, width), np.float32), np.empty((count, width), np.float32)
    cells = np.full((count, widest + 1), width, np.int64)
    for k in range(count):
        before = np.int64(-1)
        for x in range(width):
            column, across[k, x], ease[k, x] = _place((start[0] + x) * pers[k, 0], first[k, 0])
            for passed in range(before + 1, column + 1):
                cells[k, passed] = x
            before = column
    for line in numba.prange(height):
        y = np.int64(line)
        slope, value = np.empty(widest, np.float32), np.empty(widest, np.float32)
        pixels = out[y]
        for k in range(count):
            j, v, share = _place((start[1] + y) * pers[k, 1], first[k, 1])
            here = begins[k] + j * size[k, 0]
            _blend_slopes(slopes[here : here + 2 * size[k, 0]], v, share, slope, value)
            _add_row(pixels, slope, value, cells[k], across[k], ease[k], gains[k], ridged)
        for x in range(width):
            pixels[x] += lift


@kernel()
def _blend_slopes(two_rows, v, share, slope, value):  # type: ignore[no-untyped-def]
    """Between two rows of lattice points, one after the other (2N, 3)."""
    many = two_rows.shape[0] // 2
    one = np.float32(1)
    for i in range(many):
        a, b = two_rows[i], two_rows[many + i]
        above, below = a[1] * v + a[2], b[1] * (v - one) + b[2]
        slope[i] = a[0] + (b[0] - a[0]) * share
        value[i] = above + (below - above) * share


@kernel()
def _add_row(row, slope, value, cells, across, ease, gain, ridged):  # type: ignore[no-untyped-def]
    """Cell by cell of the lattice; the one after the point `i` begins at the pixel `cells[i]`."""
    one, width = np.float32(1), row.shape[0]
    i = 0
    while cells[i] < width:
        first_slope, first, next_slope, then = slope[i], value[i], slope[i + 1], value[i + 1]
        for x in range(cells[i], cells[i + 1]):
            u = across[x]
            before = first_slope * u + first
            noise = before + (next_slope * (u - one) + then - before) * ease[x]
            row[x] += gain * (abs(noise) if ridged else noise)
        i += 1


@kernel(inline="always")
def _place(place, first):  # type: ignore[no-untyped-def]
    """The lattice point before a place, counted from the `first` one, how far it lies beyond that,
    and the share of the next one."""
    whole = np.floor(place)
    beyond = place - whole
    return int(whole) - first, np.float32(beyond), np.float32(fade(beyond))


@kernel(inline="always")
def _draw_slopes(slopes, left, row, phase, seed, around):  # type: ignore[no-untyped-def]
    """For each lattice point of a row its slope across and down, and its value, at this phase."""
    layer = int(np.floor(phase))
    w = phase - layer
    share = fade(w)
    for i in range(slopes.shape[0]):
        for k in range(2):
            weight = share if k else 1 - share
            if weight == 0:
                continue
            salt = seed + np.uint32(((layer + k) % around) * 7919)
            h = hashed(left + i, row, salt)
            slopes[i, 0] += np.float32(weight * slope_towards(h, 1.0, 0.0, 0.0))
            slopes[i, 1] += np.float32(weight * slope_towards(h, 0.0, 1.0, 0.0))
            slopes[i, 2] += np.float32(weight * slope_towards(h, 0.0, 0.0, w - k))


def rough_picture(
    shape: tuple[int, int],
    origin: tuple[float, float],
    size: tuple[float, float],
    seed: int,
    phase: float = 0.0,
    around: int = ROUND,
) -> NDArray[np.float32]:
    """`rough_noise` (`mabrel.field.noise_at`) over a picture (H, W) whose first pixel lies at
    `origin`: about −1 to 1. Octaves whose blobs are finer than the pixels fade out, down to half
    of one."""
    out = np.zeros(shape, np.float32)
    octaves = []
    for finer in (1, 2, 4):
        part = (size[0] / finer, size[1] / finer)
        shown = min(max(2 * min(part) - 1, 0.0), 1.0)
        if shown > 0:
            octaves.append(Octave(*part, phase, np.uint32(seed + finer), 1.4 / finer * shown))
    _add(out, origin, octaves, around)
    return out
