"""What is in the cells of a grid: by a pattern, and by hand."""

import difflib
from collections import Counter
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import from_code, over
from mabrel.field import cell_patterns
from mabrel.field.cells import divided
from mabrel.steps.cells.grid import Grid
from mabrel.steps.cells.settings import PARTS, Cells
from mabrel.title.painted import INKS, Painted, Patch

Array = NDArray[np.float32]
Inked = NDArray[np.float32]
"""(R, C, 5): premultiplied colour, its alpha, and height in frame pixels."""
_PLACES = np.array([INKS.find(chr(code)) + 1 for code in range(128)])
"""From what a cell is written as to its ink's place, from 1 on; 0 is none."""


def kept_letters(painted: Painted, letters: Sequence[str]) -> dict[int, int]:
    """Which letter that is there each painted one is now: those that match in a row, then those
    that are the same wherever they stand. A letter that is gone has no entry."""
    was, now = list(painted.words), list(letters)
    match = difflib.SequenceMatcher(None, was, now, autojunk=False)
    found = {
        block.a + step: block.b + step
        for block in match.get_matching_blocks()
        for step in range(block.size)
    }
    taken = set(found.values())
    for index, letter in enumerate(was):
        free = (at for at, each in enumerate(now) if each == letter and at not in taken)
        if index not in found and (at := next(free, None)) is not None:
            found[index] = at
            taken.add(at)
    return found


def painted_at(painted: Painted, grids: Sequence[Grid]) -> dict[int, int]:
    """On which grid each painted letter lies now. What was painted on a grid over all of them is
    not shown on one for each, nor the other way round."""
    letters = [grid.letter for grid in grids]
    if any(letters) != bool(painted.words):
        return {}
    return kept_letters(painted, letters) if painted.words else {0: 0}


def patches_on(painted: Painted, grids: Sequence[Grid]) -> dict[int, list[Patch]]:
    """The cells painted on the face of each grid, by its place among them."""
    now = painted_at(painted, grids)
    found: dict[int, list[Patch]] = {}
    for patch in painted.letters:
        if patch.letter in now and not patch.side:
            found.setdefault(now[patch.letter], []).append(patch)
    return found


def fineness(settings: Cells, patches: Sequence[Patch]) -> int:
    """Into how many parts the side of a cell is cut so that everything in it is whole parts."""
    own = PARTS[settings.divided] if settings.pattern != "none" else 1
    return max([own, *(patch.divided for patch in patches)])


def draws_of(grids: Sequence[Grid], seed: int) -> list[np.random.Generator]:
    """A source of chance for each grid: the first A of any words always draws the same."""
    seen: Counter[str] = Counter()
    found = []
    for grid in grids:
        code = [ord(each) for each in grid.letter]
        found.append(np.random.default_rng([seed, seen[grid.letter], *code]))
        seen[grid.letter] += 1
    return found


def patterned(
    ink: NDArray[np.bool_],
    settings: Cells,
    light: tuple[float, float],
    draw: np.random.Generator,
) -> Inked:
    """What the pattern paints in cells that have `ink` ((R, C))."""
    marks = _marks(ink, settings, light, draw)
    inks = [
        np.zeros(5, np.float32),
        _inked(settings.colour, settings.rise),
        _inked(settings.second, settings.second_rise),
    ]
    return np.stack(inks)[marks]


def _marks(
    ink: NDArray[np.bool_],
    settings: Cells,
    light: tuple[float, float],
    draw: np.random.Generator,
) -> NDArray[np.int8]:
    reach, amount = settings.reach, settings.amount
    match settings.pattern:
        case "edges":
            return cell_patterns.edges(ink, light, reach)
        case "lit":
            return (cell_patterns.towards(ink, light, reach) > 0).astype(np.int8)
        case "shaded":
            away = (-light[0], -light[1])
            return np.where(cell_patterns.towards(ink, away, reach) > 0, 2, 0).astype(np.int8)
        case "cracks":
            return cell_patterns.cracks(ink, reach, amount, draw)
        case "corners":
            return cell_patterns.corners(ink, reach, amount, draw)
        case "dither":
            return cell_patterns.dither(ink, light, amount)
        case "noise":
            return cell_patterns.noise(ink, amount, draw)
    return np.zeros(ink.shape, np.int8)


def _inked(code: str, height: float) -> Array:
    *colour, alpha = from_code(code)
    return np.array([*(channel * alpha for channel in colour), alpha, height], np.float32)


def with_patch(cells: Inked, patch: Patch, painted: Painted, grid: Grid, fine: int) -> Inked:
    """Cells of a grid, each cut into `fine` parts, with what was painted by hand over them."""
    known = np.stack(
        [np.zeros(5, np.float32), *(_inked(ink.colour, ink.height) for ink in painted.inks)]
    )
    written = np.frombuffer("".join(patch.rows).encode(), np.uint8).reshape(len(patch.rows), -1)
    if not written.size:
        return cells
    parts = fine // patch.divided
    inks = divided(known[_PLACES[written]], parts)
    row, column = patch.top * parts - grid.top * fine, patch.left * parts - grid.left * fine
    rows, columns = cells.shape[:2]
    first_row, first_column = max(row, 0), max(column, 0)
    last_row = min(row + inks.shape[0], rows)
    last_column = min(column + inks.shape[1], columns)
    if first_row >= last_row or first_column >= last_column:
        return cells
    there = np.s_[first_row:last_row, first_column:last_column]
    laid = inks[first_row - row : last_row - row, first_column - column : last_column - column]
    out = cells.copy()
    out[there][..., :4] = over(cells[there][..., :4], np.ascontiguousarray(laid[..., :4]))
    painted_there = laid[..., 3] > 0
    out[there][..., 4] = np.where(painted_there, laid[..., 4], cells[there][..., 4])
    return out
