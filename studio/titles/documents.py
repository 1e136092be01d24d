"""Documents as they come from the page: their files lie in the studio's library."""

from typing import Annotated

from django.conf import settings
from pydantic import AfterValidator

from mabrel import Title

PICTURES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".exr", ".hdr", ".svg")


def at_home(document: Title) -> Title:
    """The document, its pictures and fonts in the studio's library."""
    return document.at_home(settings.LIBRARY_DIR)


def own_pictures() -> list[str]:
    """The names of the pictures in the studio's library."""
    folder = settings.LIBRARY_DIR
    there = sorted(folder.rglob("*")) if folder.is_dir() else []
    return [str(path.relative_to(folder)) for path in there if path.suffix.lower() in PICTURES]


Document = Annotated[Title, AfterValidator(at_home)]
