"""Planning, cache and renderer."""

from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel, Cancelled
from mabrel.render.errors import RenderError
from mabrel.render.node import Node, nodes_of
from mabrel.render.picture import Picture
from mabrel.render.pictures import picture_ink
from mabrel.render.renderer import Fields, Renderer, Window
from mabrel.render.running import Estimate
from mabrel.render.taps import TAPS

__all__ = [
    "TAPS",
    "Cache",
    "Cancel",
    "Cancelled",
    "Estimate",
    "Fields",
    "Node",
    "Picture",
    "RenderError",
    "Renderer",
    "Window",
    "nodes_of",
    "picture_ink",
]
