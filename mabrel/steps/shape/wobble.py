"""Outlines that tremble."""

import math

import numpy as np

from mabrel.field.noise_at import noise_at
from mabrel.steps.extent import Bound
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.warping import WRITES, Map, bound_of, undone, warped
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.phases import ROUND


class Wobble(StepSettings):
    amount: float = kinds.length(5, 0, 400, "How far the edge is pushed aside.")
    size: float = kinds.length(44, 2, 4000, "How long its waves are.")
    phase: float = kinds.number(0.0, -1000, 1000, "Lets it tremble.", cycle=1, around="around")
    around: int = kinds.count(
        ROUND,
        1,
        ROUND,
        "After so much phase it is the same again; of a title that loops it follows by itself.",
    )
    seed: int = kinds.seed(3, "Another draw of the same trembling.")


def _margin(settings: Wobble, scene: Scene) -> Margin:
    room = math.ceil(_reach(settings, scene)) + 2
    return Margin(room, room, room, room)


def _reach(settings: Wobble, scene: Scene) -> float:
    """Never so far that the outline would cross itself."""
    return min(settings.amount, settings.size * 0.3) * scene.scale


def _after(bound: Bound, room: Margin, settings: Wobble, scene: Scene) -> Bound:
    return bound_of(bound, room, _map(settings, scene))


@step(
    "shape.wobble",
    "Wobble",
    words="rough, hand-cut, melted, water, shaky, organic",
    reads=("matte", "face"),
    writes=WRITES,
    margin=_margin,
    after=_after,
)
def wobble(piece: Piece, settings: Wobble, scene: Scene) -> Piece:
    """Push the edge aside by smooth noise: hand-cut, melted, under water."""
    forward = _map(settings, scene)
    return warped(piece, forward, undone(forward), settings.size * scene.scale)


def _map(settings: Wobble, scene: Scene) -> Map:
    size = max(settings.size * scene.scale, 0.5)
    reach = _reach(settings, scene)

    def forward(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        u, v = x / size, y / size
        across = noise_at(u, v, settings.phase, settings.seed, settings.around)
        down = noise_at(u, v, settings.phase, settings.seed + 101, settings.around)
        return x + across * reach, y + down * reach

    return forward
