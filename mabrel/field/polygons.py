"""Polygons seen in perspective."""

import numpy as np
from numpy.typing import NDArray


def nearer(corners: NDArray[np.float64], least: float) -> NDArray[np.float64]:
    """The part of a convex polygon, with homogeneous corners (N, 3), whose third coordinate is at
    least that: what lies before the viewer (Sutherland and Hodgman, "Reentrant polygon clipping",
    1974). Without corners where nothing is."""
    kept = []
    for index in range(len(corners)):
        one, other = corners[index], corners[(index + 1) % len(corners)]
        if one[2] >= least:
            kept.append(one)
        if (one[2] >= least) != (other[2] >= least):
            share = (least - one[2]) / (other[2] - one[2])
            kept.append(one + (other - one) * share)
    return np.array(kept).reshape(-1, 3)
