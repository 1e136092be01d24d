"""A colour grade over all that is seen."""

import numba
import numpy as np

from mabrel.colour import from_code
from mabrel.colour.powers import power
from mabrel.colour.transfer import encode, lighten, pack, unpack
from mabrel.kernels import kernel
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_GREY = 0.18  # linear: what stays in place when contrast changes
_DARKEST = np.float32(1e-30)
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


@kernel(parallel=True)
def _grade(layer, gains, how, tones, out):  # type: ignore[no-untyped-def]
    """Premultiplied encoded colours: exposure and warmth as gains of the light, contrast as its
    power about middle grey, then saturation and toning. Light that nothing covers is graded as if
    it lay before black."""
    rows, columns = layer.shape[:2]
    contrast, saturation = how
    zero, one = np.float32(0), np.float32(1)
    red, green, blue = np.float32(0.2126), np.float32(0.7152), np.float32(0.0722)
    for line in numba.prange(rows):
        y = np.int64(line)
        planes = np.empty((4, columns), np.float32)
        unpack(layer[y], planes)
        for c in range(3):
            lighten(planes[c])
            _expose(planes[c], gains[c], contrast)
        for x in range(columns):
            r, g, b = planes[0, x], planes[1, x], planes[2, x]
            grey = r * red + g * green + b * blue
            planes[0, x] = grey + (r - grey) * saturation
            planes[1, x] = grey + (g - grey) * saturation
            planes[2, x] = grey + (b - grey) * saturation
        for c in range(3):
            encode(planes[c])
        for x in range(columns):
            r, g, b = planes[0, x], planes[1, x], planes[2, x]
            level = min(max(r * red + g * green + b * blue, zero), one)
            there = one
            if layer[y, x, 3] <= zero:  # light that nothing covers leans as far as it is there
                light = max(layer[y, x, 0], layer[y, x, 1], layer[y, x, 2])
                there = min(max(light, zero) * np.float32(8), one)
            dark, bright = (one - level) * (one - level), level * level
            for c in range(3):
                planes[c, x] += (tones[0, c] * dark + tones[1, c] * bright) * there
        pack(planes, layer[y], out[y])
        _empty(layer[y], out[y])


@kernel(inline="always")
def _empty(before, out):  # type: ignore[no-untyped-def]
    """What was empty in a row of pixels (N, 4) stays empty."""
    for x in range(before.shape[0]):
        alpha, light = before[x, 3], max(before[x, 0], before[x, 1], before[x, 2])
        if alpha <= np.float32(0) and light <= np.float32(0):
            out[x, 0] = out[x, 1] = out[x, 2] = np.float32(0)


@kernel(inline="always")
def _expose(row, gain, contrast):  # type: ignore[no-untyped-def]
    """Gain of a row of light, and its power about middle grey, in place."""
    middle = np.float32(_GREY)
    black = middle if contrast == np.float32(0) else np.float32(0)
    for x in range(row.shape[0]):
        row[x] = row[x] * gain
    if contrast != np.float32(1):
        for x in range(row.shape[0]):
            raised = middle * power(max(row[x], _DARKEST) / middle, contrast)
            row[x] = raised if row[x] > np.float32(0) else black
