"""Pictures as the frames that codecs take."""

from typing import Any

import av
import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.render import Picture
from mabrel.source.images import spread_colour

Array = NDArray[np.float32]


def with_alpha_420(picture: Picture) -> Any:
    """Y, U, V and alpha of 8 bits (BT.709, limited range, 4:2:0).

    Where nothing covers, the colour of what is nearest goes on, so that half the chroma leaves no
    fringe.
    """
    straight = picture.to_uint8()
    shares = straight.astype(np.float32) / np.float32(255)
    shares[..., :3] *= shares[..., 3:]
    spread = np.clip(spread_colour(shares)[..., :3], 0, 1)
    covered = straight[..., 3:] > 0
    rgb = np.where(covered, straight[..., :3] / np.float32(255), spread).astype(np.float32)
    planes = [*_ycc(rgb, 8), straight[..., 3]]
    return _frame("yuva420p", straight.shape, planes)


def opaque_420(picture: Picture) -> Any:
    """Y, U and V of 8 bits (BT.709, limited range, 4:2:0)."""
    pixels = picture.to_uint8()
    return _frame("yuv420p", pixels.shape, _ycc(_shares(pixels, 255), 8))


def opaque_420_of_10(picture: Picture) -> Any:
    """Y, U and V of 10 bits (BT.709, limited range, 4:2:0)."""
    pixels = picture.to_uint16()
    return _frame("yuv420p10le", pixels.shape, _ycc(_shares(pixels, 65535), 10))


def whole_16(picture: Picture) -> Any:
    """Green, blue, red and straight alpha of 16 bits: nothing is lost."""
    pixels = picture.to_uint16()
    return _frame("gbrap16le", pixels.shape, [pixels[..., i] for i in (1, 2, 0, 3)])


def whole_8(picture: Picture) -> Any:
    """Straight RGBA of 8 bits."""
    return av.VideoFrame.from_ndarray(picture.to_uint8(), format="rgba")


def whole_8_reversed(picture: Picture) -> Any:
    """Straight BGRA of 8 bits."""
    pixels = np.ascontiguousarray(picture.to_uint8()[..., [2, 1, 0, 3]])
    return av.VideoFrame.from_ndarray(pixels, format="bgra")


def _shares(pixels: np.ndarray, most: int) -> Array:
    return np.asarray(pixels[..., :3] / np.float32(most), np.float32)


def _ycc(rgb: Array, bits: int) -> list[np.ndarray]:
    """BT.709 in limited range; colour differences are means of four pixels."""
    y = rgb @ np.array([0.2126, 0.7152, 0.0722], np.float32)
    half = ((y.shape[1] + 1) // 2, (y.shape[0] + 1) // 2)
    u = cv2.resize((rgb[..., 2] - y) / np.float32(1.8556), half, interpolation=cv2.INTER_AREA)
    v = cv2.resize((rgb[..., 0] - y) / np.float32(1.5748), half, interpolation=cv2.INTER_AREA)
    unit = np.float32(2 ** (bits - 8))
    kind = np.uint8 if bits == 8 else np.uint16
    levels = ((y * 219 + 16) * unit, (u * 224 + 128) * unit, (v * 224 + 128) * unit)
    return [np.rint(plane).astype(kind) for plane in levels]


def _frame(form: str, shape: tuple[int, ...], planes: list[np.ndarray]) -> Any:
    frame = av.VideoFrame(shape[1], shape[0], form)
    for plane, values in zip(frame.planes, planes, strict=True):
        rows = np.frombuffer(plane, values.dtype).reshape(-1, plane.line_size // values.itemsize)
        rows[: values.shape[0], : values.shape[1]] = values  # rows may be padded
    return frame
