"""Colour spaces: sRGB's transfer function, brightness, and OKLab."""

import numba
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]

LUMA = (0.2126, 0.7152, 0.0722)
"""The weights of Rec. ITU-R BT.709, here on encoded values: what one sees as brightness."""

# Björn Ottosson, "A perceptual color space for image processing" (2020).
_TO_CONES = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
_TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)


def to_linear(encoded: Array) -> Array:
    """sRGB-encoded to linear light (IEC 61966-2-1); negative values mirror."""
    size = np.abs(encoded)
    low = size / 12.92
    high = ((size + 0.055) / 1.055) ** 2.4
    return np.copysign(np.where(size <= 0.04045, low, high), encoded).astype(np.float32)


def to_encoded(linear: Array) -> Array:
    """Linear light to sRGB-encoded; the inverse of `to_linear`."""
    size = np.abs(linear)
    low = size * 12.92
    high = 1.055 * size ** (1 / 2.4) - 0.055
    return np.copysign(np.where(size <= 0.0031308, low, high), linear).astype(np.float32)


_ENTRIES = 8192
_STEPS = np.asarray(np.arange(_ENTRIES + 2) / _ENTRIES, np.float32)
_LINEAR = to_linear(_STEPS)
_ENCODED = to_encoded(_STEPS**2)


def light_of(picture: Array) -> Array:
    """Premultiplied encoded RGBA (H, W, 4) to premultiplied linear light; alpha stays."""
    out = np.empty(picture.shape, np.float32)
    _convert(np.ascontiguousarray(picture, np.float32), True, out)
    return out


def picture_of(light: Array) -> Array:
    """Premultiplied linear light (H, W, 4) to premultiplied encoded RGBA."""
    out = np.empty(light.shape, np.float32)
    _convert(np.ascontiguousarray(light, np.float32), False, out)
    return out


@numba.njit(cache=True, parallel=True)
def _convert(image, to_light, out):  # type: ignore[no-untyped-def]
    rows, columns = image.shape[:2]
    for y in numba.prange(rows):
        for x in range(columns):
            alpha = image[y, x, 3]
            out[y, x, 3] = alpha
            share = alpha if alpha > np.float32(1e-4) else np.float32(1)
            for c in range(3):
                value = max(image[y, x, c] / share, np.float32(0))
                out[y, x, c] = share * (linear(value) if to_light else encoded(value))


@numba.njit(cache=True, inline="always")
def linear(value):  # type: ignore[no-untyped-def]
    """`to_linear` of one value of at least 0, for kernels: from a table up to 1, within 1e-6."""
    if value >= np.float32(1):
        return ((value + np.float32(0.055)) / np.float32(1.055)) ** np.float32(2.4)
    place = value * np.float32(_ENTRIES)
    low = int(place)
    return _LINEAR[low] + (_LINEAR[low + 1] - _LINEAR[low]) * (place - np.float32(low))


@numba.njit(cache=True, inline="always")
def encoded(value):  # type: ignore[no-untyped-def]
    """`to_encoded` of one value of at least 0, for kernels: from a table over its square root, in
    which it bends but little, up to 1, within 1e-6."""
    if value >= np.float32(1):
        return np.float32(1.055) * value ** np.float32(1 / 2.4) - np.float32(0.055)
    place = np.sqrt(value) * np.float32(_ENTRIES)
    low = int(place)
    return _ENCODED[low] + (_ENCODED[low + 1] - _ENCODED[low]) * (place - np.float32(low))


def brightness(colour: Array) -> Array:
    """Brightness (…) of straight or premultiplied encoded colour (…, 3 or 4)."""
    if colour.ndim == 3 and colour.dtype == np.float32:
        out = np.empty(colour.shape[:2], np.float32)
        _weigh(colour, np.array(LUMA, np.float32), out)
        return out
    return np.asarray(colour[..., :3] @ np.array(LUMA, np.float32), np.float32)


@numba.njit(cache=True, parallel=True)
def _weigh(colour, weights, out):  # type: ignore[no-untyped-def]
    rows, columns = out.shape
    red, green, blue = weights
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            out[y, x] = colour[y, x, 0] * red + colour[y, x, 1] * green + colour[y, x, 2] * blue


def to_oklab(encoded: Array) -> Array:
    """sRGB-encoded (…, 3) to OKLab (…, 3)."""
    cones = np.cbrt(to_linear(encoded) @ _TO_CONES.T)
    return np.asarray(cones @ _TO_LAB.T, np.float32)


def from_oklab(lab: Array) -> Array:
    """OKLab (…, 3) to sRGB-encoded (…, 3), not clamped."""
    cones = (lab @ np.linalg.inv(_TO_LAB).T) ** 3
    return to_encoded(np.asarray(cones @ np.linalg.inv(_TO_CONES).T, np.float32))


def straight(colour: Array) -> Array:
    """Premultiplied RGBA (…, 4) to straight RGB (…, 3); black where there is nothing."""
    alpha = colour[..., 3:]
    return np.asarray(colour[..., :3] / np.maximum(alpha, np.float32(1e-6)), np.float32)
