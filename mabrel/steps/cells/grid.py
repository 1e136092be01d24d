"""The grids on which cells lie: one for each letter, or one for all."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from mabrel.source.letter_places import LetterPlace
from mabrel.steps.cells.settings import Cells
from mabrel.steps.extent import Extent
from mabrel.steps.scene import Scene

MOST = 2048
"""Parts of cells along a side of a grid: what lies beyond is not painted."""
_DEFAULT = 24.0  # frame pixels that a cell has where nothing says how large it is
_SAME = 0.02  # of a cell that ink may reach into the next one and still end at the grid


@dataclass(frozen=True)
class Grid:
    """Where cells lie, in render pixels from the layer's centre.

    Cell (column, row) has its upper left corner at `corner` + (column · across, row · down) as the
    letter is set; `turned`, `shift` and `vanish` bring that to where the letter is: a place p to
    (`turned` · p + `shift`) / (1 + `vanish` · p). Cells with ink are columns `left` to
    `left + columns`, rows `top` to `top + rows`.
    """

    letter: str
    """The character; "" for a grid that lies on all of them."""
    corner: tuple[float, float]
    across: float
    down: float
    left: int
    top: int
    columns: int
    rows: int
    turned: tuple[float, float, float, float] = (1.0, 0.0, 0.0, 1.0)
    shift: tuple[float, float] = (0.0, 0.0)
    vanish: tuple[float, float] = (0.0, 0.0)

    def at_most(self, fine: int) -> "Grid":
        """As much of it as may be painted, each cell cut into `fine` parts."""
        most = MOST // fine
        return replace(self, columns=min(self.columns, most), rows=min(self.rows, most))

    @property
    def level(self) -> bool:
        """Whether its cells lie along the pixels' axes."""
        a, b, c, d = self.turned
        return abs(b) < 1e-9 and abs(c) < 1e-9 and a > 0 and d > 0 and not any(self.vanish)

    def settled(self) -> "Grid":
        """The same grid, if `level`, as one that has not moved."""
        a, _, _, d = self.turned
        x, y = self.shift
        corner = (self.corner[0] * a + x, self.corner[1] * d + y)
        level, stays = (1.0, 0.0, 0.0, 1.0), (0.0, 0.0)
        return replace(
            self,
            corner=corner,
            across=self.across * a,
            down=self.down * d,
            turned=level,
            shift=stays,
        )

    def scaled(self, factor: float) -> "Grid":
        """The same grid in other pixels."""
        return replace(
            self,
            corner=(self.corner[0] * factor, self.corner[1] * factor),
            across=self.across * factor,
            down=self.down * factor,
            shift=(self.shift[0] * factor, self.shift[1] * factor),
            vanish=(self.vanish[0] / factor, self.vanish[1] / factor),
        )

    def cells_at(self, x: NDArray[np.float64], y: NDArray[np.float64]) -> NDArray[np.float64]:
        """Columns and rows (2, ...), with fractions, of places on the card."""
        (a, b, c, d), (g, h) = self.turned, self.vanish
        right_x, down_x, right_y, down_y = a - x * g, b - x * h, c - y * g, d - y * h
        u, v = x - self.shift[0], y - self.shift[1]
        whole = right_x * down_y - down_x * right_y
        set_x, set_y = (down_y * u - down_x * v) / whole, (right_x * v - right_y * u) / whole
        return np.stack(
            [(set_x - self.corner[0]) / self.across, (set_y - self.corner[1]) / self.down]
        )

    def places_of(self, cells: NDArray[np.float64]) -> NDArray[np.float64]:
        """Places (N, 2) on the card of columns and rows ((N, 2), with fractions)."""
        at = np.array(self.corner) + cells * np.array([self.across, self.down])
        moved = at @ np.reshape(self.turned, (2, 2)).T + np.array(self.shift)
        return np.asarray(moved / (1 + at @ np.array(self.vanish))[:, None])


def grids_of(piece: Extent, settings: Cells, scene: Scene) -> list[Grid]:
    """The grids of a piece: for each letter where they fit letters, else one over all its ink."""
    letters = scene.letters if settings.fit == "letters" else ()
    if letters:
        return [_of_letter(place, settings, scene.scale) for place in letters]
    return [_over_all(piece, settings, scene.scale)]


def _of_letter(place: LetterPlace, settings: Cells, scale: float) -> Grid:
    across, down = place.cell
    if settings.width > 0:
        across = settings.width * scale
    if settings.height > 0:
        down = settings.height * scale
    corner = (
        place.corner[0] + settings.origin[0] * scale,
        place.corner[1] + settings.origin[1] * scale,
    )
    left, columns = cells_between(place.box[0], place.box[2], corner[0], across)
    top, rows = cells_between(place.box[1], place.box[3], corner[1], down)
    return Grid(
        place.character, corner, across, down, left, top, columns, rows, place.turned, place.shift
    )


def _over_all(piece: Extent, settings: Cells, scale: float) -> Grid:
    left, top, right, bottom = piece.box
    wide, high = max(right - left, 1e-3), max(bottom - top, 1e-3)
    if settings.fit == "box":
        across, down = wide / settings.columns, high / settings.rows
    else:
        across = (settings.width or settings.height or _DEFAULT) * scale
        down = (settings.height or settings.width or _DEFAULT) * scale
    corner = (left + settings.origin[0] * scale, top + settings.origin[1] * scale)
    first, columns = cells_between(left, right, corner[0], across)
    row, rows = cells_between(top, bottom, corner[1], down)
    return Grid("", corner, across, down, first, row, columns, rows)


def cells_between(low: float, high: float, corner: float, size: float) -> tuple[int, int]:
    """The first cell that ink from `low` to `high` lies in, and how many, along an axis."""
    first = math.floor((low - corner) / size + _SAME)
    last = math.ceil((high - corner) / size - _SAME)
    return first, min(max(last - first, 1), MOST)
