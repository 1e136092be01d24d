"""TIFF files: 8 or 16 bits with straight alpha in sRGB, or float in linear light."""

import io
from functools import cache

import numpy as np
import tifffile
from PIL import ImageCms

from mabrel.colour.spaces import light_of
from mabrel.render import Picture

_PROFILE_TAG = 34675  # ICC profile
_DATE = slice(24, 36)  # of an ICC profile's header: when it was made


def tiff_bytes(picture: Picture, depth: str = "16") -> bytes:
    """The picture as a TIFF, deflated.

    `depth` is ``8`` or ``16``, with straight alpha and an sRGB profile, or ``float``: 32 bits,
    linear light, premultiplied, BT.709 primaries, nothing clipped. Raises ValueError for another.
    """
    if depth == "8":
        return _written(picture.to_uint8(), "unassalpha", profile())
    if depth == "16":
        return _written(picture.to_uint16(), "unassalpha", profile())
    if depth == "float":
        return _written(light_of(picture.pixels), "assocalpha", None)
    raise ValueError(f"a TIFF has 8, 16 or float, not {depth}")


def _written(pixels: np.ndarray, alpha: str, icc: bytes | None) -> bytes:
    out = io.BytesIO()
    extra = [] if icc is None else [(_PROFILE_TAG, 7, len(icc), icc, True)]
    tifffile.imwrite(
        out, pixels, photometric="rgb", extrasamples=[alpha], compression="zlib",
        predictor=pixels.dtype != np.float32, rowsperstrip=64, extratags=extra, metadata=None,
        software="Mabrel",
    )  # fmt: skip
    return out.getvalue()


@cache
def profile() -> bytes:
    """An ICC profile of sRGB, the same at any time."""
    made = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    undated = bytearray(made)
    undated[_DATE] = bytes([7, 208, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0])  # the first day of 2000
    return bytes(undated)
