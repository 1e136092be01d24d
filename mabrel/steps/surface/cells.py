"""Cells: a grid laid on the letters, painted by itself and by hand."""

import numpy as np

from mabrel.field import gaussian_blur
from mabrel.steps.cells.laid_cells import LIT, laid_cells, light_of
from mabrel.steps.cells.settings import Cells
from mabrel.steps.cells.sides import has_sides, sides_painted
from mabrel.steps.faces.painting import paint_colours
from mabrel.steps.kind import step
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene

_SLOPE = 4.0  # standard deviations of a blur that a slope is wide


def _asks(settings: Cells, scene: Scene) -> None:
    if settings.fit == "letters":
        _ = scene.letters
    if settings.pattern in LIT:
        light_of(scene)
    if has_sides(settings):
        _ = scene.parts


@step(
    "surface.cells",
    "Cells",
    words="pixel, pixels, mosaic, grid, blocks, squares, 8-bit, studs, dither, retro",
    reads=("matte", "face", "height", "behind"),
    writes=("face", "height", "behind"),
    asks=_asks,
)
def cells(piece: Piece, settings: Cells, scene: Scene) -> Piece:
    """Lay a grid of cells on the letters, and paint in it: edges in the light and in the shade,
    cracks, worn corners, dither, and cells painted by hand in the proof, on the face and on the
    sides that it was given before."""
    laid = laid_cells(piece, settings, scene)
    done = paint_colours(piece, settings.blend, laid.colours * np.float32(settings.opacity))
    behind = sides_painted(piece, settings, scene)
    if behind is not None:
        done = done.behind_repainted(behind)
    if not laid.heights.any():
        return done
    heights = laid.heights * np.float32(scene.scale)
    width = settings.softness * scene.scale / _SLOPE
    if width > 0:
        heights = gaussian_blur(heights, width)
    return done.with_height(piece.height + heights)
