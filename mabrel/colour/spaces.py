"""Colour spaces: sRGB's transfer function, brightness, and OKLab."""

import numba
import numpy as np
from numpy.typing import ArrayLike, NDArray

from mabrel.colour.transfer import encode, lighten, pack, unpack
from mabrel.kernels import kernel

Array = NDArray[np.float32]
_BLOCK = 4096  # values that one thread converts at a time

LUMA = (0.2126, 0.7152, 0.0722)
"""The weights of Rec. ITU-R BT.709, here on encoded values: what one sees as brightness."""

# Björn Ottosson, "A perceptual color space for image processing" (2020).
CONES = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
"""From linear sRGB to the answers of the eye's cones."""
LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
"""From their cube roots to OKLab."""


def to_linear(encoded: ArrayLike) -> Array:
    """sRGB-encoded to linear light (IEC 61966-2-1), of any shape; negative values mirror."""
    out = np.array(encoded, np.float32, order="C")
    _lighten_all(out.reshape(-1))
    return out


def to_encoded(linear: ArrayLike) -> Array:
    """Linear light to sRGB-encoded; the inverse of `to_linear`."""
    out = np.array(linear, np.float32, order="C")
    _encode_all(out.reshape(-1))
    return out


@kernel(parallel=True)
def _lighten_all(values):  # type: ignore[no-untyped-def]
    for block in numba.prange((values.shape[0] + _BLOCK - 1) // _BLOCK):
        first = np.int64(block) * _BLOCK
        lighten(values[first : first + _BLOCK])


@kernel(parallel=True)
def _encode_all(values):  # type: ignore[no-untyped-def]
    for block in numba.prange((values.shape[0] + _BLOCK - 1) // _BLOCK):
        first = np.int64(block) * _BLOCK
        encode(values[first : first + _BLOCK])


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


@kernel(parallel=True)
def _convert(image, to_light, out):  # type: ignore[no-untyped-def]
    rows, columns = image.shape[:2]
    for line in numba.prange(rows):
        y = np.int64(line)
        planes = np.empty((4, columns), np.float32)
        unpack(image[y], planes)
        for c in range(3):
            if to_light:
                lighten(planes[c])
            else:
                encode(planes[c])
        pack(planes, image[y], out[y])


def brightness(colour: Array) -> Array:
    """Brightness (…) of straight or premultiplied encoded colour (…, 3 or 4)."""
    if colour.strides[-1] == 0 and colour.shape[-1] > 1:  # one channel is all of them
        return np.ascontiguousarray(colour[..., 0], np.float32)
    if colour.ndim == 3 and colour.dtype == np.float32:
        out = np.empty(colour.shape[:2], np.float32)
        _weigh(colour, np.array(LUMA, np.float32), out)
        return out
    return np.asarray(colour[..., :3] @ np.array(LUMA, np.float32), np.float32)


@kernel(parallel=True)
def _weigh(colour, weights, out):  # type: ignore[no-untyped-def]
    rows, columns = out.shape
    red, green, blue = weights
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            out[y, x] = colour[y, x, 0] * red + colour[y, x, 1] * green + colour[y, x, 2] * blue


def to_oklab(encoded: Array) -> Array:
    """sRGB-encoded (…, 3) to OKLab (…, 3)."""
    cones = np.cbrt(to_linear(encoded) @ np.asarray(CONES.T, np.float32))
    return np.asarray(cones @ np.asarray(LAB.T, np.float32), np.float32)


def from_oklab(lab: Array) -> Array:
    """OKLab (…, 3) to sRGB-encoded (…, 3), not clamped."""
    roots = np.asarray(lab, np.float32) @ np.asarray(np.linalg.inv(LAB).T, np.float32)
    cones = roots * roots * roots
    return to_encoded(cones @ np.asarray(np.linalg.inv(CONES).T, np.float32))


def straight(colour: Array) -> Array:
    """Premultiplied RGBA (…, 4) to straight RGB (…, 3); black where there is nothing."""
    alpha = colour[..., 3:]
    return np.asarray(colour[..., :3] / np.maximum(alpha, np.float32(1e-6)), np.float32)
