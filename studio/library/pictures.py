"""Pictures of files: small ones for the lists, larger ones to pick colours in."""

from functools import lru_cache
from pathlib import Path

from mabrel.export import png_bytes
from mabrel.render import Picture
from mabrel.source import (
    LetteringStyle,
    decoded_picture,
    family_for,
    is_drawing,
    library_at,
    outline_text,
    picture_size,
    resampled,
    svg_path,
)


@lru_cache(maxsize=64)
def as_png(home: Path, name: str, version: str, side: int) -> bytes:
    """A picture as PNG, at most `side` pixels on a side. Raises PictureError, LibraryError.

    `version` is that of the file: another one is read anew.
    """
    content = library_at(home).read(name)
    size = picture_size(content, name)
    share = side / max(size.width, size.height)
    if share >= 1 and not is_drawing(content):
        return png_bytes(Picture(decoded_picture(content, name)), level=3)
    drawn = decoded_picture(content, name, share)
    small = resampled(drawn, size.width * share, size.height * share)
    return png_bytes(Picture(small), level=3)


def font_sample(home: Path, name: str, text: str) -> bytes:
    """A word in a font of the library, as an SVG drawing. Raises FontError, LibraryError."""
    fonts = family_for(name, library_at(home))
    outline = outline_text(text, LetteringStyle(name, size=100), fonts)
    left, top, right, bottom = outline.bounds
    box = f"{left:.1f} {top:.1f} {max(right - left, 1):.1f} {max(bottom - top, 1):.1f}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">'
        f'<path d="{svg_path(outline)}"/></svg>'
    ).encode()
