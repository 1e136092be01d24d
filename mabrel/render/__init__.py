"""Planning, cache and renderer."""

from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel, Cancelled
from mabrel.render.errors import RenderError
from mabrel.render.picture import Picture
from mabrel.render.renderer import Fields, Renderer, Window
from mabrel.render.taps import TAPS

__all__ = [
    "TAPS",
    "Cache",
    "Cancel",
    "Cancelled",
    "Fields",
    "Picture",
    "RenderError",
    "Renderer",
    "Window",
]
