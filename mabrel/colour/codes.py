"""Colour codes to numbers."""

import re

_CODE = re.compile(r"#(?:[0-9a-fA-F]{3}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})")

Rgb = tuple[float, float, float]
Rgba = tuple[float, float, float, float]


def from_code(code: str) -> Rgba:
    """sRGB-encoded, straight RGBA (0..1) of ``#rgb``, ``#rrggbb`` or ``#rrggbbaa``.

    Raises ValueError for anything else.
    """
    if not _CODE.fullmatch(code):
        raise ValueError(f"{code!r} is not a colour code such as #b4471f")
    digits = code[1:] if len(code) > 4 else "".join(2 * digit for digit in code[1:])
    channels = [int(digits[i : i + 2], 16) / 255 for i in range(0, len(digits), 2)]
    red, green, blue = channels[:3]
    return red, green, blue, channels[3] if len(channels) == 4 else 1.0


def rgb_and_alpha(code: str) -> tuple[Rgb, float]:
    """`from_code`, with the colour and its opacity apart."""
    red, green, blue, alpha = from_code(code)
    return (red, green, blue), alpha
