"""The sides of an extrusion, traced through the distance field."""

from collections.abc import Callable
from typing import NamedTuple

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]
_EVEN = 1.6  # pixels over which the facing is evened out, so that no piece of the edge shows
_SAME = np.float32(0.06)  # of the depth: neighbours further apart are not of one side
_NEAR = 2.5  # pixels of depth within which they may be
_ABOUT = ((-0.4, 0.2), (-0.2, -0.4), (0.2, 0.4), (0.4, -0.2))
_BAND = 64  # rows between two looks at whether to give up


class Sides(NamedTuple):
    """What one sees of an extrusion, face and sides together.

    `coverage` (H, W), 0..1, of the whole silhouette; `depth` (H, W), 0 at the face to 1 at the
    far end; `normal` (H, W, 2), the outline's outward unit normal where the side was hit.
    """

    coverage: Array
    depth: Array
    normal: Array


def extrude(
    distance: Array,
    *,
    towards: tuple[float, float],
    length: float = 0.0,
    shrink: float = 0.0,
    profile: Array | None = None,
    grow: float = 1.0,
    even: float = _EVEN,
    pause: Callable[[], None] = lambda: None,
) -> Sides:
    """Trace the sides of a shape that is pushed back out of its plane.

    `distance` (H, W) is the shape's signed distance in pixels. With `shrink` 0 the copies
    behind it move `length` pixels in the direction `towards` (a unit vector). With `shrink` k
    above 0 (and below 1) they close in on the vanishing point `towards` (array coordinates of
    pixel centres), the last one by the factor 1 − k. `profile` (N), in pixels, is how far the
    outline is grown, at even depths from the face to the far end: a taper, a swell, a bevelled
    edge. With k below 0 the copies grow away from that point, the last one by 1 − k. `grow`
    enlarges the first copy about the vanishing point, where the nearest plane is not the
    face's. `even` is the σ in pixels over which the facing is evened out.

    From each pixel a ray runs back through the copies to the face's plane and, by sphere
    tracing (Hart 1996), to the first place inside the outline: depth, facing and coverage of
    the side follow from that hit. It is the union of infinitely many copies. Where neighbours
    differ, five rays are averaged. The array must have room for the silhouette.
    """
    distance, traced, ways = _traced(distance, towards, length, shrink, profile, grow, even, pause)
    smooth = traced.copy()
    for first in range(0, distance.shape[0], _BAND):
        pause()
        _smooth_rows(distance, *ways, first, traced, smooth)
    coverage = np.ascontiguousarray(smooth[..., 0])
    depth, normal = smooth[..., 1], smooth[..., 2:]
    return Sides(coverage, np.ascontiguousarray(depth), np.ascontiguousarray(normal))


def silhouette(
    distance: Array,
    *,
    towards: tuple[float, float],
    length: float = 0.0,
    shrink: float = 0.0,
    pause: Callable[[], None] = lambda: None,
) -> tuple[Array, Array]:
    """Coverage and depth of `extrude`, (H, W) each, without the facing of its sides: what a
    shadow needs."""
    _, traced, _ = _traced(distance, towards, length, shrink, None, 1.0, _EVEN, pause)
    return np.ascontiguousarray(traced[..., 0]), np.ascontiguousarray(traced[..., 1])


def _traced(
    distance: Array,
    towards: tuple[float, float],
    length: float,
    shrink: float,
    profile: Array | None,
    grow: float,
    even: float,
    pause: Callable[[], None],
) -> tuple[Array, Array, tuple[Array, Array, Array]]:
    """The distance as the kernels take it, what a single ray finds at each pixel (coverage,
    depth and normal: (H, W, 4)), and how the rays run."""
    distance = np.ascontiguousarray(distance, dtype=np.float32)
    traced = np.empty((*distance.shape, 4), np.float32)
    reach = length if shrink == 0 else shrink / (1 - shrink)
    grown = np.ascontiguousarray([0, 0] if profile is None else profile, np.float32)
    way = np.array([towards[0], towards[1], reach, 1.0 if shrink != 0 else 0.0, grow], np.float32)
    smoothed = cv2.GaussianBlur(distance, (0, 0), even, borderType=cv2.BORDER_REPLICATE)
    ways = (np.asarray(smoothed, np.float32), way, _with_what_comes(grown))
    for first in range(0, distance.shape[0], _BAND):
        pause()
        _trace_rows(distance, *ways, first, traced)
    return distance, traced, ways


def _with_what_comes(grown: Array) -> Array:
    """(3, N): a profile; how much more than there it still grows at most; and the steepest that
    it still gets, a share of the depth. A ray may go on by what lies between it and either."""
    most = np.maximum.accumulate(grown[::-1])[::-1]
    slopes = np.append(np.maximum(np.diff(grown), 0) * (len(grown) - 1), 0)
    steepest = np.maximum.accumulate(slopes[::-1])[::-1]
    return np.ascontiguousarray(np.stack([grown, most, steepest]), np.float32)


@kernel(inline="always")
def _at(distance, x, y):  # type: ignore[no-untyped-def]
    """Bilinear; beyond the array, its border and the way there."""
    height, width = distance.shape
    cx = min(max(x, np.float32(0)), np.float32(width - 1))
    cy = min(max(y, np.float32(0)), np.float32(height - 1))
    left, top = np.uint64(min(int(cx), width - 2)), np.uint64(min(int(cy), height - 2))
    u, v = cx - np.float32(left), cy - np.float32(top)
    one, right, lower = np.float32(1), left + np.uint64(1), top + np.uint64(1)
    above = distance[top, left] * (one - u) + distance[top, right] * u
    below = distance[lower, left] * (one - u) + distance[lower, right] * u
    return above * (one - v) + below * v + abs(x - cx) + abs(y - cy)


@kernel(inline="always")
def _grown(profile, share):  # type: ignore[no-untyped-def]
    """How far the outline is grown at a share of the depth."""
    count = profile.shape[1]
    place = min(max(share, np.float32(0)), np.float32(1)) * np.float32(count - 1)
    left = min(int(place), count - 2)
    before = profile[0, left]
    return before + (profile[0, left + 1] - before) * (place - np.float32(left))


@kernel(inline="always")
def _free(profile, d, at, last):  # type: ignore[no-untyped-def]
    """How far a ray may go on from a place that is `d` away from the outline there."""
    if profile.shape[1] == 2:
        return max(d, np.float32(0.3))
    count = profile.shape[1]
    share = min(max(at / last, np.float32(0)), np.float32(1)) * np.float32(count - 1)
    left = min(int(share), count - 1)
    by_slope = d / (np.float32(1) + profile[2, left] / last)
    here = min(profile[0, left], profile[0, min(left + 1, count - 1)])
    by_height = d + here - profile[1, left]
    return max(max(by_slope, by_height), np.float32(0.3))


@kernel(inline="always")
def _gap(distance, profile, x, y, wx, wy, at, last):  # type: ignore[no-untyped-def]
    """How far the ray is from the outline at one depth, in pixels of the nearest plane."""
    away = _at(distance, x + wx * at, y + wy * at)
    if profile.shape[1] == 2:
        return away
    return away - _grown(profile, at / last if last > 0 else np.float32(0))


@kernel()
def _ray(distance, even, way, profile, x, y, fine):  # type: ignore[no-untyped-def]
    """Coverage, depth and normal for the ray from (x, y); the coverage is exact where `fine`."""
    ax, ay, reach, converging, grow = way
    one = np.float32(1)
    if converging > 0:
        x, y = ax + (x - ax) / grow, ay + (y - ay) / grow
        wx, wy = x - ax, y - ay
        away = np.sqrt(wx * wx + wy * wy)
        wx, wy = wx / max(away, np.float32(1e-6)), wy / max(away, np.float32(1e-6))
        last = away * reach
        spread = one / max(away, np.float32(1e-6))
        if reach < 0:  # towards the point, from where copies have grown away
            wx, wy, last, spread = -wx, -wy, -last, -spread
    else:
        wx, wy, last, spread = -ax, -ay, reach, np.float32(0)
    half = np.float32(0.5)
    at, before = np.float32(0), np.float32(0)
    d = _gap(distance, profile, x, y, wx, wy, at, last)
    nearest, grazed = d * grow, at
    if d <= 0 and d > -one:  # at the rim that it leaves, a ray sees what lies beyond the face
        at, d = _left(distance, profile, x, y, wx, wy, last, d)
    outside = d
    # Distances shrink on their way forward to the picture: a copy is smaller by 1 + at·spread.
    while d > 0 and at < last:
        before, outside = at, d
        at = min(at + _free(profile, d, at, last), last)
        d = _gap(distance, profile, x, y, wx, wy, at, last)
        seen = grow * d / (one + at * spread)
        if seen < nearest:
            nearest, grazed = seen, at
    if d <= 0:
        if at > before:
            at = _entered(distance, profile, x, y, wx, wy, last, before, outside, at, d)
        on, deeper = at, d
        while nearest > -half and on < last:  # a grazed edge is thin, but more may lie beyond it
            on = min(on + max(_free(profile, max(deeper, np.float32(0)), on, last), half), last)
            deeper = _gap(distance, profile, x, y, wx, wy, on, last) * grow / (one + on * spread)
            if deeper < nearest:
                nearest, grazed = deeper, on
    if fine and abs(nearest) < np.float32(0.8):
        nearest = _closest(distance, profile, x, y, wx, wy, spread, grow, grazed, last, nearest)
    coverage = min(max(half - nearest, np.float32(0)), one)
    if coverage <= 0:
        return coverage, np.float32(0), np.float32(0), np.float32(0)
    depth = at / last if last > 0 else np.float32(0)
    px, py = x + wx * at, y + wy * at
    nx = _at(even, px + 1, py) - _at(even, px - 1, py)
    ny = _at(even, px, py + 1) - _at(even, px, py - 1)
    size = max(np.sqrt(nx * nx + ny * ny), np.float32(1e-6))
    return coverage, depth, nx / size, ny / size


@kernel()
def _entered(distance, profile, x, y, wx, wy, last, low, above, high, below):  # type: ignore[no-untyped-def]
    """Where a ray enters, between a place `above` the outline and one `below` it: false position,
    with the older end halved (Dowell and Jarratt, "A modified regula falsi method", 1971)."""
    side = 0
    for _ in range(5):
        middle = (low * below - high * above) / (below - above)
        d = _gap(distance, profile, x, y, wx, wy, middle, last)
        if d > 0:
            low, above = middle, d
            below = below * np.float32(0.5) if side == 1 else below
            side = 1
        else:
            high, below = middle, d
            above = above * np.float32(0.5) if side == 2 else above
            side = 2
        if abs(d) < np.float32(1e-3):
            return middle
    return high


@kernel()
def _left(distance, profile, x, y, wx, wy, last, d):  # type: ignore[no-untyped-def]
    """Where a ray that begins just inside the outline has left it, and the distance there; the
    beginning where it goes on inside."""
    at, began, before = np.float32(0), d, d
    while at < np.float32(4) and at < last:
        at = min(at + np.float32(0.25), last)
        d = _gap(distance, profile, x, y, wx, wy, at, last)
        if d <= before:
            break
        if d > 0:
            return at, d
        before = d
    return np.float32(0), began


@kernel()
def _closest(distance, profile, x, y, wx, wy, spread, grow, grazed, last, nearest):  # type: ignore[no-untyped-def]
    """The least distance on the ray around a place, by the golden section (Kiefer 1953): what
    antialiases the silhouette."""
    low, high = max(grazed - np.float32(0.6), np.float32(0)), min(grazed + np.float32(0.6), last)
    golden, one = np.float32(0.61803399), np.float32(1)
    a, b = high - (high - low) * golden, low + (high - low) * golden
    at_a = _gap(distance, profile, x, y, wx, wy, a, last) * grow / (one + a * spread)
    at_b = _gap(distance, profile, x, y, wx, wy, b, last) * grow / (one + b * spread)
    for _ in range(5):
        if at_a < at_b:
            high, b, at_b = b, a, at_a
            a = high - (high - low) * golden
            at_a = _gap(distance, profile, x, y, wx, wy, a, last) * grow / (one + a * spread)
        else:
            low, a, at_a = a, b, at_b
            b = low + (high - low) * golden
            at_b = _gap(distance, profile, x, y, wx, wy, b, last) * grow / (one + b * spread)
    return min(nearest, at_a, at_b)


@kernel(parallel=True)
def _trace_rows(distance, even, way, profile, first, traced):  # type: ignore[no-untyped-def]
    height, width = distance.shape
    deep = profile[0, 0] - np.float32(2) if way[4] == 1 else np.float32(-np.inf)
    for line in numba.prange(min(_BAND, height - first)):
        y = np.int64(line) + first
        for x in range(width):
            if distance[y, x] < deep and 0 < x < width - 1 and 0 < y < height - 1:  # the face
                nx, ny = even[y, x + 1] - even[y, x - 1], even[y + 1, x] - even[y - 1, x]
                size = max(np.sqrt(nx * nx + ny * ny), np.float32(1e-6))
                coverage, depth, nx, ny = np.float32(1), np.float32(0), nx / size, ny / size
            else:
                coverage, depth, nx, ny = _ray(
                    distance, even, way, profile, np.float32(x), np.float32(y), True
                )
            traced[y, x, 0], traced[y, x, 1] = coverage, depth
            traced[y, x, 2], traced[y, x, 3] = nx, ny


@kernel(parallel=True)
def _smooth_rows(distance, even, way, profile, first, traced, smooth):  # type: ignore[no-untyped-def]
    """Average five rays, no two in one row or column, where one side meets another."""
    height, width = distance.shape
    apart = _SAME
    if way[3] == 0:  # a short way back, every pixel lies a good part of it behind the one before
        apart = max(apart, np.float32(_NEAR) / max(way[2], np.float32(1)))
    for line in numba.prange(min(_BAND, height - first)):
        y = np.int64(line) + first
        if y == 0 or y == height - 1:
            continue
        for x in range(1, width - 1):
            if traced[y, x, 0] <= 0 or distance[y, x] < -1 or not _differs(traced, y, x, apart):
                continue
            total = traced[y, x, 0]
            depth = total * traced[y, x, 1]
            nx, ny = total * traced[y, x, 2], total * traced[y, x, 3]
            for across, down in _ABOUT:
                at_x, at_y = np.float32(x) + np.float32(across), np.float32(y) + np.float32(down)
                c, d, u, v = _ray(distance, even, way, profile, at_x, at_y, False)
                total += c
                depth += c * d
                nx += c * u
                ny += c * v
            if total > 0:
                smooth[y, x, 1] = depth / total
                smooth[y, x, 2], smooth[y, x, 3] = nx / total, ny / total


@kernel()
def _differs(traced, y, x, apart):  # type: ignore[no-untyped-def]
    """Whether a covered neighbour lies further than `apart` in depth or faces another way."""
    for row, column in ((y - 1, x), (y + 1, x), (y, x - 1), (y, x + 1)):
        if traced[row, column, 0] <= 0:
            continue
        facing = traced[y, x, 2] * traced[row, column, 2] + traced[y, x, 3] * traced[row, column, 3]
        if facing < np.float32(0.98) or abs(traced[y, x, 1] - traced[row, column, 1]) > apart:
            return True
    return False
