"""Cells of a grid in the pixels of a window."""

from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from mabrel.field.cells import laid_out, overlaps, shares
from mabrel.steps.cells.grid import Grid
from mabrel.steps.piece import Array
from mabrel.steps.region import Region

_SAMPLES = 4  # along each side of a pixel, for cells that lie aslant
_BESIDE = 2  # pixels around a grid that are painted too


def window_of(region: Region, grid: Grid) -> Region:
    """The pixels that a grid's cells may lie on."""
    x, y = (grid.left, grid.left + grid.columns), (grid.top, grid.top + grid.rows)
    placed = grid.places_of(np.array([(u, v) for u in x for v in y], np.float64))
    low = np.floor(placed.min(axis=0)).astype(int) - _BESIDE
    high = np.ceil(placed.max(axis=0)).astype(int) + _BESIDE
    size = high - low
    return Region(int(low[0]), int(low[1]), int(size[0]), int(size[1])).common(region)


class Weights(Protocol):
    """What each pixel of a window has of each cell of a grid."""

    def shares(self, matte: Array) -> Array:
        """(R, C), 0..1: what of each cell a matte (H, W) covers."""

    def laid(self, cells: Array, ink: NDArray[np.bool_]) -> Array:
        """(H, W, N), of cells (R, C, N) that have `ink` (R, C): where a pixel lies on the edge of
        the ink, that of cells with ink alone."""


def weights_of(grid: Grid, window: Region, fine: int, gap: float, runs_on: bool = False) -> Weights:
    """For a grid each of whose cells is cut into `fine` times `fine` parts, with a `gap` around
    them; where it `runs_on`, its outermost cells go on for ever."""
    if grid.level and not runs_on:
        return Level(grid.settled(), window, fine, gap)
    return Aslant(grid, window, fine, gap, runs_on)


class Level:
    """Cells along the pixels' axes: exact."""

    def __init__(self, grid: Grid, window: Region, fine: int, gap: float) -> None:
        x, y = grid.corner
        across, down = grid.across / fine, grid.down / fine
        along = (x, across, grid.left * fine, grid.columns * fine)
        upright = (y, down, grid.top * fine, grid.rows * fine)
        self._across = overlaps(window.left, window.width, *along)
        self._down = overlaps(window.top, window.height, *upright)
        self._inside = (
            (self._across, self._down)
            if gap == 0
            else (
                overlaps(window.left, window.width, *along, gap),
                overlaps(window.top, window.height, *upright, gap),
            )
        )

    def shares(self, matte: Array) -> Array:
        return shares(self._down, self._across, matte)

    def laid(self, cells: Array, ink: NDArray[np.bool_]) -> Array:
        there = ink.astype(np.float32)
        whole = laid_out(self._down, self._across, there)
        found = laid_out(self._inside[1], self._inside[0], cells * there[..., None])
        return np.asarray(found / np.maximum(whole, np.float32(1e-6))[..., None], np.float32)


class Aslant:
    """Cells that are turned, or seen from aslant: by samples in each pixel."""

    def __init__(
        self, grid: Grid, window: Region, fine: int, gap: float, runs_on: bool = False
    ) -> None:
        steps = (np.arange(_SAMPLES) + 0.5) / _SAMPLES
        x = window.left + (np.arange(window.width)[:, None] + steps).ravel()
        y = window.top + (np.arange(window.height)[:, None] + steps).ravel()
        column, row = grid.cells_at(x[None, :], y[:, None]) * fine
        column, row = column - grid.left * fine, row - grid.top * fine
        self._shape = grid.rows * fine, grid.columns * fine
        if runs_on:
            row = np.clip(row, 0, self._shape[0] - 1e-6)
            column = np.clip(column, 0, self._shape[1] - 1e-6)
        inside = (column >= 0) & (row >= 0)
        inside &= (column < self._shape[1]) & (row < self._shape[0])
        whole_row, whole_column = np.floor(row).astype(int), np.floor(column).astype(int)
        index = whole_row * self._shape[1] + whole_column
        self._index = np.where(inside, index, self._shape[0] * self._shape[1])
        off = np.maximum(abs(column - whole_column - 0.5), abs(row - whole_row - 0.5))
        self._free = off > (1 - gap) / 2 if gap > 0 else None

    def shares(self, matte: Array) -> Array:
        fine = np.repeat(np.repeat(matte, _SAMPLES, axis=0), _SAMPLES, axis=1)
        cells = self._shape[0] * self._shape[1]
        count = np.bincount(self._index.ravel(), minlength=cells + 1)[:cells]
        total = np.bincount(self._index.ravel(), fine.ravel(), cells + 1)[:cells]
        return (total / np.maximum(count, 1)).reshape(self._shape).astype(np.float32)

    def laid(self, cells: Array, ink: NDArray[np.bool_]) -> Array:
        there = np.append(ink.ravel(), False).astype(np.float32)
        planes = cells.shape[-1]
        values = np.concatenate([cells.reshape(-1, planes), np.zeros((1, planes), np.float32)])
        weight = there[self._index]
        found = (values * there[:, None])[self._index]
        if self._free is not None:
            found[self._free] = 0
        whole = _mean(weight)
        return np.asarray(_mean(found) / np.maximum(whole, np.float32(1e-6))[..., None], np.float32)


def _mean(samples: np.ndarray) -> Array:
    """Over the samples of each pixel."""
    rows, columns = samples.shape[0] // _SAMPLES, samples.shape[1] // _SAMPLES
    cut = samples.reshape(rows, _SAMPLES, columns, _SAMPLES, *samples.shape[2:])
    return np.asarray(cut.mean(axis=(1, 3)), np.float32)
