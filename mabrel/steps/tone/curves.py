"""Tone curves."""

import numpy as np

from mabrel.colour import apply_table, curve_table
from mabrel.steps.faces.recolour import recoloured
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_STRAIGHT = [(0.0, 0.0), (1.0, 1.0)]
_FIRMER = [(0.0, 0.0), (0.25, 0.16), (0.75, 0.88), (1.0, 1.0)]


class Curves(StepSettings):
    master: kinds.CurvePoints = kinds.curve(
        _FIRMER, "For all three channels; several turns make metal."
    )
    red: kinds.CurvePoints = kinds.curve(_STRAIGHT, "For red, after the master curve.")
    green: kinds.CurvePoints = kinds.curve(_STRAIGHT, "For green, after the master curve.")
    blue: kinds.CurvePoints = kinds.curve(_STRAIGHT, "For blue, after the master curve.")
    alpha: kinds.CurvePoints = kinds.curve(
        _STRAIGHT, "For the lettering's coverage: hardens soft edges, or makes it see-through."
    )


@step(
    "tone.curves",
    "Curves",
    words="metal, chrome, contrast, steel, tone curve, rings",
    reads=("face", "matte"),
    writes=("face", "matte"),
)
def curves(piece: Piece, settings: Curves, scene: Scene) -> Piece:
    """Bend the tones by curves, for all channels or one; with several turns, into metal."""
    master = curve_table(settings.master)
    channels = [settings.red, settings.green, settings.blue]
    tables = [apply_table(master, curve_table(points)) for points in channels]

    def bent(colour: Array) -> Array:
        return np.stack([apply_table(colour[..., c], tables[c]) for c in range(3)], axis=-1)

    piece = recoloured(piece, bent)
    if list(settings.alpha) == _STRAIGHT:
        return piece
    return piece.reshaped(apply_table(piece.matte, curve_table(settings.alpha)))
