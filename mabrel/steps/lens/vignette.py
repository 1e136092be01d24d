"""Darker towards the corners."""

import numba
import numpy as np

from mabrel.colour.transfer import encode, lighten, pack, unpack
from mabrel.kernels import kernel
from mabrel.steps.extent import Box
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import linear_colour
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
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
    colour = linear_colour(settings.colour)

    def darkened(layer: Array, region: Region) -> Array:
        out = np.empty_like(layer)
        _darken(layer, *_axes(piece.box, region, settings), _how(settings), colour, out)
        return out

    return piece.regraded(darkened)


def _how(settings: Vignette) -> Array:
    return np.array([settings.size, settings.softness, settings.amount], np.float32)


def _axes(box: Box, region: Region, settings: Vignette) -> tuple[Array, Array]:
    """How far each column and each row lies from the middle; 1 at the box's border."""
    left, top, right, bottom = box
    half = max((right - left) / 2, 1.0), max((bottom - top) / 2, 1.0)
    larger = max(half)
    across, down = (side + (larger - side) * settings.round for side in half)
    x = np.arange(region.width, dtype=np.float32) + (region.left + 0.5)
    y = np.arange(region.height, dtype=np.float32) + (region.top + 0.5)
    x, y = (x - (left + right) / 2) / across, (y - (top + bottom) / 2) / down
    return x.astype(np.float32), y.astype(np.float32)


@kernel(parallel=True)
def _darken(layer, across, down, how, colour, out):  # type: ignore[no-untyped-def]
    """Towards a light, by 0 in the middle and `amount` in the corners; premultiplied encoded
    colours in and out."""
    rows, columns = layer.shape[:2]
    size, softness, amount = how
    zero, one = np.float32(0), np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        planes = np.empty((4, columns), np.float32)
        weights = np.empty(columns, np.float32)
        for x in range(columns):
            away = np.sqrt(across[x] * across[x] + down[y] * down[y])
            t = min(max((away - size) / softness + np.float32(0.35), zero), one)
            weights[x] = t * t * (np.float32(3) - np.float32(2) * t) * amount
        unpack(layer[y], planes)
        for c in range(3):
            lighten(planes[c])
            for x in range(columns):
                covered = layer[y, x, 3] / planes[3, x]
                planes[c, x] += (colour[c] * covered - planes[c, x]) * weights[x]
                planes[c, x] = max(planes[c, x], zero)
            encode(planes[c])
        pack(planes, layer[y], out[y])
