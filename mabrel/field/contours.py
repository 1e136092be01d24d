"""Outlines of what only a matte knows."""

import cv2
import numpy as np
from numpy.typing import NDArray

_FINE = 4  # parts of a pixel at which an edge is found


def contours(coverage: NDArray[np.float32], tolerance: float = 0.3) -> NDArray[np.float64]:
    """Closed outlines (N, 4: x1, y1, x2, y2) of where `coverage` (H, W) passes ½.

    Places are in pixels from the array's corner, found to 1/8 pixel; points that lie within
    `tolerance` pixels of a straight line are left out. Holes run the other way round.
    """
    rows, columns = coverage.shape
    size = (columns * _FINE, rows * _FINE)
    fine = cv2.resize(np.asarray(coverage, np.float32), size, interpolation=cv2.INTER_LINEAR)
    inside = (fine > 0.5).astype(np.uint8)
    loops, _ = cv2.findContours(inside, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    found = []
    for loop in loops:
        points = cv2.approxPolyDP(loop, tolerance * _FINE, True)[:, 0].astype(float)
        if len(points) < 3:
            continue
        points = (points + 0.5) / _FINE
        found.append(np.hstack([points, np.roll(points, -1, axis=0)]))
    return np.vstack(found) if found else np.empty((0, 4))
