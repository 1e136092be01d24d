"""Mabrel: flat lettering that looks three-dimensional, without a 3D scene."""

from pathlib import Path
from typing import Any

from mabrel import colour, field, light
from mabrel.compose import apply_finish, finishes, new_title, swap
from mabrel.render import Cancel, Cancelled, Picture, Renderer, RenderError, Window
from mabrel.source import FontError, LibraryError, PictureError, families
from mabrel.steps import catalogue, check_title
from mabrel.title import Title, TitleError, parse_title, write_title
from mabrel.title import read_title as _read_title

__all__ = [
    "Cancel",
    "Cancelled",
    "FontError",
    "LibraryError",
    "Picture",
    "PictureError",
    "RenderError",
    "Renderer",
    "Title",
    "TitleError",
    "Window",
    "apply_finish",
    "catalogue",
    "check_title",
    "colour",
    "families",
    "field",
    "finishes",
    "light",
    "new_title",
    "parse_title",
    "read_title",
    "render",
    "swap",
    "write_title",
]


def read_title(path: str | Path) -> Title:
    """Read a title from a file, its steps held against the catalogue.

    Raises TitleError that names the place and the rule, and OSError.
    """
    title = _read_title(path)
    try:
        return check_title(title)
    except TitleError as error:
        raise TitleError(Path(path).name, str(error)) from None


def render(title: Title, **how: Any) -> Picture:
    """Render a title once; see `Renderer.render`. A `Renderer` of one's own keeps results.

    Examples
    --------
    >>> picture = render(new_title("KELP", frame=(160, 90)))
    >>> picture.to_uint8().shape
    (90, 160, 4)
    """
    return Renderer().render(title, **how)
