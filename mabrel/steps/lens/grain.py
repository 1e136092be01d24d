"""Film grain."""

import numpy as np

from mabrel.field import value_noise
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.title import kinds


class Grain(StepSettings):
    amount: float = kinds.fraction(0.04, "How much lighter or darker its grains are.")
    size: float = kinds.length(1.5, 0.5, 100, "How wide a grain is.")
    colour: float = kinds.fraction(0.0, "From grey grains to coloured ones.")
    seed: int = kinds.seed(1, "Another draw of the grains.")


@step("lens.grain", "Grain", reads=("face",), writes=("face", "behind", "front"))
def grain(piece: Piece, settings: Grain, scene: Scene) -> Piece:
    """Break the smoothness of calculation with fine grain."""
    noise = _grains(piece, settings, scene)

    def grained(layer: Array | None) -> Array | None:
        if layer is None:
            return None
        rough = layer.copy()
        rough[..., :3] += noise * layer[..., 3:]
        return rough

    return piece.but(
        face=grained(piece.face),
        behind=grained(piece.behind),
        front=grained(piece.front),
        added=grained(piece.added),
    )


def _grains(piece: Piece, settings: Grain, scene: Scene) -> Array:
    """(H, W, 3): mean 0, deviation `amount`."""
    size = max(settings.size * scene.scale, 0.5)
    origin = (piece.region.left, piece.region.top)

    def draw(number: int) -> Array:
        return value_noise(piece.matte.shape, origin, size, settings.seed + 1_000_003 * number)

    grey = draw(0)[..., None]
    if settings.colour == 0:
        return np.asarray(grey * np.float32(settings.amount), np.float32)
    hues = np.stack([draw(1), draw(2), draw(3)], axis=-1)
    share = np.float32(settings.colour)
    return np.asarray((grey * (1 - share) + hues * share) * settings.amount, np.float32)
