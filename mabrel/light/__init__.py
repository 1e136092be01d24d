"""Lights, materials and shading."""

from mabrel.light.relative import RelativeShading, relative_shading
from mabrel.light.shading import Light, Material, Shading, shade, shade_normals

__all__ = [
    "Light",
    "Material",
    "RelativeShading",
    "Shading",
    "relative_shading",
    "shade",
    "shade_normals",
]
