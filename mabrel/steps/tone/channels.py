"""Red, green and blue mixed anew."""

from typing import ClassVar, Literal

import numpy as np

from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_MIX = {"mode": "mix"}


def _share(default: float, help: str) -> float:
    share: float = kinds.fraction(default, help, low=-2, high=2, when=_MIX)
    return share


class Channels(StepSettings):
    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Red": ("red_red", "red_green", "red_blue"),
        "Green": ("green_red", "green_green", "green_blue"),
        "Blue": ("blue_red", "blue_green", "blue_blue"),
    }

    mode: Literal["swap", "mix"] = kinds.choice("swap", "Swap them, or mix each from all three.")
    order: Literal["rbg", "grb", "bgr", "gbr", "brg"] = kinds.choice(
        "bgr",
        "Where red, green and blue come from: bgr swaps red and blue.",
        when={"mode": "swap"},
    )
    red_red: float = _share(1.0, "How much red makes red.")
    red_green: float = _share(0.0, "How much green makes red.")
    red_blue: float = _share(0.0, "How much blue makes red.")
    green_red: float = _share(0.0, "How much red makes green.")
    green_green: float = _share(1.0, "How much green makes green.")
    green_blue: float = _share(0.0, "How much blue makes green.")
    blue_red: float = _share(0.0, "How much red makes blue.")
    blue_green: float = _share(0.0, "How much green makes blue.")
    blue_blue: float = _share(1.0, "How much blue makes blue.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step(
    "tone.channels",
    "Channels",
    words="swap, mix, channel mixer, red, green, blue, colour, infrared",
    reads=("face",),
    writes=("face",),
)
def channels(piece: Piece, settings: Channels, scene: Scene) -> Piece:
    """Swap red, green and blue, or mix each anew from all three."""
    matrix, share = _matrix(settings), np.float32(settings.opacity)

    def changed(colour: Array) -> Array:
        mixed = np.maximum(colour @ matrix.T, 0)
        return np.asarray(colour + (mixed - colour) * share, np.float32)

    return recoloured(piece, changed)


def _matrix(settings: Channels) -> Array:
    """3 × 3: what red, green and blue are made of."""
    if settings.mode == "swap":
        return np.eye(3, dtype=np.float32)[["rgb".index(letter) for letter in settings.order]]
    names = ("red", "green", "blue")
    rows = [[getattr(settings, f"{to}_{of}") for of in names] for to in names]
    return np.array(rows, np.float32)
