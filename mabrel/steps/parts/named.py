"""The shapes of a lettering as parts: each with its letter, where it faces and where it lies."""

import math
from collections import Counter
from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.source.letter_places import LetterPlace
from mabrel.steps.part import NamedPart
from mabrel.steps.parts.solid import ORDER, Shape, Solid, fronts_of


def named_parts(solid: Solid, letters: Sequence[LetterPlace]) -> list[NamedPart]:
    """All parts of a lettering, from what lies beneath to what lies above."""
    shapes = sorted([*solid.parts, *fronts_of(solid)], key=lambda each: ORDER.index(each.kind))
    owners, names = _owners(shapes, letters), letter_names(letters)
    whole = _whole_box(shapes)
    numbers: Counter[tuple[str, str]] = Counter()
    found = []
    for shape, owner in zip(shapes, owners, strict=True):
        letter = None if owner is None else letters[owner]
        name = "" if owner is None else names[owner]
        for part in shapely.get_parts(shape.area):
            if isinstance(part, shapely.Polygon) and (shape.spot or not part.is_empty):
                number = 0 if part.is_empty else numbers[shape.kind, name] + 1
                numbers[shape.kind, name] += not part.is_empty
                place = _place(shape.spot, part, letter, whole)
                named = NamedPart(shape.kind, name, number, part, _facing(shape, letter), place)
                found.append(named._replace(run=shape.run, strip=shape.strip))
    return found


def letter_names(letters: Sequence[LetterPlace]) -> list[str]:
    """Each character and which of them it is, such as ``O2``."""
    seen: Counter[str] = Counter()
    names = []
    for letter in letters:
        seen[letter.character] += 1
        names.append(f"{letter.character}{seen[letter.character]}")
    return names


def _owners(shapes: Sequence[Shape], letters: Sequence[LetterPlace]) -> list[int | None]:
    """The letter of each shape: the one whose middle its anchor is nearest to."""
    if not letters:
        return [None] * len(shapes)
    middles = np.array([_middle(letter) for letter in letters])

    def owner(anchor: tuple[float, float] | None) -> int | None:
        return None if anchor is None else int(np.argmin(np.hypot(*(middles - anchor).T)))

    return [owner(shape.anchor) for shape in shapes]


def _middle(letter: LetterPlace) -> NDArray[np.float64]:
    left, top, right, bottom = letter.box
    middle = np.array([(left + right) / 2, (top + bottom) / 2])
    return np.asarray(np.reshape(letter.turned, (2, 2)) @ middle + np.array(letter.shift))


def _whole_box(shapes: Sequence[Shape]) -> tuple[float, float, float, float]:
    there = [each.area.bounds for each in shapes if not each.area.is_empty]
    if not there:
        return 0.0, 0.0, 1.0, 1.0
    left, top, right, bottom = np.array(there).T
    return float(left.min()), float(top.min()), float(right.max()), float(bottom.max())


def _facing(shape: Shape, letter: LetterPlace | None) -> float | None:
    if shape.facing is None or letter is None:
        return shape.facing
    leaning = math.degrees(math.atan2(letter.turned[2], letter.turned[0]))
    return (shape.facing - leaning) % 360


def _place(
    spot: tuple[float, float] | None,
    part: shapely.Polygon,
    letter: LetterPlace | None,
    whole: tuple[float, float, float, float],
) -> tuple[float, float]:
    middle = np.array(spot or (part.centroid.x, part.centroid.y))
    left, top, right, bottom = whole
    if letter is not None:
        left, top, right, bottom = letter.box
        turned = np.reshape(letter.turned, (2, 2))
        middle = np.linalg.pinv(turned) @ (middle - np.array(letter.shift))
    return (
        float((middle[0] - left) / max(right - left, 1e-6)),
        float((middle[1] - top) / max(bottom - top, 1e-6)),
    )
