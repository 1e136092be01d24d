"""The pieces that builds start from."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from mabrel.colour import covering, from_code
from mabrel.field.fill import fill
from mabrel.field.projection import projected
from mabrel.render.errors import RenderError
from mabrel.render.reading import SetWords
from mabrel.source import Image
from mabrel.source.apart import Layer
from mabrel.source.images import ink_box, resampled, spread_colour
from mabrel.steps import Array, Bound, Piece, Region
from mabrel.steps.faces.flattening import flattened_face
from mabrel.steps.faces.painting import paint_colours
from mabrel.steps.textures.tiling import Fit, Lay, laid

LARGEST_PIECE = 16_000_000
LONGEST_PIECE = 32_000  # pixels on a side: OpenCV's lookups end at 32,767
_COARSE = 6.0  # times its size in pixels that a picture has before it is made smaller first
UNPAINTED = 0.5
"""The grey of lettering before any surface: half way, so light and shade have equal room."""
Box = tuple[float, float, float, float]
Shift = tuple[float, float]


def words_bound(words: SetWords, shift: Shift) -> Bound:
    """Where words lie: whole pixels around the ink, one to spare for its antialiasing and shift.

    Their box is that of the words as they are set, wherever their letters have moved. Where some
    are half there, no outline tells how much.
    """
    left, top, right, bottom = words.ink
    x, y = math.floor(left) - 2, math.floor(top) - 2
    region = Region(x, y, math.ceil(right) + 2 - x, math.ceil(bottom) + 2 - y)
    set_left, set_top, set_right, set_bottom = words.bounds
    box = (set_left + shift[0], set_top + shift[1], set_right + shift[0], set_bottom + shift[1])
    whole = all(layer.opacity == 1 for layer in words.layers)
    lines = np.concatenate([np.zeros((0, 4)), *words.arrays])
    outline = lines + np.array([*shift, *shift]) if whole else None
    return Bound(region, box, outline, exact=whole)


def words_piece(bound: Bound, layers: Sequence[Layer], shift: Shift) -> Piece:
    """Words, grey and flat."""
    if bound.outline is not None:
        matte = fill(bound.outline, bound.region)
    else:
        gaps = np.ones((bound.region.height, bound.region.width), np.float32)
        for layer in layers:
            covered = fill(layer.lines + np.array([*shift, *shift]), bound.region)
            gaps *= 1 - covered * np.float32(layer.opacity)
        matte = 1 - gaps
    return bare_piece(bound.region, bound.box, matte, outline=bound.outline)


def check_area(name: str, region: Region) -> None:
    """Raises RenderError where a layer would take more than is allowed."""
    if region.area > LARGEST_PIECE or max(region.width, region.height) > LONGEST_PIECE:
        raise RenderError(
            f"layer {name!r} would take {region.width} × {region.height} pixels; make it smaller "
            "or render at a lower scale"
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
    """A plane that fills the picture: what backdrops start from."""
    box = (float(frame.left), float(frame.top), float(frame.right), float(frame.bottom))
    return bare_piece(region, box, np.ones(face.shape[:2], np.float32), face)


def washed_piece(region: Region, box: Box, canvas: Array) -> Piece:
    """All that lies beneath a wash, as one plane."""
    matte = np.ones(canvas.shape[:2], np.float32)
    return replace(bare_piece(region, box, matte, canvas), full=matte)


def ground_piece(region: Region, box: Region, code: str) -> Piece:
    """A plane of one colour."""
    *colour, alpha = from_code(code)
    pixel = np.array([*(channel * alpha for channel in colour), alpha], np.float32)
    face = np.empty((region.height, region.width, 4), np.float32)
    face[:] = np.tile(pixel, (region.width, 1))  # whole rows are copied much faster than pixels
    return full_piece(region, box, face)


def plate_piece(region: Region, box: Region, code: str, image: Image, fit: Fit) -> Piece:
    """A picture over a plane of one colour."""
    plane = ground_piece(region, box, code)
    return paint_colours(plane, "normal", laid(plane, image, Lay(fit)))


def drawn_piece(region: Region, canvas: Array) -> Piece:
    """What was drawn, as a shape with its colours: what groups start from."""
    pixels = covering(canvas)
    left, top, right, bottom = ink_box(pixels[..., 3])
    box = (
        float(region.left + left),
        float(region.top + top),
        float(region.left + right),
        float(region.top + bottom),
    )
    matte = np.ascontiguousarray(np.clip(pixels[..., 3], 0, 1))
    return bare_piece(region, box, matte, spread_colour(pixels))


def taken_piece(take: str, face_opacity: float, piece: Piece) -> Piece:
    """What a copy takes of the piece that another layer's build made."""
    if take == "everything":
        return piece
    face = flattened_face(piece, face_opacity) if take == "face" else None
    return bare_piece(piece.region, piece.box, piece.matte, face, piece.outline)


def picture_bound(
    image: Image, height: float, shift: Shift, outline: np.ndarray | None = None
) -> Bound:
    """Where a picture lies that is scaled to its height; its ink's centre is the layer's.
    `outline` is that of a drawing, around that centre."""
    if image.height == 0:
        return Bound(Region(-1, -1, 2, 2), (0.0, 0.0, 0.0, 0.0))
    if outline is not None:
        placed = outline + np.array([*shift, *shift])
        (left, top), (right, bottom) = (
            end(placed.reshape(-1, 2), axis=0).tolist() for end in (np.min, np.max)
        )
        x, y = math.floor(left) - 2, math.floor(top) - 2
        region = Region(x, y, math.ceil(right) + 2 - x, math.ceil(bottom) + 2 - y)
        return Bound(region, (left, top, right, bottom), placed)
    across, down = image.ink
    scale = height / down
    columns, rows = (max(math.ceil(side * scale), 1) for side in (image.width, image.height))
    region = Region(math.floor(-columns / 2) - 2, math.floor(-rows / 2) - 2, columns + 4, rows + 4)
    x, y, half = *shift, across * scale / 2
    return Bound(region, (x - half, y - height / 2, x + half, y + height / 2))


def picture_piece(bound: Bound, image: Image, height: float, shift: Shift) -> Piece:
    """A picture scaled to its height, over its bound."""
    if image.height == 0:
        return bare_piece(bound.region, bound.box, np.zeros((2, 2), np.float32))
    scale = height / image.ink[1]
    whole = (image.width * scale, image.height * scale)
    pixels = _placed(image.pixels, whole, shift, bound.region)
    face = spread_colour(pixels)
    if bound.outline is not None:
        matte = fill(bound.outline, bound.region)
        return bare_piece(bound.region, bound.box, matte, face, bound.outline)
    matte = np.ascontiguousarray(np.clip(pixels[..., 3], 0, 1))
    return bare_piece(bound.region, bound.box, matte, face)


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
