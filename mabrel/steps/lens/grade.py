"""A colour grade over all that is seen."""

import numpy as np

from mabrel.colour import from_code, straight, to_encoded, to_linear
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.title import kinds

_GREY = 0.18  # linear: what stays in place when contrast changes
_LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)


class Grade(StepSettings):
    exposure: float = kinds.number(0.0, -6, 6, "Brighter or darker, in stops.")
    contrast: float = kinds.fraction(1.15, "Further from middle grey, or nearer.", high=3)
    saturation: float = kinds.fraction(1.0, "How strong the colours are.", high=3)
    warmth: float = kinds.fraction(0.12, "Warmer or cooler.", low=-1)
    shadows: kinds.Colour = kinds.colour("#1d3a4a", "What dark parts lean to.")
    highlights: kinds.Colour = kinds.colour("#ffe9c4", "What bright parts lean to.")
    toned: float = kinds.fraction(0.2, "How far they lean.")


@step(
    "lens.grade",
    "Grade",
    words="colour grade, look, film, teal, warm, exposure, contrast, mood",
    reads=("face", "behind", "front"),
    writes=("face", "behind", "front"),
)
def grade(piece: Piece, settings: Grade, scene: Scene) -> Piece:
    """Grade everything at once: exposure, contrast, saturation, and a tone for dark and bright."""

    def graded(layer: Array, region: Region) -> Array:
        out = np.empty_like(layer)
        out[..., 3] = layer[..., 3]
        # Light that nothing covers is graded as if it lay before black.
        share = np.where(layer[..., 3:] > 1e-4, layer[..., 3:], 1)
        colours = straight(layer) if (share == layer[..., 3:]).all() else layer[..., :3] / share
        out[..., :3] = _graded(np.asarray(colours, np.float32), settings) * share
        return out

    return piece.regraded(graded)


def _graded(colour: Array, settings: Grade) -> Array:
    """Straight encoded colours (H, W, 3): exposure and warmth as gains of the light, contrast as
    its power about middle grey, then saturation and toning."""
    warm = np.array([1 + 0.3 * settings.warmth, 1.0, 1 - 0.3 * settings.warmth], np.float32)
    light = to_linear(np.maximum(colour, 0)) * (warm * np.float32(2.0**settings.exposure))
    if settings.contrast != 1:
        light = _GREY * (light / _GREY) ** np.float32(settings.contrast)
    grey = (light @ _LUMA)[..., None]
    done = to_encoded(np.asarray(grey + (light - grey) * settings.saturation, np.float32))
    if settings.toned == 0:
        return done
    level = np.clip(done @ _LUMA, 0, 1)[..., None]
    dark, bright = (
        np.array(from_code(code)[:3], np.float32)
        for code in (settings.shadows, settings.highlights)
    )
    dark, bright = dark - dark @ _LUMA, bright - bright @ _LUMA  # what they lean to, not how far
    lean = dark * (1 - level) ** 2 + bright * level**2
    return np.asarray(done + lean * np.float32(settings.toned), np.float32)
