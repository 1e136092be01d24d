"""Lines along the outline."""

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.steps.extent import Bound
from mabrel.steps.faces.painting import ink, paint
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Stroke(StepSettings):
    side: Literal["inside", "centred", "outside"] = kinds.choice(
        "inside", "On which side of the edge it runs."
    )
    width: float = kinds.length(
        6, 0, 1000, "How wide it is.", inwards={"inside": 1.0, "centred": 0.5}
    )
    offset: float = kinds.length(0, -1000, 1000, "Moves it outwards, or inwards below 0.")
    colour: kinds.Colour = kinds.colour("#fff3d6", "Its colour.")
    blend: BlendMode = kinds.choice("normal", "How its part on the face is laid on.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


def _range(settings: Stroke, scene: Scene) -> tuple[float, float]:
    """From and to which signed distance it runs, in render pixels."""
    width = settings.width * scene.scale
    inner = {"inside": -width, "centred": -width / 2, "outside": 0.0}[settings.side]
    inner += settings.offset * scene.scale
    return inner, inner + width


def _margin(settings: Stroke, scene: Scene) -> Margin:
    room = max(math.ceil(_range(settings, scene)[1]) + 2, 0)
    return Margin(room, room, room, room)


def _after(bound: Bound, room: Margin, settings: Stroke, scene: Scene) -> Bound:
    beyond = max(_range(settings, scene)[1], 0.0)
    return replace(bound.grown(room), outgrown=max(bound.outgrown, beyond))


@step(
    "surface.stroke",
    "Stroke",
    words="outline, border, line, contour, rim, edge line",
    reads=("matte", "face"),
    writes=("face", "behind", "body"),
    margin=_margin,
    after=_after,
)
def stroke(piece: Piece, settings: Stroke, scene: Scene) -> Piece:
    """Draw a line along the outline, inside it, on it or outside; any number of them."""
    inner, outer = _range(settings, scene)
    if outer - inner < 1e-3:
        return piece
    band = _up_to(piece.distance, outer) - _up_to(piece.distance, inner)
    colour, alpha = rgb_and_alpha(settings.colour)
    cover = np.asarray(np.clip(band, 0, 1) * np.float32(settings.opacity * alpha), np.float32)
    piece = paint(piece, settings.blend, colour, cover)
    return piece if outer <= 0 else _outside(piece, colour, cover)


def _up_to(distance: Array, edge: float) -> Array:
    """Coverage of all that lies within a signed distance, antialiased."""
    return np.asarray(np.clip(np.float32(edge + 0.5) - distance, 0, 1), np.float32)


def _outside(piece: Piece, colour: tuple[float, float, float], cover: Array) -> Piece:
    """Its part beyond the matte lies behind the face, over what is there."""
    return piece.just_behind(ink(colour, cover)).solidified(cover)
