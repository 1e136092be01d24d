"""A colour grade over all that is seen."""

import numba
import numpy as np

from mabrel.colour import from_code
from mabrel.colour.spaces import encoded, linear
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
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
        _grade(layer, *_numbers(settings), out)
        return out

    return piece.regraded(graded)


def _numbers(settings: Grade) -> tuple[Array, Array, Array]:
    """Gains of the light (3); contrast, saturation and whether there is contrast; what dark and
    bright parts lean to (2, 3)."""
    warm = [1 + 0.3 * settings.warmth, 1.0, 1 - 0.3 * settings.warmth]
    gains = np.array(warm, np.float32) * np.float32(2.0**settings.exposure)
    codes = (settings.shadows, settings.highlights)
    tones = np.array([from_code(code)[:3] for code in codes], np.float32)
    tones = tones - tones @ _LUMA[:, None]  # what they lean to, not how far
    how = np.array([settings.contrast, settings.saturation], np.float32)
    return gains, how, np.asarray(tones * np.float32(settings.toned), np.float32)


@numba.njit(cache=True, parallel=True)
def _grade(layer, gains, how, tones, out):  # type: ignore[no-untyped-def]
    """Premultiplied encoded colours: exposure and warmth as gains of the light, contrast as its
    power about middle grey, then saturation and toning. Light that nothing covers is graded as if
    it lay before black."""
    rows, columns = layer.shape[:2]
    contrast, saturation = how
    zero, one = np.float32(0), np.float32(1)
    red, green, blue = np.float32(0.2126), np.float32(0.7152), np.float32(0.0722)
    middle = np.float32(_GREY)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            alpha = layer[y, x, 3]
            out[y, x, 3] = alpha
            share = alpha if alpha > np.float32(1e-4) else one
            r = linear(max(layer[y, x, 0] / share, zero)) * gains[0]
            g = linear(max(layer[y, x, 1] / share, zero)) * gains[1]
            b = linear(max(layer[y, x, 2] / share, zero)) * gains[2]
            if contrast != one:
                r = middle * (r / middle) ** contrast
                g = middle * (g / middle) ** contrast
                b = middle * (b / middle) ** contrast
            grey = r * red + g * green + b * blue
            r = _signed(grey + (r - grey) * saturation)
            g = _signed(grey + (g - grey) * saturation)
            b = _signed(grey + (b - grey) * saturation)
            level = min(max(r * red + g * green + b * blue, zero), one)
            dark, bright = (one - level) * (one - level), level * level
            out[y, x, 0] = (r + tones[0, 0] * dark + tones[1, 0] * bright) * share
            out[y, x, 1] = (g + tones[0, 1] * dark + tones[1, 1] * bright) * share
            out[y, x, 2] = (b + tones[0, 2] * dark + tones[1, 2] * bright) * share


@numba.njit(cache=True, inline="always")
def _signed(light):  # type: ignore[no-untyped-def]
    """Encoded light, also of what more saturation has made negative."""
    return encoded(light) if light >= np.float32(0) else -encoded(-light)
