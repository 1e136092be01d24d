"""The grids of a step that paints cells: for whoever paints in them by hand."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.render.errors import RenderError
from mabrel.render.layer import LayerPlan
from mabrel.steps import Piece, Scene, Surroundings
from mabrel.steps.cells.grid import Grid, grids_of
from mabrel.steps.cells.inks import painted_at
from mabrel.steps.cells.laid_cells import inked
from mabrel.steps.cells.settings import Cells
from mabrel.steps.cells.sides import inked_side, kept_sides, side_grids
from mabrel.steps.settings import settings_at
from mabrel.title import Step
from mabrel.title.painted import Side

MOST = 1_000_000  # cells of all grids, in all their parts


class CellGrid(NamedTuple):
    """A grid, in frame pixels from the layer's centre before it is placed; see `Grid`."""

    grid: Grid
    ink: NDArray[np.bool_]
    """(R, C): which cells have any ink, each cut into as many parts as was asked for."""
    painted: int | None
    """Which of the letters that were painted by hand this one is; None where it is none."""
    side: Side | None = None
    """Which side of the body it lies on; None for the face."""
    of: int = 0
    """Which of the grids is that of the face it belongs to."""
    kept: Side | None = None
    """As which side the cells were painted that lie here now."""


def has_cells(step: Step, time: float) -> Cells | None:
    """The settings of a step that paints cells; None for any other."""
    settings = settings_at(step, time)
    return settings if isinstance(settings, Cells) else None


def cell_grids(
    plan: LayerPlan, around: Surroundings, piece: Piece, settings: Cells, divided: int
) -> list[CellGrid]:
    """The grids on a piece that a step is given, their cells `divided` into parts: those of faces,
    and then those of its sides.

    Raises RenderError where these are too many.
    """
    scene = Scene(plan.scale, around)
    grids = [grid.at_most(divided) for grid in grids_of(piece, settings, scene)]
    parts = around.parts()
    sides = [
        side._replace(grid=side.grid.at_most(divided))
        for side in side_grids(grids, parts, settings, scene)
    ]
    every = [*grids, *(side.grid for side in sides)]
    count = sum(grid.columns * grid.rows for grid in every) * divided**2
    if count > MOST:
        raise RenderError(
            f"{count:,} cells are too many to paint in, at most {MOST:,}: make them larger, or "
            "divide them into fewer parts"
        )
    was = {now: letter for letter, now in painted_at(settings.painted, grids).items()}
    faces = [
        CellGrid(
            grid.scaled(1 / plan.scale),
            inked(piece, grid, divided, scene),
            was.get(index),
            of=index,
        )
        for index, grid in enumerate(grids)
    ]
    kept = kept_sides(settings.painted, grids, sides, parts, scene)
    return faces + [
        CellGrid(
            side.grid.scaled(1 / plan.scale),
            inked_side(side, divided),
            *(kept[index][0] if index in kept else None, side.side, side.of),
            kept[index][1] if index in kept else None,
        )
        for index, side in enumerate(sides)
    ]
