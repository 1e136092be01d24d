"""Darker towards the corners."""

import numpy as np

from mabrel.colour import light_of, picture_of
from mabrel.steps.lens_light.added import linear_colour
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.extent import Box
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.title import kinds


class Vignette(StepSettings):
    amount: float = kinds.fraction(0.5, "How dark the corners are.")
    size: float = kinds.fraction(0.75, "How far from the middle it begins.", high=2)
    softness: float = kinds.fraction(0.8, "How slowly it comes.", low=0.01, high=2)
    round: float = kinds.fraction(0.4, "From the frame's own shape to a circle.")
    colour: kinds.Colour = kinds.colour("#000000", "What it darkens to.")


@step(
    "lens.vignette",
    "Vignette",
    words="dark corners, edges, focus, frame, falloff",
    reads=("face", "behind", "front"),
    writes=("face", "behind", "front"),
)
def vignette(piece: Piece, settings: Vignette, scene: Scene) -> Piece:
    """Darken the picture towards its corners, in linear light."""
    colour = np.append(linear_colour(settings.colour), 1).astype(np.float32)

    def darkened(layer: Array, region: Region) -> Array:
        share = _share(piece.box, region, settings)[..., None]
        light = light_of(layer)
        return picture_of(np.asarray(light + (colour * light[..., 3:] - light) * share, np.float32))

    return piece.regraded(darkened)


def _share(box: Box, region: Region, settings: Vignette) -> Array:
    """(H, W): 0 in the middle to `amount` in the corners of the box."""
    left, top, right, bottom = box
    half = max((right - left) / 2, 1.0), max((bottom - top) / 2, 1.0)
    larger = max(half)
    across, down = (side + (larger - side) * settings.round for side in half)
    x = np.arange(region.width, dtype=np.float32) + (region.left + 0.5)
    y = np.arange(region.height, dtype=np.float32) + (region.top + 0.5)
    x, y = (x - (left + right) / 2) / across, (y - (top + bottom) / 2) / down
    away = np.sqrt(x[None, :] ** 2 + y[:, None] ** 2)
    share = np.clip((away - settings.size) / settings.softness + 0.35, 0, 1)
    return np.asarray(share * share * (3 - 2 * share) * settings.amount, np.float32)
