"""The piece that a build starts from."""

import math

import numpy as np

from mabrel.colour import from_code
from mabrel.field.fill import fill
from mabrel.field.projection import projected
from mabrel.render.errors import RenderError
from mabrel.render.planned import PlannedLayer, WordsPlan
from mabrel.source import Image, Library, Outline, family_for, outline_text
from mabrel.source.images import ink_box, ink_size, resampled, spread_colour
from mabrel.steps import Array, Piece, Region

LARGEST_PIECE = 16_000_000
LONGEST_PIECE = 32_000  # pixels on a side: OpenCV's lookups end at 32,767
_COARSE = 6.0  # times its size in pixels that a picture has before it is made smaller first
UNPAINTED = 0.5
"""The grey of lettering before any surface: half way, so light and shade have equal room."""


def words_outline(words: WordsPlan, library: Library) -> Outline:
    """Raises FontError and LibraryError where the font is not there or broken."""
    fonts = family_for(words.style.font, library, dict(words.axes))
    return outline_text(words.text, words.style, fonts)


def lettering_region(outline: Outline) -> Region:
    """Whole pixels around the ink, one to spare for its antialiasing and shift."""
    left, top, right, bottom = outline.bounds
    x, y = math.floor(left) - 2, math.floor(top) - 2
    return Region(x, y, math.ceil(right) + 2 - x, math.ceil(bottom) + 2 - y)


def words_piece(planned: PlannedLayer, outline: Outline) -> Piece:
    """Words, grey and flat."""
    region = lettering_region(outline)
    check_area(planned, region)
    x, y = planned.shift
    lines = outline.lines() + np.array([x, y, x, y])
    left, top, right, bottom = outline.bounds
    box = (left + x, top + y, right + x, bottom + y)
    return bare_piece(region, box, fill(lines, region), outline=lines)


def check_area(planned: PlannedLayer, region: Region) -> None:
    if region.area > LARGEST_PIECE or max(region.width, region.height) > LONGEST_PIECE:
        raise RenderError(
            f"layer {planned.layer.name or planned.layer.id!r} would take "
            f"{region.width} × {region.height} pixels; make it smaller or render at a lower scale"
        )


def bare_piece(
    region: Region,
    box: tuple[float, float, float, float],
    matte: Array,
    face: Array | None = None,
    outline: np.ndarray | None = None,
) -> Piece:
    """A flat piece, grey where it has no face of its own."""
    if face is None:
        face = np.ones((*matte.shape, 4), np.float32)
        face[..., :3] = UNPAINTED
    return Piece(region, box, matte, face, np.zeros_like(matte), outline=outline)


def full_piece(region: Region, frame: Region, face: Array) -> Piece:
    """A plane that fills the picture: what backdrops and washes start from."""
    matte = np.ones(face.shape[:2], np.float32)
    box = (float(frame.left), float(frame.top), float(frame.right), float(frame.bottom))
    return bare_piece(region, box, matte, face)


def ground_face(code: str, shape: tuple[int, int]) -> Array:
    *colour, alpha = from_code(code)
    face = np.empty((*shape, 4), np.float32)
    face[:] = [*(channel * alpha for channel in colour), alpha]
    return face


def picture_piece(planned: PlannedLayer, image: Image, height: float) -> Piece:
    """A picture scaled to its height; its ink's centre is the layer's."""
    if image.height == 0:
        region = Region(-1, -1, 2, 2)
        return bare_piece(region, (0.0, 0.0, 0.0, 0.0), np.zeros((2, 2), np.float32))
    across, down = ink_size(image.pixels[..., 3])
    scale = height / down
    whole = (image.width * scale, image.height * scale)
    columns, rows = (max(math.ceil(side), 1) for side in whole)
    region = Region(math.floor(-columns / 2) - 2, math.floor(-rows / 2) - 2, columns + 4, rows + 4)
    check_area(planned, region)
    pixels = _placed(image.pixels, whole, planned.shift, region)
    width = across * scale
    x, y = planned.shift
    box = (x - width / 2, y - height / 2, x + width / 2, y + height / 2)
    matte = np.ascontiguousarray(np.clip(pixels[..., 3], 0, 1))
    return bare_piece(region, box, matte, spread_colour(pixels))


def _placed(
    pixels: Array, size: tuple[float, float], middle: tuple[float, float], region: Region
) -> Array:
    """Scaled to `size` (width, height) with its middle at `middle`, all of it between pixels too:
    over `region`, in one resampling."""
    if pixels.shape[1] > _COARSE * size[0]:  # means over areas first, where very many are needed
        pixels = resampled(pixels, 2 * max(size[0], 1.0), 2 * max(size[1], 1.0))
    rows, columns = pixels.shape[:2]
    across, down = size[0] / columns, size[1] / rows
    left = middle[0] - size[0] / 2 - region.left - 0.5 + across / 2
    top = middle[1] - size[1] / 2 - region.top - 0.5 + down / 2
    matrix = np.array([[across, 0, left], [0, down, top], [0, 0, 1.0]])
    return projected(pixels, matrix, (region.width, region.height))


def image_piece(region: Region, pixels: Array) -> Piece:
    """What was drawn, as a shape with its colours: what groups start from."""
    left, top, right, bottom = ink_box(pixels[..., 3])
    box = (
        float(region.left + left),
        float(region.top + top),
        float(region.left + right),
        float(region.top + bottom),
    )
    matte = np.ascontiguousarray(np.clip(pixels[..., 3], 0, 1))
    return bare_piece(region, box, matte, spread_colour(pixels))
