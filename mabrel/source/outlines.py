"""Outlines joined to one another and cut out of one another."""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from mabrel.source.drawing import skia
from mabrel.source.flatten import straight_lines

Lines = NDArray[np.float64]


def combined(lines: Lines, shapes: Sequence[NDArray[np.float64]], cut: bool) -> Lines | None:
    """Closed outlines (N, 4) with polygons (each (M, 2)) joined to them, or `cut` out of them.

    None where Skia's path operations give up, which they do rarely, on lines that nearly meet.
    """
    whole = _path_of(lines)
    for shape in shapes:
        polygon = skia.Path()
        polygon.addPoly([skia.Point(float(x), float(y)) for x, y in shape], True)
        simple = skia.Simplify(polygon)
        how = skia.PathOp.kDifference_PathOp if cut else skia.PathOp.kUnion_PathOp
        whole = skia.Op(whole, simple if simple is not None else polygon, how)
        if whole is None:
            return None
    return straight_lines(whole)


def _path_of(lines: Lines) -> "skia.Path":
    """Loops are parted where a line doesn't begin at the end of the one before."""
    path = skia.Path()
    if not len(lines):
        return path
    breaks = np.flatnonzero(np.abs(lines[1:, :2] - lines[:-1, 2:]).max(axis=1) > 1e-6) + 1
    for loop in np.split(lines, breaks):
        path.addPoly([skia.Point(float(x), float(y)) for x, y in loop[:, :2]], True)
    return path


Join = Literal["round", "mitre", "bevel"]


def stroked(lines: Lines, width: float, join: Join, limit: float = 4.0) -> Lines:
    """Closed outlines (N, 4) of what a line of that width along others covers.

    Corners are joined as in SVG; a mitre that would reach beyond `limit` times half the width
    is cut to a bevel.
    """
    joins = {
        "round": skia.Paint.kRound_Join,
        "mitre": skia.Paint.kMiter_Join,
        "bevel": skia.Paint.kBevel_Join,
    }
    paint = skia.Paint(Style=skia.Paint.kStroke_Style, StrokeWidth=width, StrokeMiter=limit)
    paint.setStrokeJoin(joins[join])
    covered = skia.Path()
    paint.getFillPath(_path_of(lines), covered)
    return straight_lines(covered)
