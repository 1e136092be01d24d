"""How a body's outline grows and shrinks with its depth."""

from functools import lru_cache

import numpy as np

from mabrel.steps.piece import Array
from mabrel.steps.sides.paint import DEPTHS

_PROFILE = 129  # depths at which taper, swell and front edge are known


def profile(
    length: float, *, taper: float, swell: float, edge: float, round_edge: bool
) -> Array | None:
    """How far the outline is grown at even depths from the face to the far end; None where it
    stays as it is. All in one unit."""
    if not (taper or swell or edge):
        return None
    return _profile(length, taper, swell, edge, round_edge).copy()


@lru_cache(maxsize=256)  # a plan asks several times how far a body grows
def _profile(length: float, taper: float, swell: float, edge: float, round_edge: bool) -> Array:
    share = np.linspace(0, 1, _PROFILE)
    grown = swell * np.sin(np.pi * share) - taper * share
    edge = min(edge, length)
    if edge > 0:
        near = np.clip(share * length / edge, 0, 1)
        rounded = np.sqrt(np.clip(1 - (1 - near) ** 2, 0, 1))
        grown = grown + edge * (rounded if round_edge else near)
    return np.asarray(grown, np.float32)


def outgrown(grown: Array | None) -> float:
    """How far it reaches beyond its outline."""
    return 0.0 if grown is None else max(float(grown.max()), 0.0)


def slopes(grown: Array | None, length: float) -> Array:
    """(DEPTHS): how much the outline grows with the depth, pixel for pixel."""
    slope = np.zeros(DEPTHS, np.float32)
    if grown is not None:
        growth = np.gradient(grown) * (len(grown) - 1) / max(length, 1e-6)
        slope = np.asarray(growth[np.linspace(0, len(growth) - 1, DEPTHS).astype(int)], np.float32)
    return slope
