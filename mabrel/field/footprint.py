"""What a pixel of a picture in perspective spans of the image, and lookups between pixels."""

import math

import numpy as np

from mabrel.kernels import kernel

MOST = 24
"""Samples a pixel along one axis; what is smaller still has faded into its mean."""


@kernel(inline="always")
def level_for(span, count, few):  # type: ignore[no-untyped-def]
    """The level of which a pixel still spans `few` rows, and how many of its rows make one."""
    level, fewer = 0, 1.0
    while level + 1 < count and span * fewer >= 2 * few:
        level, fewer = level + 1, fewer * 0.5
    return level, fewer


@kernel(inline="always")
def samples(span):  # type: ignore[no-untyped-def]
    """So many that they stand hardly more than a pixel of the image apart."""
    return min(max(math.ceil(abs(span) - 0.1), 1), MOST)


@kernel(inline="always")
def weights(t):  # type: ignore[no-untyped-def]
    """Those of four pixels in a row, of which the second lies before a place by the share `t`
    (Keys, "Cubic convolution interpolation", 1981, a = −½)."""
    half, one = np.float32(0.5), np.float32(1)
    a = ((-half * t + one) * t - half) * t
    b = (np.float32(1.5) * t - np.float32(2.5)) * t * t + one
    c = ((np.float32(-1.5) * t + np.float32(2)) * t + half) * t
    return a, b, c, one - a - b - c
