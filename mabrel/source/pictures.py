"""Pictures from files: PNG, JPEG, WebP, TIFF, EXR, Radiance HDR and SVG; a clip by its first frame.

What kind of file it is comes from its content, never from its name. Size and structure are
checked before anything is decoded, so that a hostile file costs neither time nor memory.
"""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.colour.spaces import straight, to_encoded
from mabrel.source.clips import Clip, looks_like_clip
from mabrel.source.picture_error import PictureError
from mabrel.source.raster import decoded_raster, raster_size
from mabrel.source.scene_light import decoded_exr, decoded_hdr, exr_size, hdr_size
from mabrel.source.svg import decoded_svg, looks_like_svg, svg_size

Array = NDArray[np.float32]
LARGEST_PICTURE = 40_000_000
LARGEST_SIDE = 30_000


class PictureSize(NamedTuple):
    width: int
    height: int


def picture_size(content: bytes, name: str) -> PictureSize:
    """Width and height in pixels, from the header alone; those of an SVG in its own units.

    Raises PictureError where the file is broken, of no known kind, or too large.
    """
    size = PictureSize(*_format(content, name).size(content, name))
    width, height = size
    if width < 1 or height < 1:
        raise PictureError(name, "has no pixels")
    if width > LARGEST_SIDE or height > LARGEST_SIDE or width * height > LARGEST_PICTURE:
        raise PictureError(
            name,
            f"has {width} × {height} pixels; at most {LARGEST_PICTURE // 1_000_000} million "
            f"and {LARGEST_SIDE} on a side can be used",
        )
    return size


def decoded_picture(content: bytes, name: str, scale: float = 1.0) -> Array:
    """The picture as (H, W, 4), premultiplied and sRGB-encoded, not clamped.

    Files that hold scene light (EXR, Radiance HDR) are encoded by sRGB's own function beyond
    white. An SVG is drawn at `scale` times its own size; the other kinds have pixels of their
    own and leave it. Of a clip it is the first frame. Raises PictureError.
    """
    size = picture_size(content, name)
    return _format(content, name).decode(content, name, size, scale)


def is_drawing(content: bytes) -> bool:
    """Whether it is drawn at any size: an SVG."""
    return looks_like_svg(content)


class _Format(NamedTuple):
    size: Callable[[bytes, str], tuple[int, int]]
    decode: Callable[[bytes, str, PictureSize, float], Array]


def _format(content: bytes, name: str) -> _Format:
    if looks_like_clip(content):
        return _Format(_clip_size, lambda c, n, s, _: _clip(c, n).frame(0))
    if content.startswith(b"\x76\x2f\x31\x01"):
        return _Format(exr_size, lambda c, n, s, _: _from_light(decoded_exr(c, n)))
    if content.startswith((b"#?RADIANCE", b"#?RGBE")):
        return _Format(hdr_size, lambda c, n, s, _: _from_light(decoded_hdr(c, n)))
    if looks_like_svg(content):
        return _Format(svg_size, decoded_svg)
    return _Format(raster_size, lambda c, n, s, _: _premultiplied(decoded_raster(c, n)))


def _clip(content: bytes, name: str) -> Clip:
    return Clip(content, name)


def _clip_size(content: bytes, name: str) -> tuple[int, int]:
    clip = _clip(content, name)
    return clip.width, clip.height


def _from_light(linear: Array) -> Array:
    """Premultiplied linear light (H, W, 4) to premultiplied encoded colour."""
    alpha = linear[..., 3:]
    linear[..., :3] = to_encoded(straight(linear)) * alpha
    return linear


def _premultiplied(straight: Array) -> Array:
    straight[..., :3] *= straight[..., 3:]
    return straight
