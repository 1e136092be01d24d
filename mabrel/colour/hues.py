"""Hue, strength of colour and lightness of pictures, in OKLab.

B. Ottosson, "A perceptual color space for image processing", 2020.
"""

import math

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.spaces import CONES, LAB
from mabrel.colour.transfer import encode, lighten, pack, unpack
from mabrel.kernels import kernel

Array = NDArray[np.float32]
_MOST_CHROMA = 0.25  # about what sRGB's strongest colours have
_THIRD_OF_ONE = 709921077  # what a third of a float's bits lacks to those of its cube root, about


def with_hues(
    picture: Array, turn: float, strength: float, lightness: float, one_hue: bool
) -> Array:
    """Premultiplied encoded RGBA (H, W, 4) with its hues turned by `turn` radians and its chroma
    `strength` times as large; or, with `one_hue`, all of it in the hue `turn`, the chroma swelling
    between black and white, which have none. `lightness` (−1..1) is added.

    In dark colours chroma is held to what sRGB has at that hue and lightness, where one of its
    channels reaches 0; brighter than its channels' 1 a colour may be. All of OKLab that a channel
    of 0 bounds scales with the lightness (B. Ottosson, "sRGB gamut clipping", 2021). Cut off
    channel by channel, dark colours would turn into pure red, green or blue.
    """
    out = np.empty(picture.shape, np.float32)
    change = np.array([math.cos(turn), math.sin(turn), strength, lightness], np.float32)
    picture = np.ascontiguousarray(picture, np.float32)
    _change(picture, change, one_hue, *_MATRICES, _WIDEST_CHROMA, out)
    return out


@kernel(parallel=True)
def _change(picture, change, one_hue, cones, lab, widest, out):  # type: ignore[no-untyped-def]
    rows, columns = picture.shape[:2]
    for line in numba.prange(rows):
        y = np.int64(line)
        planes = np.empty((4, columns), np.float32)
        mixed, roots = np.empty((3, columns), np.float32), np.empty((3, columns), np.float32)
        unpack(picture[y], planes)
        for c in range(3):
            lighten(planes[c])
        _mix(cones[0], planes, mixed)
        _cube_roots(mixed, roots)
        _mix(lab[0], roots, mixed)
        _turn(mixed, change, one_hue, widest)
        _mix(lab[1], mixed, roots)
        roots *= roots * roots
        _mix(cones[1], roots, planes)
        for c in range(3):
            encode(planes[c])
        planes[3] = picture[y, :, 3]  # where nothing covers, no lightness comes into being
        pack(planes, picture[y], out[y])


@kernel()
def _mix(matrix, given, out):  # type: ignore[no-untyped-def]
    """Three channels (3, N), each from all three."""
    for c in range(3):
        a, b, d = matrix[c, 0], matrix[c, 1], matrix[c, 2]
        for x in range(given.shape[1]):
            out[c, x] = a * given[0, x] + b * given[1, x] + d * given[2, x]


@kernel()
def _cube_roots(values, roots):  # type: ignore[no-untyped-def]
    """Of values of at least 0, to a float's precision: guessed by their bits, then twice bettered
    by Halley's method."""
    for c in range(3):
        roots[c] = values[c]
        bits = roots[c].view(np.int32)
        for x in range(bits.shape[0]):
            bits[x] = bits[x] // 3 + _THIRD_OF_ONE
        for x in range(bits.shape[0]):
            value, root = values[c, x], roots[c, x]
            for _ in range(2):
                cube = root * root * root
                root *= (cube + value + value) / (cube + cube + value)
            roots[c, x] = root


@kernel()
def _turn(lab, change, one_hue, widest):  # type: ignore[no-untyped-def]
    """Change the hue, chroma and lightness of colours (3, N), in place."""
    cos, sin, strength, lightness = change
    zero, one = np.float32(0), np.float32(1)
    ends = np.float32((widest.shape[0] - 1) / (2 * math.pi))
    for x in range(lab.shape[1]):
        light, a, b = lab[0, x], lab[1, x], lab[2, x]
        if one_hue:
            swell = min(max(np.float32(4) * light * (one - light), zero), one)
            a, b = np.float32(_MOST_CHROMA / 2) * swell, zero
        light += lightness
        a, b = strength * (a * cos - b * sin), strength * (a * sin + b * cos)
        chroma = np.sqrt(a * a + b * b)
        angle = np.arctan2(b, a)
        place = (angle if angle >= zero else angle + np.float32(2 * math.pi)) * ends
        before = min(int(place), widest.shape[0] - 2)
        most = widest[before] + (widest[before + 1] - widest[before]) * (place - before)
        share = min(most * max(light, zero) / max(chroma, np.float32(1e-9)), one)
        lab[0, x], lab[1, x], lab[2, x] = light, a * share, b * share


def _widest_chroma() -> Array:
    """The chroma for each lightness at which a channel reaches 0, by hue in even steps."""
    turn = np.linspace(0, 2 * np.pi, 361)
    low, high = np.zeros(361), np.full(361, 1.5)
    for _ in range(30):
        middle = (low + high) / 2
        lab = np.stack([np.ones(361), middle * np.cos(turn), middle * np.sin(turn)], axis=-1)
        cones = (lab @ np.linalg.inv(LAB).T) ** 3
        inside = (cones @ np.linalg.inv(CONES).T).min(axis=-1) >= 0
        low, high = np.where(inside, middle, low), np.where(inside, high, middle)
    return np.asarray(low, np.float32)


def _there_and_back(matrix: NDArray[np.float64]) -> Array:
    return np.asarray(np.stack([matrix, np.linalg.inv(matrix)]), np.float32)


_MATRICES = _there_and_back(CONES), _there_and_back(LAB)
_WIDEST_CHROMA = _widest_chroma()
