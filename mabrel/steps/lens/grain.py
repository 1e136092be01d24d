"""Film grain."""

import numba
import numpy as np

from mabrel.colour.spaces import LUMA
from mabrel.field import value_noise
from mabrel.kernels import kernel
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Grain(StepSettings):
    amount: float = kinds.fraction(0.04, "How much lighter or darker its grains are.")
    size: float = kinds.length(1.5, 0.5, 100, "How wide a grain is.")
    mids: float = kinds.fraction(0.0, "Less of it in the darkest and the brightest parts.")
    colour: float = kinds.fraction(0.0, "From grey grains to coloured ones.")
    seed: int = kinds.seed(1, "Another draw of the grains.")


@step(
    "lens.grain",
    "Grain",
    words="film, noise, grit, texture, less computer",
    reads=("face",),
    writes=("face", "behind", "front"),
)
def grain(piece: Piece, settings: Grain, scene: Scene) -> Piece:
    """Break the smoothness of calculation with fine grain."""
    noise: dict[Region, Array] = {}

    def grained(layer: Array, region: Region) -> Array:
        if region not in noise:
            noise[region] = _grains(region, settings, scene)
        return _grained(layer, noise[region], settings.mids)

    return piece.regraded(grained)


def _grained(layer: Array, noise: Array, mids: float) -> Array:
    rough = np.empty_like(layer)
    share = _mids(layer, mids) if mids > 0 else np.ones((1, 1), np.float32)
    _add(layer, noise, share, rough)
    return rough


def _grains(region: Region, settings: Grain, scene: Scene) -> Array:
    """(H, W, 1 or 3): mean 0, deviation `amount`; one channel where all grains are grey.

    Grains smaller than a pixel are seen as its mean: they fade, as they do in a smaller print.
    """
    size = max(settings.size * scene.scale, 1.0)
    amount = np.float32(settings.amount * min(settings.size * scene.scale, 1.0))
    origin = (region.left, region.top)

    shape = (region.height, region.width)

    def draw(number: int) -> Array:
        return value_noise(shape, origin, size, settings.seed + 1_000_003 * number)

    grey = draw(0)[..., None]
    if settings.colour == 0:
        return np.asarray(grey * amount, np.float32)
    hues = np.stack([draw(1), draw(2), draw(3)], axis=-1)
    share = np.float32(settings.colour)
    return np.asarray((grey * (1 - share) + hues * share) * amount, np.float32)


def _mids(layer: Array, mids: float) -> Array:
    """(H, W): 1 at middle grey, less by `mids` in black and white."""
    out = np.empty(layer.shape[:2], np.float32)
    _weigh_mids(layer, np.float32(mids), np.array(LUMA, np.float32), out)
    return out


@kernel(parallel=True)
def _weigh_mids(layer, mids, luma, out):  # type: ignore[no-untyped-def]
    one, two, none = np.float32(1), np.float32(2), np.float32(0)
    red, green, blue = luma
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(out.shape[1]):
            light = layer[y, x, 0] * red + layer[y, x, 1] * green + layer[y, x, 2] * blue
            alpha = layer[y, x, 3]
            tone = light / alpha if alpha > none else none
            off = two * min(max(tone, none), one) - one
            out[y, x] = one - mids * off * off


@kernel(parallel=True)
def _add(layer, noise, share, out):  # type: ignore[no-untyped-def]
    """Lighten or darken premultiplied colours, as far as they cover."""
    rows, columns = layer.shape[:2]
    last = noise.shape[2] - 1
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            alpha = layer[y, x, 3]
            weight = alpha * share[min(y, share.shape[0] - 1), min(x, share.shape[1] - 1)]
            for c in range(3):
                out[y, x, c] = layer[y, x, c] + noise[y, x, min(c, last)] * weight
            out[y, x, 3] = alpha
