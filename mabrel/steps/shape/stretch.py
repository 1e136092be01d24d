"""One band of the letters made longer."""

from typing import Literal

import numpy as np

from mabrel.steps.extent import Bound, Extent
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.warping import WRITES, Map, bound_of, room_for, warped
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_KNOTS = 33


class Stretch(StepSettings):
    along: Literal["down", "across"] = kinds.choice("down", "In height or in width.")
    start: float = kinds.fraction(0.45, "Where the band begins, from the top or from the left.")
    end: float = kinds.fraction(0.65, "Where it ends.")
    amount: float = kinds.length(70, -2000, 4000, "How much longer the band gets.")
    blend: float = kinds.fraction(0.3, "From a hard joint to one that eases in over the band.")


def _room(piece: Extent, settings: Stretch, scene: Scene) -> Margin:
    return room_for(piece.box, _maps(piece.box, settings, scene)[0])


def _after(bound: Bound, room: Margin, settings: Stretch, scene: Scene) -> Bound:
    return bound_of(bound, room, _maps(bound.box, settings, scene)[0])


@step(
    "shape.stretch",
    "Stretch",
    words="longer, taller, elongate, stems, tall letters",
    reads=("matte", "face"),
    writes=WRITES,
    room=_room,
    after=_after,
)
def stretch(piece: Piece, settings: Stretch, scene: Scene) -> Piece:
    """Make one band of the letters longer, such as their stems, and leave the rest as it is."""
    forward, inverse = _maps(piece.box, settings, scene)
    return warped(piece, forward, inverse)


def _maps(
    box: tuple[float, float, float, float], settings: Stretch, scene: Scene
) -> tuple[Map, Map]:
    """A monotone, piecewise linear map along one axis, so its inverse is one too."""
    down = settings.along == "down"
    low, high = (box[1], box[3]) if down else (box[0], box[2])
    length = max(high - low, 1.0)
    start, end = sorted((settings.start, settings.end))
    end = max(end, start + 0.005)
    more = max(settings.amount * scene.scale, -0.9 * (end - start) * length)
    share = np.linspace(0, 1, _KNOTS)
    before = low + (start + (end - start) * share) * length
    smooth = share * share * (3 - 2 * share)
    grown = share + (smooth - share) * settings.blend
    # It grows to both sides, so that the lettering stays centred.
    after = before + more * (grown - 0.5)

    def through(place: np.ndarray, a: np.ndarray, b: np.ndarray) -> np.ndarray:
        inside = np.interp(place, a, b)
        beyond = np.where(place < a[0], place - a[0], np.where(place > a[-1], place - a[-1], 0))
        return np.asarray(inside + beyond)

    if down:
        return (
            lambda x, y: (x, through(y, before, after)),
            lambda x, y: (x, through(y, after, before)),
        )
    return (
        lambda x, y: (through(x, before, after), y),
        lambda x, y: (through(x, after, before), y),
    )
