"""Lights, materials and shading."""

from mabrel.light.light import Light
from mabrel.light.relative import Ground, RelativeShading, relative_shading
from mabrel.light.shading import Material, Shading, shade, shade_normals
from mabrel.light.surroundings import mirrored

__all__ = [
    "Ground",
    "Light",
    "Material",
    "RelativeShading",
    "Shading",
    "mirrored",
    "relative_shading",
    "shade",
    "shade_normals",
]
