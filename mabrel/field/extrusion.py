"""The sides of an extrusion, traced through the distance field."""

from collections.abc import Callable

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.rays import clear, ray
from mabrel.kernels import kernel

Array = NDArray[np.float32]
_BAND = 64  # rows between two looks at whether to give up
_BLOCK = 4  # pixels whose rays are looked at together first
_AROUND = 3.8
"""Pixels around a block's middle that have to be clear: its corners, along both axes, and a rim."""


def silhouette(
    distance: Array,
    *,
    towards: tuple[float, float],
    length: float = 0.0,
    shrink: float = 0.0,
    profile: Array | None = None,
    pause: Callable[[], None] = lambda: None,
) -> tuple[Array, Array]:
    """Coverage, 0..1, of a shape that is pushed back out of its plane, face and sides together, and
    how deep what one sees of it lies, 0 at the face to 1 at the far end: (H, W) each.

    `distance` (H, W) is the shape's signed distance in pixels. With `shrink` 0 the copies
    behind it move `length` pixels in the direction `towards` (a unit vector). With `shrink` k
    above 0 (and below 1) they close in on the vanishing point `towards` (array coordinates of
    pixel centres), the last one by the factor 1 − k; below 0 they grow away from it, the last one
    by 1 − k. `profile` (N), in pixels, is how far the outline is grown, at even depths from the
    face to the far end: a taper, a swell, a bevelled edge.

    From each pixel a ray runs back through the copies to the face's plane and, by sphere
    tracing (Hart 1996), to the first place inside the outline: depth and coverage follow from
    that hit, and from how near it passes. It is the union of infinitely many copies. The array
    must have room for it.
    """
    distance = np.ascontiguousarray(distance, dtype=np.float32)
    cover, depth = np.empty_like(distance), np.empty_like(distance)
    reach = length if shrink == 0 else shrink / (1 - shrink)
    grown = np.ascontiguousarray([0, 0] if profile is None else profile, np.float32)
    way = np.array([towards[0], towards[1], reach, 1.0 if shrink != 0 else 0.0], np.float32)
    known = _with_what_comes(grown)
    for first in range(0, distance.shape[0], _BAND):
        pause()
        _trace_rows(distance, way, known, first, cover, depth)
    return cover, depth


def _with_what_comes(grown: Array) -> Array:
    """(3, N): a profile; how much more than there it still grows at most; and the steepest that
    it still gets, a share of the depth. A ray may go on by what lies between it and either."""
    most = np.maximum.accumulate(grown[::-1])[::-1]
    slopes = np.append(np.maximum(np.diff(grown), 0) * (len(grown) - 1), 0)
    steepest = np.maximum.accumulate(slopes[::-1])[::-1]
    return np.ascontiguousarray(np.stack([grown, most, steepest]), np.float32)


@kernel(parallel=True)
def _trace_rows(distance, way, profile, first, cover, depth):  # type: ignore[no-untyped-def]
    height, width = distance.shape
    deep = profile[0, 0] - np.float32(2)
    below = min(first + _BAND, height)
    middle = np.float32((_BLOCK - 1) / 2)
    for line in numba.prange((below - first + _BLOCK - 1) // _BLOCK):
        top = np.int64(line) * _BLOCK + first
        for left in range(0, width, _BLOCK):
            x, y = np.float32(left) + middle, np.float32(top) + middle
            begun = clear(distance, way, profile, x, y, np.float32(_AROUND))
            for j in range(top, min(top + _BLOCK, below)):
                for i in range(left, min(left + _BLOCK, width)):
                    coverage, deep_in = np.float32(0), np.float32(0)
                    if distance[j, i] < deep and 0 < i < width - 1 and 0 < j < height - 1:  # face
                        coverage = np.float32(1)
                    elif begun < 1:
                        x, y = np.float32(i), np.float32(j)
                        coverage, deep_in = ray(distance, way, profile, x, y, begun)
                    cover[j, i], depth[j, i] = coverage, deep_in
