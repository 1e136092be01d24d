"""Regular patterns, antialiased at any scale."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]


def square_wave(place: Array, slope: float) -> Array:
    """1 and −1 by turns over each unit of `place`, averaged over a pixel.

    `slope` is how much `place` grows a pixel. The mean of a square wave over a pixel is the
    difference of its integral, a triangle wave; where a pixel spans many turns it goes to 0.
    """
    half = max(slope, 1e-6) / 2

    def integral(at: Array) -> Array:
        return np.asarray(np.abs(((at + 1) % 2) - 1), np.float32)

    return np.asarray((integral(place + half) - integral(place - half)) / (2 * half), np.float32)


def stripes(across: Array, width: float) -> Array:
    """0..1 by turns; `across` is (…,) in pixels, `width` that of one stripe."""
    return np.asarray(0.5 + 0.5 * square_wave(across / width, 1 / width), np.float32)


def checker(across: Array, down: Array, width: float, height: float) -> Array:
    """A chessboard of fields `width` × `height` pixels; the axes broadcast."""
    x = square_wave(across / width, 1 / width)
    y = square_wave(down / height, 1 / height)
    return np.asarray(0.5 + 0.5 * x * y, np.float32)


def dots(across: Array, down: Array, width: float, height: float, share: float) -> Array:
    """Round dots, one in each field; `share` of the field's width is the dot's."""
    x = (across / width % 1 - 0.5) * np.float32(width)
    y = (down / height % 1 - 0.5) * np.float32(width)
    away = np.hypot(x, y)
    sharp = np.clip(share * width / 2 + 0.5 - away, 0, 1)
    # Dots smaller than pixels become their mean.
    mean = np.pi / 4 * share * share
    blend = np.clip(min(width, height) / 3 - 0.5, 0, 1)
    return np.asarray(mean + (sharp - mean) * blend, np.float32)
