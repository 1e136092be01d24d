"""What gets the look: fonts and lettering."""

from mabrel.source.fonts import Family, FontError, families, family
from mabrel.source.lettering import (
    LetteringStyle,
    Outline,
    coverage,
    letter_height,
    outline_text,
    svg_path,
)

__all__ = [
    "Family",
    "FontError",
    "LetteringStyle",
    "Outline",
    "coverage",
    "families",
    "family",
    "letter_height",
    "outline_text",
    "svg_path",
]
