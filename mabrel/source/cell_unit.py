"""The unit of a blocky font: the cell that all its letters are built of."""

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.source.drawing import skia
from mabrel.source.fonts import Face

_LOOKED_AT = "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"
_STRAIGHT = 0.98  # of the outlines' length runs along the axes in a blocky font
_OFF = 0.08  # cells that a corner may lie beside the grid
_FINEST = 64  # cells in an em
_FEWEST = 4  # letters that must be there


class Unit(NamedTuple):
    """A grid in font units, y down: the size of its cells, and where one of its corners lies."""

    across: float
    down: float
    x: float
    y: float


@lru_cache(maxsize=64)
def cell_unit(face: Face) -> Unit | None:
    """The grid on which the corners of a font's capitals and digits lie; None where there is
    none, as in every font with curves or slants."""
    glyphs = [face.shaper.get_nominal_glyph(ord(each)) for each in _LOOKED_AT]
    corners = [found for glyph in glyphs if glyph and len(found := _corners(face.outline(glyph)))]
    if len(corners) < _FEWEST or _straight(corners) < _STRAIGHT:
        return None
    points = np.concatenate(corners)[:, :2]
    across = _spacing(points[:, 0], face.units / _FINEST)
    down = _spacing(points[:, 1], face.units / _FINEST)
    if across is None or down is None:
        return None
    return Unit(across[0], down[0], across[1], down[1])


def _corners(path: "skia.Path") -> NDArray[np.float64]:
    """Its sides, (N, 4: x1, y1, x2, y2); curves count as their chords."""
    sides = []
    for _, given in skia.Path.Iter(path, True):
        if len(given) > 1:
            first, last = given[0], given[len(given) - 1]
            sides.append((first.x(), first.y(), last.x(), last.y()))
    return np.array(sides, np.float64).reshape(-1, 4)


def _straight(corners: list[NDArray[np.float64]]) -> float:
    """The share of all sides that runs along an axis."""
    sides = np.concatenate(corners)
    across, down = np.abs(sides[:, 2] - sides[:, 0]), np.abs(sides[:, 3] - sides[:, 1])
    length = np.hypot(across, down)
    along = np.minimum(across, down) < 0.01 * np.maximum(length, 1e-9)
    return float(length[along].sum() / max(length.sum(), 1e-9))


def _spacing(values: NDArray[np.float64], least: float) -> tuple[float, float] | None:
    """The spacing of the even grid on which all values lie, and one place of that grid.

    The smallest gap between two of them is where it starts; least squares over all of them, as
    whole multiples, brings it to where it is.
    """
    places = np.unique(np.round(values, 3))
    gaps = np.diff(places)
    gaps = gaps[gaps >= least]
    if not len(gaps):
        return None
    size = float(gaps.min())
    for _ in range(4):
        counts = np.round((places - places[0]) / size)
        ones = np.stack([counts, np.ones_like(counts)], axis=1)
        (size, start), *_ = np.linalg.lstsq(ones, places, rcond=None)
        if size < least:
            return None
    off = np.abs(places - start - counts * size).max()
    return (float(size), float(start)) if off < _OFF * size else None
