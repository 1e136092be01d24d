"""JPEG, WebP and AVIF: small pictures for the web."""

import io

from PIL import Image

from mabrel.export.tiff import profile
from mabrel.render import Picture

LARGEST = {"JPEG": 65_500, "WEBP": 16_383, "AVIF": 16_384}


def photo_bytes(picture: Picture, form: str, quality: int = 90) -> bytes:
    """The picture in 8 bits as ``JPEG`` (without alpha), ``WEBP`` or ``AVIF``, marked as sRGB.

    `quality` is 1 to 100; WebP of 100 loses nothing. Raises ValueError for a picture that is
    larger than the format can have.
    """
    most = LARGEST[form]
    if max(picture.pixels.shape[:2]) > most:
        raise ValueError(f"a {form} is at most {most:,} pixels on a side")
    pixels = picture.to_uint8()
    image = Image.fromarray(pixels[..., :3] if form == "JPEG" else pixels)
    out = io.BytesIO()
    image.save(out, form, icc_profile=profile(), **_ways(form, quality))
    return out.getvalue()


def _ways(form: str, quality: int) -> dict[str, int | bool | str]:
    if form == "JPEG":
        return {"quality": quality, "subsampling": 0, "optimize": True}
    if form == "WEBP":
        return {"quality": quality, "lossless": quality == 100, "method": 4}
    return {"quality": quality, "subsampling": "4:4:4", "speed": 6}
