"""PNG files: 8 or 16 bits a channel, straight alpha, sRGB."""

import struct
import zlib

import cv2
import numpy as np

from mabrel.render import Picture

_SIGNATURE = 8


def png_bytes(picture: Picture, bits: int = 8, level: int = 6) -> bytes:
    """The picture as a PNG with an sRGB chunk. `bits` is 8 or 16, `level` zlib's 0 to 9.

    Raises ValueError for other bits.
    """
    if bits == 8:
        pixels: np.ndarray = picture.to_uint8()
    elif bits == 16:
        pixels = picture.to_uint16()
    else:
        raise ValueError(f"a PNG has 8 or 16 bits a channel, not {bits}")
    swapped = cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGRA)
    good, encoded = cv2.imencode(".png", swapped, [cv2.IMWRITE_PNG_COMPRESSION, level])
    if not good:
        raise ValueError("the PNG could not be written")
    return _with_srgb(encoded.tobytes())


def _with_srgb(png: bytes) -> bytes:
    """Say that the colours are sRGB, rendered perceptually (PNG specification, 11.3.2.5)."""
    header = _SIGNATURE + 4 + 4 + 13 + 4
    body = b"sRGB\x00"
    chunk = struct.pack(">I", 1) + body + struct.pack(">I", zlib.crc32(body))
    return png[:header] + chunk + png[header:]
