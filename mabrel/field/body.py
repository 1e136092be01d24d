"""A body in space: a shape pushed straight back, as rays from a viewer meet it."""

from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.cone import clear_for, times
from mabrel.field.rays import bilinear, grown_at
from mabrel.kernels import LANES, kernel

Array = NDArray[np.float32]
Matrix = NDArray[np.float64]
NOTHING, FACE, SIDE, BACK = 0, 1, 2, 3
_MOST_STEPS = 240
_ON_IT = np.float32(0.02)  # pixels
_LEAST_STEP = np.float32(0.5)  # pixels
_TOGETHER = 8  # rays of as many rows that begin together where they are clear, if each holds one
_CLOSE, _BEYOND = np.float32(3), np.float32(0.75)
"""Pixels from an outline at which a ray takes the way by which it has come closer for that by which
it will, and how much further than is safe it goes then at most."""


class Rays(NamedTuple):
    """Through the pixel (x, y): from `start` · (x, y, 1) on, in the direction `way` · (x, y, 1), as
    far as `least` times that at least."""

    start: Matrix
    """3 × 3."""
    way: Matrix
    """3 × 3."""
    least: float = 0.0


class Seen(NamedTuple):
    """What rays meet first, (R, C) each."""

    what: NDArray[np.int8]
    """`NOTHING`, `FACE`, `SIDE` or `BACK`."""
    depth: Array
    """0 at the face to 1 at the back."""
    normal: Array
    """(R, C, 2): the outline's outward unit normal beside a side; 0 elsewhere."""
    place: Array
    """(R, C, 3): where, in the card's axes."""


def march(
    distance: Array,
    even: Array,
    corner: tuple[int, int],
    *,
    length: float,
    profile: Array,
    rays: Rays,
    pixels: tuple[NDArray[np.float64], NDArray[np.float64]],
) -> Seen:
    """Look at the body whose outline has the signed `distance` (H, W), pixels from whose corner lie
    at `corner`, in the plane z = 0, and that reaches back to z = −`length`.

    It is grown by `profile` (N, pixels) at even depths; `pixels` are the x and the y of those that
    rays run through, (R, C) each. Rays step by the distance to the outline, as far as it
    can't have grown in their way (sphere tracing, J. Hart 1996), and where they are close to it as
    a secant tells. `even` is the distance smoothed, for the facing.
    """
    across, down = (np.ascontiguousarray(each, np.float64) for each in pixels)
    shape = across.shape
    what = np.zeros(shape, np.int8)
    depth, normal, place = _blank(shape)
    rate = float(np.abs(np.diff(profile)).max(initial=0)) * (len(profile) - 1) / max(length, 1e-6)
    numbers = np.array([length, rate, max(float(profile.max()), 0.0), *corner, rays.least])
    held = np.ascontiguousarray(profile[None], np.float32)
    out = (what.ravel(), depth.ravel(), normal.reshape(-1, 2), place.reshape(-1, 3))
    together = shape[1] if shape[1] > 1 else _TOGETHER
    through = (rays.start, rays.way, together, across.ravel(), down.ravel())
    _march(distance, even, held, numbers, *through, *out)
    return Seen(what, depth, normal, place)


def met_at(
    depth: Array,
    even: Array,
    corner: tuple[int, int],
    *,
    rays: Rays,
    pixels: tuple[NDArray[np.float64], NDArray[np.float64]],
) -> Seen:
    """What rays meet that are known to meet a side so deep ((R, C), 0..1), with `rays.way` running
    from the face to the back; see `march`."""
    across, down = (np.ascontiguousarray(each, np.float64) for each in pixels)
    normal = np.zeros((*across.shape, 2), np.float32)
    place = np.zeros((*across.shape, 3), np.float32)
    numbers = np.array([*corner], np.float64)
    _meet(depth, even, numbers, rays.start, rays.way, across, down, normal, place)
    return Seen(np.full(across.shape, SIDE, np.int8), depth, normal, place)


def _blank(shape: tuple[int, ...]) -> tuple[Array, Array, Array]:
    """Depths, normals and places of rays that have met nothing."""
    depth, normal, place = (np.zeros((*shape, *more), np.float32) for more in ((), (2,), (3,)))
    return depth, normal, place


def met_between(
    what: NDArray[np.int8],
    place: Array,
    even: Array,
    corner: tuple[int, int],
    *,
    length: float,
    pixels: tuple[NDArray[np.float64], NDArray[np.float64]],
) -> Seen:
    """What rays meet that run between neighbours which all meet `what` (R), 2 or more, at places
    that lie even: `place` (H, W, 3) are those, and `pixels` the columns and the rows in it, (R, C)
    each, whole numbers standing for its own; see `march`."""
    across, down = (np.ascontiguousarray(each, np.float64) for each in pixels)
    depth, normal, found = _blank(across.shape)
    numbers = np.array([*corner, length], np.float64)
    _meet_between(what, place, even, numbers, across, down, depth, normal, found)
    return Seen(np.repeat(what[:, None], across.shape[1], axis=1), depth, normal, found)


@kernel(parallel=True)
def _meet_between(what, place, even, numbers, across, down, depth, normal, found):  # type: ignore[no-untyped-def]
    left, top, length = numbers
    one = np.float32(1)
    for line in numba.prange(depth.shape[0]):
        row = np.int64(line)
        for column in range(depth.shape[1]):
            px, py = across[row, column], down[row, column]
            i, j = int(px), int(py)
            u, v = np.float32(px - i), np.float32(py - j)
            for c in range(3):
                above = place[j, i, c] * (one - u) + place[j, i + 1, c] * u
                below = place[j + 1, i, c] * (one - u) + place[j + 1, i + 1, c] * u
                found[row, column, c] = above * (one - v) + below * v
            depth[row, column] = min(max(-found[row, column, 2] / length, 0.0), 1.0)
            if what[row] == SIDE:
                x = np.float32(found[row, column, 0] - left - 0.5)
                y = np.float32(found[row, column, 1] - top - 0.5)
                nx, ny = _facing(even, x, y)
                normal[row, column, 0], normal[row, column, 1] = nx, ny


@kernel(parallel=True)
def _meet(depth, even, corner, start, way, across, down, normal, place):  # type: ignore[no-untyped-def]
    for line in numba.prange(depth.shape[0]):
        row = np.int64(line)
        for column in range(depth.shape[1]):
            px, py, deep = across[row, column], down[row, column], depth[row, column]
            vx, vy, vz = times(start, px, py)
            dx, dy, dz = times(way, px, py)
            x, y = vx + deep * dx, vy + deep * dy
            place[row, column, 0], place[row, column, 1] = x, y
            place[row, column, 2] = vz + deep * dz
            nx, ny = _facing(even, np.float32(x - corner[0] - 0.5), np.float32(y - corner[1] - 0.5))
            normal[row, column, 0], normal[row, column, 1] = nx, ny


@kernel(inline="always")
def _facing(even, x, y):  # type: ignore[no-untyped-def]
    """The unit normal of an outline whose evened out distance this is."""
    one = np.float32(1)
    nx = bilinear(even, x + one, y) - bilinear(even, x - one, y)
    ny = bilinear(even, x, y + one) - bilinear(even, x, y - one)
    flat = max(np.sqrt(nx * nx + ny * ny), np.float32(1e-6))
    return nx / flat, ny / flat


@kernel(parallel=True)
def _march(  # type: ignore[no-untyped-def]
    distance, even, profile, numbers, start, way, together, across, down, what, depth, normal, place
):
    length, rate, most, left, top, _ = numbers
    height, width = distance.shape
    none = np.float32(0)
    for lane in numba.prange(LANES):
        for first in range(np.int64(lane) * together, len(what), LANES * together):
            last = min(first + together, len(what))
            clear = clear_for(
                distance, profile, numbers, start, way, across[first:last], down[first:last]
            )
            for i in range(first, last):
                px, py = across[i], down[i]
                vx, vy, vz = times(start, px, py)
                dx, dy, dz = times(way, px, py)
                size = np.sqrt(dx * dx + dy * dy + dz * dz)
                dx, dy, dz = dx / size, dy / size, dz / size
                near, far = _slab(vz, dz, -length, 0.0, clear * size, 1e12)
                near, far = _slab(vx, dx, left - most - 1, left + width + most, near, far)
                near, far = _slab(vy, dy, top - most - 1, top + height + most, near, far)
                if near >= far:
                    continue
                # From where it enters, lengths are short enough for single precision.
                begin_x = np.float32(vx + near * dx - left - 0.5)
                begin_y = np.float32(vy + near * dy - top - 0.5)
                begin_share = np.float32(-(vz + near * dz) / length)
                across_x, across_y = np.float32(dx), np.float32(dy)
                deeper, reach = np.float32(-dz / length), np.float32(far - near)
                pace = np.float32(1 / max(np.sqrt(dx * dx + dy * dy) + rate * abs(dz), 1e-9))
                run, before, gone, hit = none, none, none, False
                for _ in range(_MOST_STEPS):
                    x, y = begin_x + run * across_x, begin_y + run * across_y
                    d = bilinear(distance, x, y) - grown_at(profile, begin_share + run * deeper)
                    if d <= _ON_IT:
                        hit = True
                        break
                    if run >= reach:
                        break
                    ahead = max(d * pace, _LEAST_STEP)
                    if d < before and d < _CLOSE:  # where it will be if it comes closer as it did
                        ahead = min(max(d * gone / (before - d), ahead), ahead + _BEYOND)
                    before, gone = d, min(ahead, reach - run)
                    run += gone
                if not hit:
                    continue
                entered = gone == none
                if d < none and not entered:  # back to where it went in
                    run += gone * d / (before - d)
                    x, y = begin_x + run * across_x, begin_y + run * across_y
                t = near + run
                z = vz + t * dz
                place[i, 0] = vx + t * dx
                place[i, 1] = vy + t * dy
                place[i, 2] = z
                depth[i] = min(max(-z / length, 0.0), 1.0)
                if entered and abs(z) < 1e-3 * length + 1e-3:
                    what[i] = FACE
                elif entered and abs(z + length) < 1e-3 * length + 1e-3:
                    what[i] = BACK
                else:
                    what[i] = SIDE
                    nx, ny = _facing(even, x, y)
                    normal[i, 0], normal[i, 1] = nx, ny


@kernel(inline="always")
def _slab(start, way, low, high, near, far):  # type: ignore[no-untyped-def]
    """The part of a ray between two planes, within the part that is left."""
    if abs(way) < 1e-12:
        return (near, far) if low <= start <= high else (1.0, 0.0)
    a, b = (low - start) / way, (high - start) / way
    return max(near, min(a, b)), min(far, max(a, b))
