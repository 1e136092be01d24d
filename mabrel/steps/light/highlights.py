"""What highlights show: light in its own colour, or tinted by the metal that mirrors it."""

import numba
import numpy as np

from mabrel.kernels import kernel
from mabrel.light import RelativeShading
from mabrel.steps.piece import Array

Rgb = tuple[float, float, float]


def highlights(
    face: Array,
    tone: Array,
    shading: RelativeShading,
    *,
    colour: Rgb,
    opacity: float,
    gloss: float,
    metal: float,
) -> Array:
    """Premultiplied (H, W, 4): what is lighter than flat by its `tone` ((H, W), 0..1), and `gloss`
    times the mirrored light, in the lights' colours and `colour`. As much as `metal` says it has
    the hue of the `face` ((H, W, 4), premultiplied) at full brightness."""
    out = np.empty(face.shape, np.float32)
    own = np.array((*colour, opacity, gloss, metal), np.float32)
    shone = shading.gloss.reshape(*tone.shape, -1)
    tint = np.empty((0, 0, 3), np.float32) if shading.tint is None else shading.tint
    _shine(face, tone, np.ascontiguousarray(shone), tint, own, out)
    return out


@kernel(parallel=True)
def _shine(face, tone, shone, tint, own, out):  # type: ignore[no-untyped-def]
    rows, columns, channels = shone.shape
    opacity, gloss, metal = own[3], own[4], own[5]
    tinted = tint.shape[0] > 0
    zero, one, two = np.float32(0), np.float32(1), np.float32(2)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            bright = min(max(two * tone[y, x] - one, zero), one)
            most = shone[y, x, 0]
            for c in range(1, channels):
                most = max(most, shone[y, x, c])
            whole = bright + gloss * most
            cover = min(whole, one) * opacity
            out[y, x, 3] = cover
            scale = cover / max(whole, np.float32(1e-6))
            alpha = max(face[y, x, 3], np.float32(1e-6))
            full = max(face[y, x, 0], face[y, x, 1], face[y, x, 2]) / alpha
            full = max(full, np.float32(1e-3))
            for c in range(3):
                light = bright * tint[y, x, c] if tinted else bright
                light += gloss * shone[y, x, c if channels > 1 else 0]
                hue = max(face[y, x, c] / alpha, zero) / full
                out[y, x, c] = light * scale * own[c] * (one + (hue - one) * metal)
