"""Lights, materials and shading."""

from mabrel.light.exposure import SHOULDER
from mabrel.light.light import Light
from mabrel.light.relative import RelativeShading, Relief, relative_shading
from mabrel.light.shading import Material, Shading, shade, shade_normals
from mabrel.light.surroundings import mirrored, world_of

__all__ = [
    "SHOULDER",
    "Light",
    "Material",
    "RelativeShading",
    "Relief",
    "Shading",
    "mirrored",
    "relative_shading",
    "shade",
    "shade_normals",
    "world_of",
]
