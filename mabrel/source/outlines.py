"""Lines drawn along outlines."""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from mabrel.source.drawing import skia
from mabrel.source.flatten import straight_lines
from mabrel.source.uniting import loops_of, united

Lines = NDArray[np.float64]
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
    return united([_covered(loop, paint) for loop in loops_of(lines)])


def _covered(loop: Lines, paint: "skia.Paint") -> Lines:
    path, covered = skia.Path(), skia.Path()
    path.addPoly([skia.Point(float(x), float(y)) for x, y in loop[:, :2]], True)
    paint.getFillPath(path, covered)
    return straight_lines(covered)
