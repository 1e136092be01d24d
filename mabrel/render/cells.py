"""The grids of a step that paints cells: for whoever paints in them by hand."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.render.errors import RenderError
from mabrel.render.layer import LayerPlan
from mabrel.steps import Piece, Scene, Surroundings
from mabrel.steps.cells.grid import Grid, grids_of
from mabrel.steps.cells.inks import painted_at
from mabrel.steps.cells.laying import inked
from mabrel.steps.cells.settings import Cells
from mabrel.steps.settings import settings_at
from mabrel.title import Step

MOST = 1_000_000  # cells of all grids, in all their parts


class CellGrid(NamedTuple):
    """A grid, in frame pixels from the layer's centre before it is placed; see `Grid`."""

    grid: Grid
    ink: NDArray[np.bool_]
    """(R, C): which cells have any ink, each cut into as many parts as was asked for."""
    painted: int | None
    """Which of the letters that were painted by hand this one is; None where it is none."""


def has_cells(step: Step, time: float) -> Cells | None:
    """The settings of a step that paints cells; None for any other."""
    settings = settings_at(step, time)
    return settings if isinstance(settings, Cells) else None


def cell_grids(
    plan: LayerPlan, around: Surroundings, piece: Piece, settings: Cells, divided: int
) -> list[CellGrid]:
    """The grids on a piece that a step is given, their cells `divided` into parts.

    Raises RenderError where these are too many.
    """
    scene = Scene(plan.scale, around)
    grids = [grid.at_most(divided) for grid in grids_of(piece, settings, scene)]
    count = sum(grid.columns * grid.rows for grid in grids) * divided**2
    if count > MOST:
        raise RenderError(
            f"{count:,} cells are too many to paint in, at most {MOST:,}: make them larger, or "
            "divide them into fewer parts"
        )
    was = {now: letter for letter, now in painted_at(settings.painted, grids).items()}
    return [
        CellGrid(grid.scaled(1 / plan.scale), inked(piece, grid, divided, scene), was.get(index))
        for index, grid in enumerate(grids)
    ]
