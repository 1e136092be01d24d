"""The shadow that a shape draws out in the plane of the picture."""

import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from mabrel.field import gaussian_blur, signed_distance
from mabrel.field.coarse import coarseness, coarser, finer
from mabrel.field.extrusion import silhouette
from mabrel.field.varying_blur import varying_blur
from mabrel.steps.extent import Box
from mabrel.steps.piece import Array, Piece


class Streak(NamedTuple):
    """Where a streak runs, in render pixels from the layer's centre."""

    way: tuple[float, float]
    """A direction; or the place that it runs away from."""
    reach: float
    from_place: bool = False

    def grow(self, box: Box) -> float:
        """By how much its last copy is larger, from the place: that of the box's middle lies
        `reach` away from it."""
        left, top, right, bottom = box
        x, y = self.way
        away = max(math.hypot((left + right) / 2 - x, (top + bottom) / 2 - y), 1.0)
        return self.reach / away


class Softness(NamedTuple):
    """How soft it is where it begins and how much softer at its end, as σ in render pixels, and
    how far it has faded there."""

    blur: float
    softer: float
    fade: float


def streak_of(piece: Piece, streak: Streak, soft: Softness, pause: Callable[[], None]) -> Array:
    """Coverage (H, W) of the streak of what is solid of a piece, itself included. Soft ones are
    made on a coarser grid, on which they still are soft."""
    factor = coarseness(soft.blur)
    shape, corner = piece.solid, (piece.region.left, piece.region.top)
    distance = piece.least_distance if shape is piece.matte else signed_distance(shape)
    small = coarser(distance, corner, factor, goes_on=True) / np.float32(factor)
    coverage, depth = _drawn_out(small, piece, streak, factor, pause)
    share = np.asarray(np.where(small < 0, 0, depth), np.float32)
    faded = np.asarray(coverage * (1 - np.float32(soft.fade) * share), np.float32)
    least, more = soft.blur / factor, np.float32(soft.softer / factor)
    sigma = np.float32(least) + more * _evened(share, coverage, 2 * least + 1)
    blurred = varying_blur(faded, np.asarray(sigma, np.float32), pause)
    return finer(blurred, corner, shape.shape, factor)


def _drawn_out(
    distance: Array, piece: Piece, streak: Streak, factor: int, pause: Callable[[], None]
) -> tuple[Array, Array]:
    """Coverage and how far along, on a grid `factor` times as coarse."""
    x, y = streak.way
    if not streak.from_place:
        return silhouette(distance, towards=(x, y), length=streak.reach / factor, pause=pause)
    first = piece.region.left // factor, piece.region.top // factor
    place = x / factor - first[0] - 0.5, y / factor - first[1] - 0.5
    return silhouette(distance, towards=place, shrink=-streak.grow(piece.box), pause=pause)


def _evened(share: Array, coverage: Array, sigma: float) -> Array:
    """How far along each place is, without a jump where a near part lies before a far one: no
    edge must show in a soft shadow."""
    there = gaussian_blur(coverage, sigma)
    mean = gaussian_blur(share * coverage, sigma) / np.maximum(there, np.float32(1e-3))
    return np.asarray(np.minimum(mean, 1), np.float32)
