"""Pictures that hold scene light in floating point: OpenEXR and Radiance HDR."""

import contextlib
import io
import os
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import OpenEXR
from numpy.typing import NDArray

from mabrel.source.picture_error import PictureError
from mabrel.source.raster import rgba

Array = NDArray[np.float32]
_RESOLUTION = re.compile(rb"\n[-+]Y (\d{1,7}) [-+]X (\d{1,7})\n")
_HEADER = 65_536
LARGEST_EXR = 160_000_000
"""Values of all channels and parts: the library reads every one of them."""
_BRIGHTEST = 65_504.0  # the largest half float: what is brighter is a fault or the sun itself


def hdr_size(content: bytes, name: str) -> tuple[int, int]:
    """Width and height from the header. Raises PictureError."""
    height, width, _ = _hdr_parts(content, name)
    return width, height


def decoded_hdr(content: bytes, name: str) -> Array:
    """Linear RGBA (H, W, 4). Raises PictureError."""
    height, width, rows = _hdr_parts(content, name)
    if len(rows) < height * 4:
        raise PictureError(name, "is damaged: it ends too early")
    # A header of our own: OpenCV may find another size in a longer one.
    header = b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y %d +X %d\n" % (height, width)
    try:
        pixels = cv2.imdecode(np.frombuffer(header + rows, np.uint8), cv2.IMREAD_UNCHANGED)
    except cv2.error:
        pixels = None
    if pixels is None or pixels.shape[:2] != (height, width):
        raise PictureError(name, "is damaged")
    return _finite(rgba(pixels.astype(np.float32)))


def _hdr_parts(content: bytes, name: str) -> tuple[int, int, bytes]:
    """Height, width and the rows, which follow the first line that says a size."""
    found = _RESOLUTION.search(content[:_HEADER])
    if found is None:
        raise PictureError(name, "is damaged: it doesn't say its size")
    return int(found[1]), int(found[2]), content[found.end() :]


def exr_size(content: bytes, name: str) -> tuple[int, int]:
    """Width and height from the header of the first part. Raises PictureError."""
    sizes = [_part_size(part.header, name) for part in _parts(content, name, True)]
    if sum(width * height * channels for width, height, channels in sizes) > LARGEST_EXR:
        raise PictureError(
            name,
            f"has {sum(size[2] for size in sizes)} channels in all, too many for its size: at "
            f"most {LARGEST_EXR // 1_000_000} million values can be read",
        )
    return sizes[0][:2]


def _part_size(header: dict[str, Any], name: str) -> tuple[int, int, int]:
    """Width, height and number of channels."""
    try:
        if header["type"] not in (OpenEXR.scanlineimage, OpenEXR.tiledimage):
            raise PictureError(name, "holds deep pixels, which can't be read")
        low, high = header["dataWindow"]
        across, down = int(high[0]) - int(low[0]) + 1, int(high[1]) - int(low[1]) + 1
        return across, down, len(header["channels"])
    except (LookupError, TypeError) as missing:
        raise PictureError(name, f"is damaged: {missing} is missing") from None


def decoded_exr(content: bytes, name: str) -> Array:
    """Linear, premultiplied RGBA (H, W, 4) from the channels R, G, B, A or Y. Raises
    PictureError."""
    width, height = exr_size(content, name)
    part = _parts(content, name)[0]
    listed = {channel.name for channel in part.header["channels"]}
    used = [key for key in "RGBA" if key in listed]
    if not set(used) & set("RGB"):
        used = ["Y", "A"] if "A" in listed else ["Y"]
        if "Y" not in listed:
            raise PictureError(name, "has no channels R, G, B or Y")
    out = np.zeros((height, width, 4), np.float32)
    out[..., 3] = 1
    for key in used:
        plane = part.channels.get(key)
        if plane is None or np.shape(plane.pixels) != (height, width):
            raise PictureError(name, f"is damaged: channel {key} can't be read whole")
        for index in [0, 1, 2] if key == "Y" else ["RGBA".index(key)]:
            out[..., index] = plane.pixels
    return _finite(out)


def _parts(content: bytes, name: str, header_only: bool = False) -> "list[OpenEXR.Part]":
    """At least one; their channels are empty where only headers are read."""
    try:
        with _silenced():
            file = io.BytesIO(content)
            opened = OpenEXR.File(file, separate_channels=True, header_only=header_only)
            if not opened.parts:
                raise PictureError(name, "is damaged: there is no picture in it")
            return list(opened.parts)
    except PictureError:
        raise
    except (RuntimeError, ValueError, TypeError, MemoryError) as broken:
        fault = str(broken).replace("<python_buffer>", "").strip().splitlines()
        said = fault[0].strip(" :\"'.") if fault else "it can't be read"
        raise PictureError(name, f"is damaged: {said}") from None


@contextlib.contextmanager
def _silenced() -> Iterator[None]:
    """The library prints what it finds wrong; the caller says it in words of its own."""
    with contextlib.redirect_stdout(io.StringIO()):
        kept = os.dup(2)
        try:
            with Path(os.devnull).open("w") as nowhere:
                os.dup2(nowhere.fileno(), 2)
            yield
        finally:
            os.dup2(kept, 2)
            os.close(kept)


def _finite(colour: Array) -> Array:
    finite = np.nan_to_num(colour, nan=0.0, posinf=_BRIGHTEST, neginf=0.0)
    return np.asarray(np.clip(finite, 0, _BRIGHTEST), np.float32)
