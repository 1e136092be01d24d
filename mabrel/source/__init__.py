"""What gets the look: fonts and lettering."""

from mabrel.source.fonts import Family, FontError, families, family
from mabrel.source.images import Image, resampled
from mabrel.source.lettering import (
    LetteringStyle,
    Outline,
    coverage,
    letter_height,
    outline_text,
    svg_path,
)
from mabrel.source.library import Folder, Library, LibraryError, library_at, shipped_pictures
from mabrel.source.moving import Moving, animated_ending, frame_due, moving
from mabrel.source.own_fonts import axes_of, family_for, is_font_file
from mabrel.source.picture_error import PictureError
from mabrel.source.pictures import decoded_picture, is_drawing, picture_size

__all__ = [
    "Family",
    "Folder",
    "FontError",
    "Image",
    "LetteringStyle",
    "Library",
    "LibraryError",
    "Moving",
    "Outline",
    "PictureError",
    "animated_ending",
    "axes_of",
    "coverage",
    "decoded_picture",
    "families",
    "family",
    "family_for",
    "frame_due",
    "is_drawing",
    "is_font_file",
    "letter_height",
    "library_at",
    "moving",
    "outline_text",
    "picture_size",
    "resampled",
    "shipped_pictures",
    "svg_path",
]
