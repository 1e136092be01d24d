"""Planning, cache and renderer."""

from mabrel.render.apart import Planes
from mabrel.render.asked import Window
from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel, Cancelled
from mabrel.render.cells import CellGrid
from mabrel.render.data import Data
from mabrel.render.errors import RenderError
from mabrel.render.node import Node, nodes_of
from mabrel.render.parts import Shard
from mabrel.render.picture import Picture
from mabrel.render.pictures import picture_ink
from mabrel.render.renderer import Fields, Renderer
from mabrel.render.running import Estimate
from mabrel.render.taps import TAPS
from mabrel.render.view import drawn_layers

__all__ = [
    "TAPS",
    "Cache",
    "Cancel",
    "Cancelled",
    "CellGrid",
    "Data",
    "Estimate",
    "Fields",
    "Node",
    "Picture",
    "Planes",
    "RenderError",
    "Renderer",
    "Shard",
    "Window",
    "drawn_layers",
    "nodes_of",
    "picture_ink",
]
