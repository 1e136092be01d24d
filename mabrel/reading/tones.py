"""Which brightness each place has before a step: what a stop or a point of a curve colours."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness, straight
from mabrel.render import Cancel, Renderer
from mabrel.title import Title

OUTSIDE = 255
_BINS = 64


@dataclass(frozen=True)
class Tones:
    """`histogram` (64,): shares of the lettering, from dark to light, that add up to 1.

    `places` (H, W) is uint8 over the frame: brightness 0 to 254, and 255 outside the lettering.
    """

    histogram: NDArray[np.float32]
    places: NDArray[np.uint8]


def tones_before(
    renderer: Renderer,
    title: Title,
    layer: str,
    step: str,
    *,
    scale: float = 0.25,
    time: float = 0.0,
    cancel: Cancel | None = None,
) -> Tones:
    """Brightness of a layer's face as the step with this id is given it."""
    given = renderer.fields(title, layer, time=time, scale=scale, before=step, cancel=cancel)
    tone = np.clip(brightness(straight(given.face)), 0, 1)
    inside = given.matte > 0.5
    counts, _ = np.histogram(tone[inside], bins=_BINS, range=(0, 1))
    places = np.where(inside, np.round(tone * (OUTSIDE - 1)), OUTSIDE).astype(np.uint8)
    return Tones((counts / max(counts.sum(), 1)).astype(np.float32), places)
