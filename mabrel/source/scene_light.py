"""Pictures that hold scene light in floating point: OpenEXR and Radiance HDR."""

import re
import tempfile

import cv2
import numpy as np
import OpenEXR
from numpy.typing import NDArray

from mabrel.source.picture_error import PictureError
from mabrel.source.raster import rgba

Array = NDArray[np.float32]
_RESOLUTION = re.compile(rb"\n[-+]Y (\d{1,7}) [-+]X (\d{1,7})\n")
_HEADER = 65_536
_BRIGHTEST = 65_504.0  # the largest half float: what is brighter is a fault or the sun itself


def hdr_size(content: bytes, name: str) -> tuple[int, int]:
    """Width and height from the header. Raises PictureError."""
    found = _RESOLUTION.search(content[:_HEADER])
    if found is None:
        raise PictureError(name, "is damaged: it doesn't say its size")
    return int(found[2]), int(found[1])


def decoded_hdr(content: bytes, name: str) -> Array:
    """Linear RGBA (H, W, 4). Raises PictureError."""
    width, height = hdr_size(content, name)
    if len(content) < height * 4:
        raise PictureError(name, "is damaged: it ends too early")
    try:
        pixels = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    except cv2.error:
        pixels = None
    if pixels is None or pixels.shape[:2] != (height, width):
        raise PictureError(name, "is damaged")
    return _finite(rgba(pixels.astype(np.float32)))


def exr_size(content: bytes, name: str) -> tuple[int, int]:
    """Width and height from the header. Raises PictureError."""
    header = _opened(content, name, header_only=True).header()
    low, high = header["dataWindow"]
    return int(high[0] - low[0] + 1), int(high[1] - low[1] + 1)


def decoded_exr(content: bytes, name: str) -> Array:
    """Linear, premultiplied RGBA (H, W, 4) from the channels R, G, B, A or Y. Raises
    PictureError."""
    channels = _opened(content, name).channels()
    planes = {key: np.asarray(channel.pixels, np.float32) for key, channel in channels.items()}
    shape = next(iter(planes.values())).shape[:2] if planes else (0, 0)
    whole = [planes.get(key) for key in "RGBA"]
    if all(plane is None for plane in whole[:3]):
        grey = planes.get("Y")
        if grey is None:
            raise PictureError(name, "has no channels R, G, B or Y")
        whole[:3] = [grey, grey, grey]
    out = np.ones((*shape, 4), np.float32)
    for index, plane in enumerate(whole):
        if plane is not None:
            out[..., index] = plane
        elif index < 3:
            out[..., index] = 0
    return _finite(out)


def _opened(content: bytes, name: str, header_only: bool = False) -> "OpenEXR.File":
    # The library reads from files alone.
    with tempfile.NamedTemporaryFile(suffix=".exr") as file:
        file.write(content)
        file.flush()
        try:
            return OpenEXR.File(file.name, separate_channels=True, header_only=header_only)
        except (RuntimeError, ValueError, TypeError) as broken:
            fault = str(broken).replace(file.name, "").strip().splitlines()
            said = fault[0].strip(" :\"'.") if fault else "it can't be read"
            raise PictureError(name, f"is damaged: {said}") from None


def _finite(colour: Array) -> Array:
    finite = np.nan_to_num(colour, nan=0.0, posinf=_BRIGHTEST, neginf=0.0)
    return np.asarray(np.clip(finite, 0, _BRIGHTEST), np.float32)
