"""Moving a shape's points: outlines are moved and filled anew, so edges stay exact."""

import math
from collections.abc import Callable

import cv2
import numpy as np

from mabrel.field.fill import fill
from mabrel.steps.extent import Bound, Lines
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region

WRITES = ("matte", "face", "height", "behind", "front", "body")
"""What a step that moves points changes: all that lies on them."""
Points = np.ndarray
Map = Callable[[Points, Points], tuple[Points, Points]]
"""Places (x, y) in pixels from the layer's centre to other places."""

_PARTS = 8.0  # places of a coarser grid over the length on which a map is smooth
_FINE = 1.5  # pixels: lines are parted until none is longer before they are bent


def warped(piece: Piece, forward: Map, inverse: Map, smooth: float = 0.0) -> Piece:
    """Every point of the shape at `forward` of its place; `inverse` leads back.

    What an outline knows is moved exactly; a face, a relief and a matte without an outline are
    looked up, where the inverse is made on a coarser grid if the map is `smooth` over so many
    pixels. The piece must have the room already.
    """
    apart = max(int(smooth / _PARTS), 1)
    left, top = piece.region.left, piece.region.top
    columns, rows = piece.region.width // apart + 3, piece.region.height // apart + 3
    x = (np.arange(columns) + 0.5) * apart + left
    y = (np.arange(rows) + 0.5) * apart + top
    across, down = np.meshgrid(x, y)
    back = inverse(across, down)
    maps = tuple(
        _finer(found - start, apart, piece.region) + place
        for found, start, place in zip(back, (across, down), _pixels(piece.region), strict=True)
    )
    outline = None if piece.outline is None else _moved(piece.outline, forward)
    return looked_up(piece, (maps[0], maps[1]), outline)


def _finer(shift: Points, apart: int, region: Region) -> Array:
    """From a grid of places `apart` pixels apart to every pixel of a region."""
    coarse = np.asarray(shift, np.float32)
    if apart == 1:
        return coarse[: region.height, : region.width]
    size = (coarse.shape[1] * apart, coarse.shape[0] * apart)
    fine = cv2.resize(coarse, size, interpolation=cv2.INTER_CUBIC)
    return np.asarray(fine[: region.height, : region.width], np.float32)


def _pixels(region: Region) -> tuple[Array, Array]:
    """Columns (1, W) and rows (H, 1) of an array over a region."""
    columns = np.arange(region.width, dtype=np.float32)
    rows = np.arange(region.height, dtype=np.float32)
    return columns[None, :], rows[:, None]


def looked_up(piece: Piece, maps: tuple[Array, Array], outline: Lines | None = None) -> Piece:
    """Every field taken from other places: `maps` are the column and the row, (H, W) each, from
    which each pixel comes. With an `outline` the matte is filled from that instead."""

    def taken(array: Array, goes_on: bool) -> Array:
        border = cv2.BORDER_REPLICATE if goes_on else cv2.BORDER_CONSTANT
        return np.asarray(cv2.remap(array, *maps, cv2.INTER_CUBIC, borderMode=border), np.float32)

    if outline is None:
        matte = np.asarray(np.clip(taken(piece.matte, False), 0, 1), np.float32)
    else:
        matte = fill(outline, piece.region)
    return piece.moved(taken, matte, outline)


def undone(forward: Map, turns: int = 12) -> Map:
    """The inverse of a map that moves every place a little, by fixed-point iteration."""

    def inverse(x: Points, y: Points) -> tuple[Points, Points]:
        at_x, at_y = x, y
        for _ in range(turns):
            to_x, to_y = forward(at_x, at_y)
            at_x, at_y = at_x + (x - to_x), at_y + (y - to_y)
        return at_x, at_y

    return inverse


def room_for(piece_box: tuple[float, float, float, float], forward: Map) -> Margin:
    """How far a map moves the border of a box outwards, on each side."""
    left, top, right, bottom = piece_box
    share = np.linspace(0, 1, 65)
    x = np.concatenate(
        [left + (right - left) * share] * 2 + [np.full(65, left), np.full(65, right)]
    )
    y = np.concatenate([np.full(65, top), np.full(65, bottom)] + [top + (bottom - top) * share] * 2)
    to_x, to_y = forward(x, y)
    return Margin(
        max(math.ceil(left - to_x.min()), 0) + 3,
        max(math.ceil(top - to_y.min()), 0) + 3,
        max(math.ceil(to_x.max() - right), 0) + 3,
        max(math.ceil(to_y.max() - bottom), 0) + 3,
    )


def bound_of(bound: Bound, room: Margin, forward: Map) -> Bound:
    """The bound of a piece whose points are moved: exact where its outline is known."""
    if bound.outline is None:
        return bound.reshaped(room)
    return bound.reshaped(room, _moved(bound.outline, forward))


def _moved(lines: Lines, forward: Map) -> Lines:
    fine = _parted(lines)
    x1, y1 = forward(fine[:, 0], fine[:, 1])
    x2, y2 = forward(fine[:, 2], fine[:, 3])
    return np.stack([x1, y1, x2, y2], axis=1)


def _parted(lines: Lines) -> Lines:
    """Long lines as several short ones, end to end."""
    length = np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1])
    counts = np.maximum(np.ceil(length / _FINE).astype(int), 1)
    which = np.repeat(np.arange(len(lines)), counts)
    first = np.repeat(np.cumsum(counts) - counts, counts)
    number = np.arange(len(which)) - first
    start, step = lines[which, :2], lines[which, 2:] - lines[which, :2]
    parts = counts[which, None]
    return np.hstack([start + step * number[:, None] / parts,
                      start + step * (number[:, None] + 1) / parts])  # fmt: skip
