"""Outlines of what only a matte knows."""

import cv2
import numpy as np
from numpy.typing import NDArray

_FINE = 4  # parts of a pixel at which an edge is found
_CUT, _SIDE = 1.6, 4.0  # pixels: so short is a cut corner, so long are the sides that meet there


def contours(coverage: NDArray[np.float32], tolerance: float = 0.3) -> NDArray[np.float64]:
    """Closed outlines (N, 4: x1, y1, x2, y2) of where `coverage` (H, W) passes ½.

    Places are in pixels from the array's corner, found between pixels; points that lie within
    `tolerance` pixels of a straight line are left out. Holes run the other way round.
    """
    rows, columns = coverage.shape
    size = (columns * _FINE, rows * _FINE)
    fine = cv2.resize(np.asarray(coverage, np.float32), size, interpolation=cv2.INTER_LINEAR)
    inside = (fine > 0.5).astype(np.uint8)
    loops, _ = cv2.findContours(inside, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    found = []
    for loop in loops:
        exact = _on_edge(fine, loop[:, 0])
        points = cv2.approxPolyDP(exact[:, None], tolerance * _FINE, True)[:, 0].astype(float)
        if len(points) < 3:
            continue
        points = _cornered((points + 0.5) / _FINE)
        found.append(np.hstack([points, np.roll(points, -1, axis=0)]))
    return np.vstack(found) if found else np.empty((0, 4))


def _on_edge(fine: NDArray[np.float32], points: NDArray[np.int32]) -> NDArray[np.float32]:
    """From the pixels along an edge to where it passes ½, one step along the slope there."""
    rows, columns = fine.shape
    x, y = points.T
    left, right = np.maximum(x - 1, 0), np.minimum(x + 1, columns - 1)
    above, below = np.maximum(y - 1, 0), np.minimum(y + 1, rows - 1)
    slope = np.stack([fine[y, right] - fine[y, left], fine[below, x] - fine[above, x]], axis=1) / 2
    steep = np.maximum((slope**2).sum(axis=1), 1e-4)
    step = ((0.5 - fine[y, x]) / steep)[:, None] * slope
    return np.asarray(points + np.clip(step, -1, 1), np.float32)


def _cornered(points: NDArray[np.float64]) -> NDArray[np.float64]:
    """Corners that antialiasing has cut off, put back where their sides meet (points (N, 2))."""
    before, after = np.roll(points, 1, axis=0), np.roll(points, -2, axis=0)
    end = np.roll(points, -1, axis=0)
    short = np.hypot(*(end - points).T) < _CUT
    long = (np.hypot(*(points - before).T) > _SIDE) & (np.hypot(*(after - end).T) > _SIDE)
    keep = np.ones(len(points), bool)
    made = points.copy()
    for i in np.nonzero(short & long)[0]:
        first, second = points[i] - before[i], after[i] - end[i]
        cross = first[0] * second[1] - first[1] * second[0]
        if abs(cross) < 0.2 * np.hypot(*first) * np.hypot(*second):
            continue
        gap = end[i] - points[i]
        share = (gap[0] * second[1] - gap[1] * second[0]) / cross
        made[i] = points[i] + first * share
        keep[(i + 1) % len(points)] = False
    return made[keep]
