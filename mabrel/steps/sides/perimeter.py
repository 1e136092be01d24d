"""How far along a shape's outline a place lies."""

import numba
import numpy as np
from scipy.spatial import cKDTree

from mabrel.field.contours import contours
from mabrel.kernels import kernel
from mabrel.steps.extent import Lines
from mabrel.steps.piece import Array, Piece

_AROUND = 2  # marks to both sides of the one nearest to a pixel's middle that are tried


class Perimeter:
    """The outline of a piece, marked at every pixel of its length.

    Of every pixel in which a place lies, the mark nearest to its middle is looked for once; of a
    place, among those beside that.
    """

    def __init__(self, piece: Piece) -> None:
        lines = piece.outline
        if lines is None:
            lines = contours(piece.matte) + np.array([piece.region.left, piece.region.top] * 2)
        way = lines[:, 2:] - lines[:, :2]
        lengths = np.maximum(np.hypot(way[:, 0], way[:, 1]), 1e-9)
        starts = np.concatenate([[0.0], np.cumsum(lengths)])
        marks = np.arange(0.5, starts[-1])
        line = np.searchsorted(starts, marks, side="right") - 1
        self.length = float(starts[-1]) or 1.0
        """Of all outlines together, in pixels."""
        self._unit = way[line] / lengths[line, None]
        self._points = lines[line, :2] + self._unit * (marks - starts[line])[:, None]
        self._tree = cKDTree(self._points) if len(marks) else None

    def run(self, places: Lines) -> Array:
        """How far along each place (N, 2: x, y from the layer's centre) lies, in pixels (N)."""
        if self._tree is None or not len(places):
            return np.zeros(len(places), np.float32)
        pixels = np.floor(places).astype(np.int64)
        first, last = pixels.min(axis=0), pixels.max(axis=0)
        wide, high = last - first + 1
        which = (pixels[:, 1] - first[1]) * wide + pixels[:, 0] - first[0]
        there = np.zeros(wide * high, np.bool_)
        there[which] = True
        own = np.flatnonzero(there)
        middles = np.stack([own % wide, own // wide], axis=1) + first + 0.5
        nearest = np.zeros(wide * high, np.int64)
        nearest[own] = self._tree.query(middles, workers=-1)[1]
        out = np.empty(len(places), np.float32)
        _run(places, nearest[which], self._points, self._unit, out)
        return out


@kernel(parallel=True)
def _run(places, nearest, points, unit, out):  # type: ignore[no-untyped-def]
    """The mark nearest to each place, and what the place lies beyond it."""
    for number in numba.prange(len(places)):
        i = np.int64(number)
        x, y = places[i, 0], places[i, 1]
        best, least = nearest[i], np.inf
        for k in range(max(nearest[i] - _AROUND, 0), min(nearest[i] + _AROUND + 1, len(points))):
            away = (points[k, 0] - x) ** 2 + (points[k, 1] - y) ** 2
            if away < least:
                best, least = k, away
        beyond = (x - points[best, 0]) * unit[best, 0] + (y - points[best, 1]) * unit[best, 1]
        out[i] = np.float32(best + 0.5 + min(max(beyond, -1.0), 1.0))
