"""How far along a shape's outline a place lies."""

import math
from functools import cached_property

import numba
import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from mabrel.field.contours import contours
from mabrel.kernels import kernel
from mabrel.steps.extent import Lines
from mabrel.steps.piece import Array, Piece

_AROUND = 2  # marks to both sides of the one nearest to a pixel's middle that are tried
_NEAR, _FURTHEST = 2, 24
"""Pixels around a mark that are told of it, and how many at most where sides reach beyond the
outline; further away it is searched for."""
_MANY = 10_000  # pixels for which it is worth asking both cores


class Perimeter:
    """The outline of a piece, marked at every pixel of its length.

    Of every pixel near it the mark nearest to its middle is known; of a place, it is one of those
    beside that of its pixel.
    """

    def __init__(self, piece: Piece, beyond: float = 0.0) -> None:
        """Places lie as many pixels `beyond` the outline, or within it, as a rule."""
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
        ends = self._points if len(marks) else np.zeros((1, 2))
        near = min(_NEAR + math.ceil(beyond), _FURTHEST)
        self._corner = np.floor(ends.min(axis=0)).astype(np.int64) - near
        wide, high = np.floor(ends.max(axis=0)).astype(np.int64) + near + 1 - self._corner
        self._nearest = np.full((high, wide), -1, np.int32)
        away = np.full((high, wide), np.inf, np.float32)
        _tell(self._points - self._corner, near, away, self._nearest)

    @cached_property
    def _tree(self) -> cKDTree:
        return cKDTree(self._points)

    def run(self, places: Lines) -> Array:
        """How far along each place (N, 2: x, y from the layer's centre) lies, in pixels (N)."""
        out = np.zeros(len(places), np.float32)
        if len(self._points) and len(places):
            _run(places, self._marks_at(places), self._points, self._unit, out)
        return out

    def _marks_at(self, places: Lines) -> NDArray[np.int64]:
        """(N): the marks nearest to the middles of the pixels in which places lie."""
        found = np.empty(len(places), np.int64)
        _look_up(places - self._corner, self._nearest, found)
        lost = np.flatnonzero(found < 0)
        if len(lost):
            found[lost] = self._searched_for(np.floor(places[lost]).astype(np.int64))
        return found

    def _searched_for(self, pixels: NDArray[np.int64]) -> NDArray[np.int64]:
        """(N): the marks nearest to the middles of pixels (N, 2), each looked for once."""
        first = pixels.min(axis=0)
        x, y = (pixels - first).T
        marks = np.full((y.max() + 1, x.max() + 1), -1, np.int64)
        marks[y, x] = 0
        rows, columns = np.nonzero(marks == 0)
        middles = np.stack([columns, rows], axis=1) + first + 0.5
        many = -1 if len(middles) > _MANY else 1
        marks[rows, columns] = self._tree.query(middles, workers=many)[1]
        return np.asarray(marks[y, x])


@kernel()
def _tell(points, near, away, nearest):  # type: ignore[no-untyped-def]
    """The pixels around each mark of it."""
    rows, columns = nearest.shape
    for k in range(len(points)):
        x, y = int(points[k, 0]), int(points[k, 1])
        for v in range(max(y - near, 0), min(y + near + 1, rows)):
            for u in range(max(x - near, 0), min(x + near + 1, columns)):
                apart = (points[k, 0] - u - 0.5) ** 2 + (points[k, 1] - v - 0.5) ** 2
                if apart < away[v, u]:
                    away[v, u], nearest[v, u] = apart, k


@kernel(parallel=True)
def _look_up(places, nearest, found):  # type: ignore[no-untyped-def]
    rows, columns = nearest.shape
    for number in numba.prange(len(places)):
        i = np.int64(number)
        x, y = math.floor(places[i, 0]), math.floor(places[i, 1])
        inside = 0 <= x < columns and 0 <= y < rows
        found[i] = nearest[y, x] if inside else -1


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
