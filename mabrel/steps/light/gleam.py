"""A band of light across the letters."""

import math

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import normals
from mabrel.steps.faces.painting import paint
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Gleam(StepSettings):
    place: float = kinds.fraction(
        0.35, "Where it is, from one end of the lettering to the other.", low=-1, high=2
    )
    angle: float = kinds.angle(20, -360, 360, "Direction in which it moves.")
    width: float = kinds.length(46, 0.5, 4000, "How wide the band is.")
    softness: float = kinds.fraction(0.7, "From a hard band to one that fades all over.")
    bend: float = kinds.length(60, -2000, 2000, "How far the relief pushes it aside.")
    colour: kinds.Colour = kinds.colour("#ffffff", "Its colour.")
    blend: BlendMode = kinds.choice("screen", "How it is laid on.")
    opacity: float = kinds.fraction(0.75, "How bright it is.")


@step(
    "light.gleam",
    "Gleam",
    words="shine, sweep, glint, flash, shimmer, metal",
    reads=("matte", "height", "face"),
    writes=("face",),
)
def gleam(piece: Piece, settings: Gleam, scene: Scene) -> Piece:
    """Lay a band of light across the letters that follows their relief."""
    colour, alpha = rgb_and_alpha(settings.colour)
    cover = _band(piece, settings, scene) * np.float32(settings.opacity * alpha)
    return paint(piece, settings.blend, colour, cover)


def _band(piece: Piece, settings: Gleam, scene: Scene) -> Array:
    """(H, W): 1 along the middle of the band, 0 beyond its width."""
    left, top, right, bottom = piece.box
    turn = math.radians(settings.angle)
    along_x, along_y = math.cos(turn), math.sin(turn)
    across = np.arange(piece.region.width, dtype=np.float32) + (piece.region.left + 0.5)
    down = np.arange(piece.region.height, dtype=np.float32) + (piece.region.top + 0.5)
    x, y = across - (left + right) / 2, down - (top + bottom) / 2
    where = x[None, :] * along_x + y[:, None] * along_y
    if settings.bend:
        slope = normals(piece.height, piece.matte)
        push = slope[..., 0] * along_x + slope[..., 1] * along_y
        where = where + push * np.float32(settings.bend * scene.scale)
    length = abs((right - left) * along_x) + abs((bottom - top) * along_y)
    away = np.abs(where - np.float32((settings.place - 0.5) * length))
    half = max(settings.width * scene.scale / 2, 0.25)
    soft = max(half * settings.softness, 0.5)  # half a pixel: a hard band is antialiased too
    share = np.clip((half + 0.5 - away) / soft, 0, 1)
    return np.asarray(share * share * (3 - 2 * share), np.float32)
