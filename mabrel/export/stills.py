"""The formats of single pictures, each with what it can hold."""

from collections.abc import Callable
from dataclasses import dataclass

from mabrel.export.exr import exr_bytes
from mabrel.export.flat import laid_over
from mabrel.export.photo import photo_bytes
from mabrel.export.png import png_bytes
from mabrel.export.tiff import tiff_bytes
from mabrel.render import Picture

Write = Callable[[Picture, str, int], bytes]
"""From a picture, a depth and a quality to a file's content."""


@dataclass(frozen=True)
class Still:
    """One format of pictures."""

    name: str
    label: str
    suffix: str
    media: str
    depths: tuple[str, ...]
    """What a channel may have: bits, or ``half`` and ``float``; the first is the usual one."""
    alpha: bool
    lossy: bool
    write: Write


STILLS: dict[str, Still] = {
    each.name: each
    for each in (
        Still(
            "png", "PNG", ".png", "image/png", ("8", "16"), True, False,
            lambda picture, depth, quality: png_bytes(picture, int(depth)),
        ),
        Still(
            "tiff", "TIFF", ".tif", "image/tiff", ("16", "8", "float"), True, False,
            lambda picture, depth, quality: tiff_bytes(picture, depth),
        ),
        Still(
            "exr", "OpenEXR", ".exr", "image/x-exr", ("half", "float"), True, False,
            lambda picture, depth, quality: exr_bytes(picture, depth),
        ),
        Still(
            "jpeg", "JPEG", ".jpg", "image/jpeg", ("8",), False, True,
            lambda picture, depth, quality: photo_bytes(picture, "JPEG", quality),
        ),
        Still(
            "webp", "WebP", ".webp", "image/webp", ("8",), True, True,
            lambda picture, depth, quality: photo_bytes(picture, "WEBP", quality),
        ),
        Still(
            "avif", "AVIF", ".avif", "image/avif", ("8",), True, True,
            lambda picture, depth, quality: photo_bytes(picture, "AVIF", quality),
        ),
    )
}  # fmt: skip
SUFFIXES = {".jpeg": "jpeg", ".tiff": "tiff"} | {each.suffix: each.name for each in STILLS.values()}


def still_bytes(
    picture: Picture,
    form: str,
    depth: str | None = None,
    quality: int = 90,
    ground: str = "#000000",
) -> bytes:
    """A picture in a format of `STILLS`.

    Parameters
    ----------
    picture : Picture
        Premultiplied, sRGB-encoded.
    form, depth : str
        The format and one of its depths; without one the usual.
    quality : int
        1 to 100, where the format loses something.
    ground : str
        A colour code: what it lies over in a format without alpha.

    Raises
    ------
    ValueError
        For a format, a depth or a size that isn't possible.
    """
    still = STILLS.get(form)
    if still is None:
        raise ValueError(f"there is no format {form!r}; there are {', '.join(STILLS)}")
    depth = depth or still.depths[0]
    if depth not in still.depths:
        raise ValueError(f"{still.label} has {' or '.join(still.depths)}, not {depth}")
    if not 1 <= quality <= 100:
        raise ValueError(f"a quality is from 1 to 100, not {quality}")
    return still.write(picture if still.alpha else laid_over(picture, ground), depth, quality)
