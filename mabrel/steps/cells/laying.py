"""Cells laid on a piece: their colours and heights, pixel by pixel."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import over
from mabrel.field.cells import divided, laid_out, overlaps, shares
from mabrel.field.fill import fill
from mabrel.steps.cells.grid import Grid, grids_of
from mabrel.steps.cells.inks import (
    Inked,
    draws_of,
    fineness,
    patches_on,
    patterned,
    with_patch,
)
from mabrel.steps.cells.settings import PARTS, Cells
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene

TOUCHED = 0.02
"""The share of a cell that ink covers at least, for the cell to have any."""
_SAMPLES = 4  # along each side of a pixel, for cells that lie aslant
_BESIDE = 2  # pixels around a letter that are painted too


@dataclass(frozen=True)
class Laid:
    """What cells paint on a piece."""

    colours: Array
    """(H, W, 4), premultiplied."""
    heights: Array
    """(H, W), frame pixels."""


def laid_cells(piece: Piece, settings: Cells, scene: Scene) -> Laid:
    """All cells of a piece, over its region."""
    grids = grids_of(piece, settings, scene)
    patches = patches_on(settings.painted, grids)
    draws = draws_of(grids, settings.seed)
    light = light_of(scene) if settings.pattern in LIT else (0.0, -1.0)
    colours, heights = np.zeros_like(piece.face), np.zeros_like(piece.matte)
    for index, whole in enumerate(grids):
        scene.pause()
        own = patches.get(index, [])
        fine = fineness(settings, own)
        grid = whole.at_most(fine)
        window = _window(piece.region, grid)
        if not window.area:
            continue
        weights = _weights(grid, window, fine, settings.gap)
        ink = inked(piece, grid, fine, scene)
        cells = np.zeros((*ink.shape, 5), np.float32)
        if settings.pattern != "none":
            cells = _pattern(grid, ink, fine, settings, light, draws[index])
        for patch in own:
            cells = with_patch(cells, patch, settings.painted, grid, fine)
        there = window.within(piece.region)
        found = weights.laid(cells, ink)
        colours[there] = over(colours[there], np.ascontiguousarray(found[..., :4]))
        heights[there] += found[..., 4]
    return Laid(colours, heights)


def inked(piece: Piece, grid: Grid, fine: int, scene: Scene) -> NDArray[np.bool_]:
    """(R, C): which cells of a grid have ink, each cut into `fine` times `fine` parts."""
    rows, columns = grid.rows * fine, grid.columns * fine
    if scene.fills_frame:  # of which only a part may be here
        return np.ones((rows, columns), np.bool_)
    if piece.outline is not None:
        region = Region(grid.left * fine, grid.top * fine, columns, rows)
        ends = piece.outline.reshape(-1, 2).T
        lines = np.ascontiguousarray((grid.cells_at(*ends) * fine).T).reshape(-1, 4)
        return np.asarray(fill(lines, region) > TOUCHED, np.bool_)
    window = _window(piece.region, grid)
    if not window.area:
        return np.zeros((rows, columns), np.bool_)
    found = _weights(grid, window, fine, 0.0).shares(piece.matte[window.within(piece.region)])
    # A pixel on the edge of the ink counts for the cells on both of its sides.
    leaked = 0.3 * fine / min(grid.across, grid.down)
    return np.asarray(found > min(max(TOUCHED, leaked), 0.5), np.bool_)


LIT = ("edges", "lit", "shaded", "dither")
"""Patterns that look where the light comes from."""


def light_of(scene: Scene) -> tuple[float, float]:
    """Where the key light comes from, on the card: from above where it stands right before it."""
    key = scene.key
    x, y, _ = (0.0, -1.0, 0.0) if key is None else key.direction
    return (x, y) if np.hypot(x, y) > 1e-6 else (0.0, -1.0)


def _pattern(
    grid: Grid,
    ink: np.ndarray,
    fine: int,
    settings: Cells,
    light: tuple[float, float],
    draw: np.random.Generator,
) -> Inked:
    """What the pattern paints, in its own fineness, cut as fine as all of the grid is."""
    parts = fine // PARTS[settings.divided]
    rows, columns = ink.shape[0] // parts, ink.shape[1] // parts
    own = np.asarray(ink.reshape(rows, parts, columns, parts).any(axis=(1, 3)), np.bool_)
    return divided(patterned(own, settings, light, draw), parts)


def _window(region: Region, grid: Grid) -> Region:
    """The pixels that a grid's cells may lie on."""
    a, b, c, d = grid.turned
    x = grid.corner[0] + grid.across * np.array([grid.left, grid.left + grid.columns])
    y = grid.corner[1] + grid.down * np.array([grid.top, grid.top + grid.rows])
    corners = np.array([(u, v) for u in x for v in y])
    placed = corners @ np.array([[a, c], [b, d]]) + np.array(grid.shift)
    low = np.floor(placed.min(axis=0)).astype(int) - _BESIDE
    high = np.ceil(placed.max(axis=0)).astype(int) + _BESIDE
    size = high - low
    return Region(int(low[0]), int(low[1]), int(size[0]), int(size[1])).common(region)


def _weights(grid: Grid, window: Region, fine: int, gap: float) -> "_Level | _Aslant":
    """What each pixel of a window has of each cell of a grid."""
    if grid.level:
        return _Level(grid.settled(), window, fine, gap)
    return _Aslant(grid, window, fine, gap)


class _Level:
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

    def laid(self, cells: Inked, ink: np.ndarray) -> Array:
        """(H, W, 5): where a pixel lies on the edge of the ink, that of cells with ink alone."""
        there = ink.astype(np.float32)
        whole = laid_out(self._down, self._across, there)
        found = laid_out(self._inside[1], self._inside[0], cells * there[..., None])
        return np.asarray(found / np.maximum(whole, np.float32(1e-6))[..., None], np.float32)


class _Aslant:
    """Cells of a letter that is turned: by samples in each pixel."""

    def __init__(self, grid: Grid, window: Region, fine: int, gap: float) -> None:
        steps = (np.arange(_SAMPLES) + 0.5) / _SAMPLES
        x = window.left + (np.arange(window.width)[:, None] + steps).ravel()
        y = window.top + (np.arange(window.height)[:, None] + steps).ravel()
        column, row = grid.cells_at(x[None, :], y[:, None]) * fine
        column, row = column - grid.left * fine, row - grid.top * fine
        self._shape = grid.rows * fine, grid.columns * fine
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

    def laid(self, cells: Inked, ink: np.ndarray) -> Array:
        there = np.append(ink.ravel(), False).astype(np.float32)
        values = np.concatenate([cells.reshape(-1, 5), np.zeros((1, 5), np.float32)])
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
