"""Measures of polygons, from their corners."""

import numpy as np


def area_and_centre(quad: np.ndarray) -> tuple[float, np.ndarray]:
    """Of a polygon (N, 2)."""
    x, y = quad.T
    cross = x * np.roll(y, -1) - np.roll(x, -1) * y
    area = cross.sum() / 2
    centre = np.array([((x + np.roll(x, -1)) * cross).sum(), ((y + np.roll(y, -1)) * cross).sum()])
    return abs(area), centre / (6 * area)
