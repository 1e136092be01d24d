"""Regular patterns, antialiased at any scale."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]


def square_wave(place: Array, slope: float, duty: float = 0.5) -> Array:
    """1 over the first `duty` (0..1) of each two units of `place`, −1 over the rest, averaged over
    a pixel.

    `slope` is how much `place` grows a pixel. The mean of a square wave over a pixel is the
    difference of its integral, a triangle wave; where a pixel spans many turns it goes to the
    wave's own mean.
    """
    half = max(slope, 1e-6) / 2
    up = 2 * min(max(duty, 0.0), 1.0)

    def integral(at: Array) -> Array:
        turns = np.floor(at / 2)
        part = at - 2 * turns
        return np.asarray(
            turns * (2 * up - 2) + np.where(part < up, part, 2 * up - part), np.float32
        )

    return np.asarray((integral(place + half) - integral(place - half)) / (2 * half), np.float32)


def stripes(across: Array, width: float, duty: float = 0.5) -> Array:
    """0..1 by turns; `across` is (…,) in pixels, `width` the mean of a light and a dark stripe,
    `duty` the share of both that is light."""
    return np.asarray(0.5 + 0.5 * square_wave(across / width, 1 / width, duty), np.float32)


def checker(across: Array, down: Array, width: float, height: float, duty: float = 0.5) -> Array:
    """A chessboard of fields `width` × `height` pixels; the axes broadcast."""
    x = square_wave(across / width, 1 / width, duty)
    y = square_wave(down / height, 1 / height, duty)
    return np.asarray(0.5 + 0.5 * x * y, np.float32)


def grid(across: Array, down: Array, width: float, height: float, line: float) -> Array:
    """Lines `line` pixels thick around fields `width` × `height` pixels, light on dark; each line
    has its middle between two fields."""
    shares = []
    for place, size in ((across, width), (down, height)):
        duty = min(line / size, 1.0)
        wave = square_wave(2 * (place / size) + duty, 2 / size, duty)
        shares.append(0.5 - 0.5 * wave)  # of a pixel that no line covers
    return np.asarray(1 - shares[0] * shares[1], np.float32)


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
