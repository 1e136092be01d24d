"""Pictures made of pixels, 8 or 16 bits deep: PNG, JPEG, WebP, TIFF."""

import io
import struct
import warnings

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps, TiffImagePlugin, UnidentifiedImageError

from mabrel.source.picture_error import PictureError

Array = NDArray[np.float32]
# What OpenCV finds wrong with a file is said in words of our own.
cv2.utils.logging.setLogLevel(cv2.utils.logging.LOG_LEVEL_SILENT)
_FORMATS = ("PNG", "JPEG", "WEBP", "TIFF")
_BROKEN = (OSError, ValueError, SyntaxError, EOFError, LookupError, TypeError, struct.error)
_Tags = TiffImagePlugin.ImageFileDirectory_v2
_TIFF = (b"II*\0", b"MM\0*")
_WIDTH, _HEIGHT, _BITS = 256, 257, 258
_STRIPS, _STRIP_SIZES, _TILES, _TILE_SIZES = 273, 279, 324, 325


def raster_size(content: bytes, name: str) -> tuple[int, int]:
    """Width and height from the header. Raises PictureError."""
    if content.startswith(_TIFF):
        tags = _tiff_tags(content, name)
        return _numbers(tags, _WIDTH, name)[0], _numbers(tags, _HEIGHT, name)[0]
    with _opened(content, name) as image:
        width, height = image.size
        # Asked for its EXIF, Pillow decodes all of a PNG; those from cameras are no PNGs.
        turned = image.format != "PNG" and image.getexif().get(0x0112, 1) in (5, 6, 7, 8)
        return (height, width) if turned else (width, height)


def decoded_raster(content: bytes, name: str) -> Array:
    """Straight RGBA (H, W, 4), 0..1, upright. The size must have been checked before.

    Raises PictureError for a file that ends too early or is damaged.
    """
    if content.startswith(_TIFF) and _deep(_tiff_tags(content, name), name):
        return _through_opencv(content, name)
    with _opened(content, name) as image:
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                image.load()
        except _BROKEN as broken:
            raise PictureError(name, f"is damaged: {broken}") from None
        deep = image.mode.startswith("I") or _sixteen_bits(content)
        if deep:
            return _through_opencv(content, name)
        upright = image if image.format == "PNG" else ImageOps.exif_transpose(image)
        upright = upright.convert("RGBA")
        return np.asarray(upright, np.float32) / np.float32(255)


def _opened(content: bytes, name: str) -> Image.Image:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # a large picture: our own limit says it better
            return Image.open(io.BytesIO(content), formats=_FORMATS)
    except Image.DecompressionBombError:
        raise PictureError(name, "has far more pixels than can be used") from None
    except UnidentifiedImageError:
        raise PictureError(
            name, "is no PNG, JPEG, WebP, TIFF, EXR, Radiance HDR or SVG, or is damaged"
        ) from None
    except _BROKEN as broken:
        raise PictureError(name, f"is damaged: {broken}") from None


def _sixteen_bits(content: bytes) -> bool:
    """Whether a PNG has 16 bits a channel (the depth stands in its first chunk)."""
    return content.startswith(b"\x89PNG") and len(content) > 24 and content[24] == 16


def _deep(tags: _Tags, name: str) -> bool:
    return _BITS in tags and max(_numbers(tags, _BITS, name)) > 8


def _tiff_tags(content: bytes, name: str) -> _Tags:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what is wrong with a tag is said below
            tags = _Tags(content[:8])
            file = io.BytesIO(content)
            file.seek(tags.next)
            tags.load(file)
    except _BROKEN as broken:
        raise PictureError(name, f"is damaged: {broken}") from None
    where = (_STRIPS, _STRIP_SIZES) if _STRIPS in tags else (_TILES, _TILE_SIZES)
    offsets, sizes = (_numbers(tags, tag, name) for tag in where)
    ends = [start + size for start, size in zip(offsets, sizes, strict=False)]
    if max(ends) > len(content):
        raise PictureError(name, "is damaged: it ends too early")
    return tags


def _numbers(tags: _Tags, tag: int, name: str) -> tuple[int, ...]:
    """A field that holds whole numbers, at least one."""
    try:
        value = tags[tag]
    except (KeyError, *_BROKEN):
        raise PictureError(name, f"is damaged: field {tag} is missing") from None
    values = value if isinstance(value, tuple) else (value,)
    if not values or not all(isinstance(each, int) for each in values):
        raise PictureError(name, f"is damaged: field {tag} holds no whole numbers")
    return values


def _through_opencv(content: bytes, name: str) -> Array:
    """Integer depths of 8 and 16 bits become 0..1; floating point stays."""
    try:
        pixels = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    except cv2.error:
        pixels = None
    if pixels is None:
        raise PictureError(name, "is damaged")
    if pixels.dtype.kind == "f":
        values = np.nan_to_num(pixels.astype(np.float32), posinf=0, neginf=0)
    else:
        values = pixels.astype(np.float32) / np.float32(np.iinfo(pixels.dtype).max)
    return rgba(values)


def rgba(values: Array) -> Array:
    """Grey, grey with alpha, BGR or BGRA, as OpenCV has them, as RGBA."""
    if values.ndim == 2:
        values = values[..., None]
    out = np.ones((*values.shape[:2], 4), np.float32)
    channels = values.shape[2]
    out[..., :3] = values[..., :1] if channels < 3 else values[..., 2::-1]
    if channels in (2, 4):
        out[..., 3] = values[..., -1]
    return out
