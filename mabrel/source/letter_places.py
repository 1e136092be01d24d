"""Where each letter of words stands, and the grid of cells that it is built of."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from mabrel.source.apart import Matrix, Move, Place, placing
from mabrel.source.cell_unit import cell_unit
from mabrel.source.lettering import Letter, Outline

_CELLS = 10  # in the height of a capital, where a font has no unit of its own


class LetterPlace(NamedTuple):
    """A letter as it is set, in pixels from the centre of all ink, and what then moved it."""

    character: str
    box: tuple[float, float, float, float]
    """Left, top, right, bottom of its ink."""
    cell: tuple[float, float]
    """Width and height of a cell: of the font's own unit, or a tenth of a capital's height."""
    corner: tuple[float, float]
    """Where the grid begins: at the left of its ink, on its baseline."""
    turned: tuple[float, float, float, float] = (1.0, 0.0, 0.0, 1.0)
    """2 × 2, row by row, and `shift`: from where it is set to where it is."""
    shift: tuple[float, float] = (0.0, 0.0)


def letter_places(outline: Outline) -> list[LetterPlace]:
    """The letters that have ink, in reading order; what is set together counts as one."""
    return [place for _, place in _places(outline)]


def moved_places(outline: Outline, by: str, about: str, moves: Sequence[Move]) -> list[LetterPlace]:
    """The same where each letter, word or line (`by`) has moved; see `apart.moved_apart`."""
    found = _places(outline)
    groups: dict[tuple[int, int], list[int]] = {}
    for index, ((line, word, letter), _) in enumerate(found):
        within = {"letter": letter, "word": word, "line": 0}[by]
        groups.setdefault((line, within), []).append(index)
    done = [place for _, place in found]
    for key, move in zip(sorted(groups), moves, strict=True):
        boxes = np.array([_box(found[index][1]) for index in groups[key]])
        turned, shift = placing(boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0), move, about)
        for index in groups[key]:
            done[index] = _moved(done[index], turned, shift)
    return done


def _box(place: LetterPlace) -> tuple[float, float, float, float]:
    """Of its ink as it is set, along a line too."""
    left, top, right, bottom = place.box
    corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    there = corners @ np.reshape(place.turned, (2, 2)).T + np.array(place.shift)
    (x0, y0), (x1, y1) = there.min(axis=0).tolist(), there.max(axis=0).tolist()
    return x0, y0, x1, y1


def _moved(place: LetterPlace, turned: Matrix, shift: Place) -> LetterPlace:
    whole = turned @ np.reshape(place.turned, (2, 2))
    a, b, c, d = whole.ravel().tolist()
    x, y = (turned @ np.array(place.shift) + shift).tolist()
    return place._replace(turned=(a, b, c, d), shift=(x, y))


def _places(outline: Outline) -> list[tuple[tuple[int, int, int], LetterPlace]]:
    groups: dict[tuple[int, int], list[Letter]] = {}
    for letter in outline.letters:
        line, _, place = letter.part
        groups.setdefault((line, place), []).append(letter)
    made = [(groups[key][0].part, _place(groups[key])) for key in sorted(groups)]
    return [(part, place) for part, place in made if place is not None]


def _place(letters: Sequence[Letter]) -> LetterPlace | None:
    lines = np.concatenate([each.upright_lines() for each in letters])
    if not len(lines):
        return None
    points = lines.reshape(-1, 2)
    (left, top), (right, bottom) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
    first = letters[0]
    box = (left, top, right, bottom)
    return _turned(LetterPlace(first.character, box, *_grid(first, left)), first)


def _grid(first: Letter, left: float) -> tuple[tuple[float, float], tuple[float, float]]:
    """The size of its cells, and where they begin."""
    unit, scale = cell_unit(first.face), first.scale
    if unit is None:
        side = first.face.letter_height * scale / _CELLS
        return (side, side), (left, first.y)
    across, down = unit.across * scale, unit.down * scale
    x, y = first.x + unit.x * scale, first.y + unit.y * scale
    x += np.floor((left - x) / across + 0.01) * across
    y += np.round((first.y - y) / down) * down
    return (across, down), (float(x), float(y))


def _turned(place: LetterPlace, letter: Letter) -> LetterPlace:
    """Where a letter that is set along a line stands: turned about where its baseline begins."""
    if not letter.turn:
        return place
    turn = math.radians(letter.turn)
    cos, sin = math.cos(turn), math.sin(turn)
    x, y = letter.x, letter.y
    shift = (x - cos * x + sin * y, y - sin * x - cos * y)
    return place._replace(turned=(cos, -sin, sin, cos), shift=shift)
