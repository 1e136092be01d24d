"""A gradient over the lettering as a whole."""

import math
from typing import Literal

import numpy as np

from mabrel.colour import from_code, from_oklab, to_oklab
from mabrel.steps.faces.painting import paint_colours, paint_tones
from mabrel.steps.faces.stops import colour_stops, least_gap
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.kinds import Stop
from mabrel.title.layers import BlendMode

_STOPS = [Stop(place=0, colour="#f2c46b"), Stop(place=1, colour="#8a2f16")]
_LEAST_BOX = 256.0  # frame pixels


class Gradient(StepSettings):
    shape: Literal["linear", "radial", "corners"] = kinds.choice(
        "linear", "Along a line, from a centre, or between four corners."
    )
    stops: kinds.Stops = kinds.stops(
        _STOPS,
        "Its colours; the first four are those of the corners, round from the top left.",
    )
    angle: float = kinds.angle(
        90, -360, 360, "Direction in which it runs.", when={"shape": "linear"}, grip="turn"
    )
    size: float = kinds.fraction(
        1.0, "Its length, as a share of the lettering's.", low=0.01, high=10, grip="end"
    )
    centre: tuple[float, float] = kinds.point((0, 0), "Its middle, from the lettering's centre.")
    mix: Literal["srgb", "oklab"] = kinds.choice("srgb", "Where neighbouring colours mix.")
    blend: BlendMode = kinds.choice("normal", "How it is laid on the face.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


def _finest(settings: Gradient) -> float:
    """Over a floor or a backdrop, whose box is no smaller than the frame."""
    return _LEAST_BOX * settings.size * least_gap(settings.stops)


@step(
    "surface.gradient",
    "Gradient",
    words="colours, fade, ramp, two colours, metal",
    reads=("face",),
    writes=("face",),
    finest=_finest,
)
def gradient(piece: Piece, settings: Gradient, scene: Scene) -> Piece:
    """Paint the face in a gradient that spans the lettering."""
    if settings.shape == "corners":
        return paint_colours(piece, settings.blend, _corners(piece, settings, scene))
    place = (_linear if settings.shape == "linear" else _radial)(piece, settings, scene)
    stops = colour_stops(settings.stops)
    return paint_tones(piece, settings.blend, place, stops, settings.mix, settings.opacity)


def _places(piece: Piece, settings: Gradient, scene: Scene) -> tuple[Array, Array]:
    """Pixel centres from the gradient's middle: a row of x and a column of y."""
    left, top, right, bottom = piece.box
    x = (left + right) / 2 + settings.centre[0] * scene.scale
    y = (top + bottom) / 2 + settings.centre[1] * scene.scale
    across = np.arange(piece.region.width, dtype=np.float32) + (piece.region.left + 0.5 - x)
    down = np.arange(piece.region.height, dtype=np.float32) + (piece.region.top + 0.5 - y)
    return across[None, :].astype(np.float32), down[:, None].astype(np.float32)


def _linear(piece: Piece, settings: Gradient, scene: Scene) -> Array:
    """0..1 along the line; its length is that of CSS Images' linear-gradient()."""
    left, top, right, bottom = piece.box
    x, y = _places(piece, settings, scene)
    turn = math.radians(settings.angle)
    along_x, along_y = math.cos(turn), math.sin(turn)
    length = abs((right - left) * along_x) + abs((bottom - top) * along_y)
    scale = 1 / max(length * settings.size, 1e-6)
    across, down = np.float32(along_x * scale), np.float32(along_y * scale)
    return np.asarray((np.float32(0.5) + x * across) + y * down, np.float32)


def _radial(piece: Piece, settings: Gradient, scene: Scene) -> Array:
    """0..1 from the middle; 1 at the corners of the ink's box at size 1."""
    left, top, right, bottom = piece.box
    x, y = _places(piece, settings, scene)
    reach = max(math.hypot(right - left, bottom - top) / 2 * settings.size, 1e-6)
    away = np.square(x / np.float32(reach)) + np.square(y / np.float32(reach))
    return np.asarray(np.sqrt(away), np.float32)


def _corners(piece: Piece, settings: Gradient, scene: Scene) -> Array:
    """Between the colours of four corners, evenly across and down: premultiplied (H, W, 4).

    Fewer stops than four are gone round again.
    """
    left, top, right, bottom = piece.box
    x, y = _places(piece, settings, scene)
    u = np.clip(0.5 + x / max((right - left) * settings.size, 1e-6), 0, 1)[..., None]
    v = np.clip(0.5 + y / max((bottom - top) * settings.size, 1e-6), 0, 1)[..., None]
    lab = settings.mix == "oklab"
    found = []
    for number in range(4):
        *colour, alpha = from_code(settings.stops[number % len(settings.stops)].colour)
        rgb = np.array(colour, np.float32)
        found.append(np.append(to_oklab(rgb) if lab else rgb, np.float32(alpha)))
    top_left, top_right, bottom_right, bottom_left = found
    above = top_left + (top_right - top_left) * u
    below = bottom_left + (bottom_right - bottom_left) * u
    source = np.asarray(above + (below - above) * v, np.float32)
    if lab:
        source[..., :3] = from_oklab(source[..., :3])
    source[..., 3] *= np.float32(settings.opacity)
    source[..., :3] *= source[..., 3:]
    return np.ascontiguousarray(source)
