"""Colour: codes, spaces, blending, curves and gradients."""

from mabrel.colour.blending import MODES, blend, blend_colour, blend_into, covering, over
from mabrel.colour.codes import Rgb, Rgba, from_code, rgb_and_alpha
from mabrel.colour.curves import apply_table, curve_table
from mabrel.colour.gradients import ColourStop, blend_map, gradient_map, gradient_table
from mabrel.colour.hues import with_hues
from mabrel.colour.spaces import (
    brightness,
    from_oklab,
    light_of,
    picture_of,
    straight,
    to_encoded,
    to_linear,
    to_oklab,
)

__all__ = [
    "MODES",
    "ColourStop",
    "Rgb",
    "Rgba",
    "apply_table",
    "blend",
    "blend_colour",
    "blend_into",
    "blend_map",
    "brightness",
    "covering",
    "curve_table",
    "from_code",
    "from_oklab",
    "gradient_map",
    "gradient_table",
    "light_of",
    "over",
    "picture_of",
    "rgb_and_alpha",
    "straight",
    "to_encoded",
    "to_linear",
    "to_oklab",
    "with_hues",
]
