"""A few colours put at places, spread and mixed over the face."""

from typing import Literal

import numba
import numpy as np

from mabrel.colour import from_code, from_oklab, to_oklab
from mabrel.kernels import kernel
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
    x = np.arange(piece.region.width, dtype=np.float32) + np.float32(piece.region.left + 0.5)
    y = np.arange(piece.region.height, dtype=np.float32) + np.float32(piece.region.top + 0.5)
    places, values = [], []
    for spot in settings.spots:
        places.append([left + (right - left) * spot.x, top + (bottom - top) * spot.y])
        *colour, alpha = from_code(spot.colour)
        rgb = np.array(colour, np.float32)
        values.append([*(to_oklab(rgb) if settings.mix == "oklab" else rgb), alpha])
    out = np.empty((*piece.matte.shape, 4), np.float32)
    _spread(
        x, y, np.array(places, np.float32).reshape(-1, 2),
        np.array(values, np.float32).reshape(-1, 4), np.float32(1 / reach),
        np.float32(settings.sharpness), out,
    )  # fmt: skip
    if settings.mix == "oklab":
        out[..., :3] = from_oklab(out[..., :3])
    return out


@kernel(parallel=True)
def _spread(x, y, places, values, nearer, sharpness, out):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    for line in numba.prange(out.shape[0]):
        row = np.int64(line)
        for column in range(out.shape[1]):
            total = np.float32(0)
            a, b, c, d = np.float32(0), np.float32(0), np.float32(0), np.float32(0)
            for n in range(places.shape[0]):
                dx = (x[column] - places[n, 0]) * nearer
                dy = (y[row] - places[n, 1]) * nearer
                weight = (one + dx * dx + dy * dy) ** -sharpness
                total += weight
                a, b = a + weight * values[n, 0], b + weight * values[n, 1]
                c, d = c + weight * values[n, 2], d + weight * values[n, 3]
            share = one / max(total, np.float32(1e-12))
            out[row, column, 0], out[row, column, 1] = a * share, b * share
            out[row, column, 2], out[row, column, 3] = c * share, d * share
