"""The sides of an extrusion, traced through the distance field."""

from collections.abc import Callable
from typing import NamedTuple

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.rays import ray
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
                coverage, depth, nx, ny = ray(
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
                c, d, u, v = ray(distance, even, way, profile, at_x, at_y, False)
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
