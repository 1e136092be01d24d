"""Whether the word can still be read: counters open, letters apart, each in one piece."""

from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.reading.flat import Flat
from mabrel.reading.said import Reading, label_of
from mabrel.steps import kind_of
from mabrel.title import Step

_SMALLEST = 9  # pixels that a hole or a piece must have to count


class Form(NamedTuple):
    """How many pieces a shape has, and how many counters (holes) are in them."""

    pieces: int
    counters: int


def form_of(coverage: NDArray[np.float32]) -> Form:
    """Count pieces (joined also at corners) and counters of what is covered by half or more."""
    ink = np.pad((coverage >= 0.5).astype(np.uint8), 1)
    return Form(_count(ink, 8), _count(1 - ink, 4) - 1)


def _count(mask: NDArray[np.uint8], neighbours: int) -> int:
    _, _, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=neighbours)
    return int(np.sum(stats[1:, cv2.CC_STAT_AREA] >= _SMALLEST))


def legibility_readings(flat: Flat) -> list[Reading]:
    """What the build did to the form of the letters, by the step that did it."""
    changing = [step for step in flat.layer.build if step.on and _changes_form(step)]
    if not changing:
        return []
    before = form_of(flat.matte(flat.layer.build[0].id))
    found = []
    for step in changing:
        after = form_of(flat.after(step))
        found += [
            Reading("legibility", text, True, flat.layer.id, step.id)
            for text in _lost(label_of(step), before, after)
        ]
        before = after
    return found


def _changes_form(step: Step) -> bool:
    """Ornaments are meant to; all else that writes the matte should leave the letters whole."""
    return "matte" in kind_of(step.step).writes and step.step != "shape.ornament"


def _lost(label: str, before: Form, after: Form) -> list[str]:
    if after.pieces == 0 < before.pieces:
        return [f"{label} leaves nothing of the lettering."]
    said = []
    if after.counters < before.counters:
        filled = before.counters - after.counters
        counters = "counter" if before.counters == 1 else "counters"
        said.append(f"{label} fills {filled} of {before.counters} {counters}.")
    if after.pieces < before.pieces:
        said.append(f"{label} closes gaps: {before.pieces} pieces run into {after.pieces}.")
    elif after.pieces > before.pieces:
        said.append(f"{label} breaks the lettering: {before.pieces} pieces become {after.pieces}.")
    return said
