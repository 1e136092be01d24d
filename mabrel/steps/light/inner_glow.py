"""Light or darkness that comes in from the edge."""

import numpy as np

from mabrel.colour import apply_table, curve_table, rgb_and_alpha
from mabrel.steps.faces.painting import paint
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import inwards
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode

_FALLING = [(0.0, 1.0), (0.25, 0.55), (0.6, 0.15), (1.0, 0.0)]


class InnerGlow(StepSettings):
    width: float = kinds.length(24, 0.5, 2000, "How far it reaches inwards.")
    falloff: kinds.CurvePoints = kinds.curve(
        _FALLING, "How it fades, from the edge (left) inwards."
    )
    colour: kinds.Colour = kinds.colour("#ffe2b0", "Its colour; a dark one darkens the edge.")
    blend: BlendMode = kinds.choice("screen", "How it is laid on.")
    opacity: float = kinds.fraction(0.8, "How strong it is.")


@step(
    "light.inner_glow",
    "Inner glow",
    words="glow, rim, warm edge, lit from inside",
    reads=("matte", "face"),
    writes=("face",),
)
def inner_glow(piece: Piece, settings: InnerGlow, scene: Scene) -> Piece:
    """Let light, or darkness, come in from the edge and fade."""
    share = inwards(piece, settings.width * scene.scale)
    colour, alpha = rgb_and_alpha(settings.colour)
    cover = apply_table(share, curve_table(settings.falloff))
    return paint(piece, settings.blend, colour, cover * np.float32(settings.opacity * alpha))
