"""A few colours put at places, spread and mixed over the face."""

from typing import Literal

import numpy as np

from mabrel.colour import from_code, from_oklab, to_oklab
from mabrel.steps.faces.painting import paint_colours
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.kinds import Spot
from mabrel.title.layers import BlendMode

_SPOTS = [
    Spot(x=0.08, y=0.2, colour="#ff6a3d"),
    Spot(x=0.38, y=0.85, colour="#8a2be2"),
    Spot(x=0.66, y=0.15, colour="#1fb6c9"),
    Spot(x=0.95, y=0.75, colour="#ffd23f"),
]


class ColourSpots(StepSettings):
    spots: kinds.Spots = kinds.spots(_SPOTS, "Places in the lettering's box, and their colours.")
    reach: float = kinds.fraction(
        0.35, "How far each spreads, as a share of the lettering's height.", low=0.01, high=10
    )
    sharpness: float = kinds.number(2.2, 0.5, 12, "From colours that all mix to clear borders.")
    mix: Literal["oklab", "srgb"] = kinds.choice("oklab", "Where the colours mix.")
    blend: BlendMode = kinds.choice("color", "How they are laid on the face.")
    opacity: float = kinds.fraction(0.85, "How much of them.")


@step(
    "tone.colour_spots",
    "Colour spots",
    words="mesh, iridescent, oil, rainbow, blotches, colours mixing",
    reads=("face",),
    writes=("face",),
)
def colour_spots(piece: Piece, settings: ColourSpots, scene: Scene) -> Piece:
    """Put a few colours at places and let them spread and mix over the face."""
    source = _mixed(piece, settings)
    source[..., 3] *= np.float32(settings.opacity)
    source[..., :3] *= source[..., 3:]
    return paint_colours(piece, settings.blend, source)


def _mixed(piece: Piece, settings: ColourSpots) -> Array:
    """Weighted by distance (Shepard 1968, with a reach below which a spot is flat): straight
    RGBA (H, W, 4)."""
    left, top, right, bottom = piece.box
    reach = max((bottom - top) * settings.reach, 1.0)
    x = np.arange(piece.region.width, dtype=np.float32)[None, :] + (piece.region.left + 0.5)
    y = np.arange(piece.region.height, dtype=np.float32)[:, None] + (piece.region.top + 0.5)
    total = np.zeros(piece.matte.shape, np.float32)
    out = np.zeros((*piece.matte.shape, 4), np.float32)
    for spot in settings.spots:
        dx = (x - (left + (right - left) * spot.x)) / np.float32(reach)
        dy = (y - (top + (bottom - top) * spot.y)) / np.float32(reach)
        weight = (1 + dx * dx + dy * dy) ** np.float32(-settings.sharpness)
        *colour, alpha = from_code(spot.colour)
        rgb = np.array(colour, np.float32)
        value = np.append(to_oklab(rgb) if settings.mix == "oklab" else rgb, alpha)
        out += weight[..., None] * value.astype(np.float32)
        total += weight
    out /= np.maximum(total, 1e-12)[..., None]
    if settings.mix == "oklab":
        out[..., :3] = from_oklab(out[..., :3])
    return out
