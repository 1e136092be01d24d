"""Cells laid on a piece: their colours and heights, pixel by pixel."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import over
from mabrel.field.cells import divided
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
from mabrel.steps.cells.pixels import weights_of, window_of
from mabrel.steps.cells.settings import PARTS, Cells
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene

TOUCHED = 0.02
"""The share of a cell that ink covers at least, for the cell to have any."""


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
        window = window_of(piece.region, grid)
        if not window.area:
            continue
        weights = weights_of(grid, window, fine, settings.gap)
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
    window = window_of(piece.region, grid)
    if not window.area:
        return np.zeros((rows, columns), np.bool_)
    found = weights_of(grid, window, fine, 0.0).shares(piece.matte[window.within(piece.region)])
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
