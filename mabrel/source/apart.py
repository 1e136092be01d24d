"""Words whose letters, words or lines stand where they have moved to, each by itself."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.source.flatten import Lines
from mabrel.source.lettering import Outline
from mabrel.source.uniting import united

Matrix = NDArray[np.float64]
Place = NDArray[np.float64]


class Move(NamedTuple):
    """How a part stands away from where it is set: pixels, degrees clockwise, and shares."""

    x: float = 0.0
    y: float = 0.0
    turn: float = 0.0
    scale: float = 1.0
    opacity: float = 1.0


class Layer(NamedTuple):
    """Parts that are there to the same share."""

    opacity: float
    lines: Lines


def parts_of(outline: Outline, by: str) -> list[Lines]:
    """The outlines of each part that moves by itself, in reading order; blanks are none."""
    found: dict[tuple[int, int], list[Lines]] = {}
    for letter in outline.letters:
        line, word, place = letter.part
        within = {"letter": place, "word": word, "line": 0}[by]
        if len(lines := letter.lines()):
            found.setdefault((line, within), []).append(lines)
    return [united(found[key]) for key in sorted(found)]


def moved_apart(parts: Sequence[Lines], moves: Sequence[Move], about: str) -> list[Layer]:
    """Each part where its move puts it, turned and scaled about the middle of its foot, of itself
    or of its top (`about`). What is not there at all is left out."""
    layers: dict[float, list[Lines]] = {}
    for lines, move in zip(parts, moves, strict=True):
        if move.opacity > 0 and move.scale > 0:
            layers.setdefault(move.opacity, []).append(_placed(lines, move, about))
    return [Layer(opacity, united(lines)) for opacity, lines in sorted(layers.items())]


def _placed(lines: Lines, move: Move, about: str) -> Lines:
    points = lines.reshape(-1, 2)
    turned, shift = placing(points.min(axis=0), points.max(axis=0), move, about)
    placed: Lines = (points @ turned.T + shift).reshape(-1, 4)
    return placed


def placing(low: Place, high: Place, move: Move, about: str) -> tuple[Matrix, Place]:
    """How a move turns (2 × 2) and shifts what reaches from `low` to `high`, x and y."""
    down = {"foot": high[1], "middle": (low[1] + high[1]) / 2, "top": low[1]}[about]
    middle = np.array([(low[0] + high[0]) / 2, down])
    turn = math.radians(move.turn)
    cos, sin = math.cos(turn) * move.scale, math.sin(turn) * move.scale
    turned = np.array([[cos, -sin], [sin, cos]])
    return turned, middle + np.array([move.x, move.y]) - turned @ middle
