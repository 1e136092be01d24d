"""Paths as straight lines, ready to be filled."""

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.source.drawing import skia

_FLAT = 0.02  # pixels that a line may lie beside its curve

Lines = NDArray[np.float64]


def straight_lines(path: "skia.Path") -> Lines:
    """Closed outlines (N, 4: x1, y1, x2, y2) that don't overlap, holes the other way round.

    Overlapping contours, as in the glyphs of variable fonts, are joined first. That takes time
    with the square of their number: for one glyph or one line, not for a whole text.
    """
    joined = skia.Simplify(path)
    whole = skia.AsWinding(joined) if joined is not None else path
    points = [np.array(contour) for contour in _contours(whole if whole is not None else path)]
    loops = [np.hstack([loop, np.roll(loop, -1, axis=0)]) for loop in points if len(loop) > 2]
    return np.concatenate(loops) if loops else np.zeros((0, 4))


def wound(points: NDArray[np.float64]) -> Lines:
    """The outlines of a polygon (N, 2) that may cross itself: inside is what it goes around, on
    the whole, at least once."""
    if shapely.is_valid(shapely.Polygon(points)):  # far quicker than Skia, which looks at all pairs
        return np.hstack([points, np.roll(points, -1, axis=0)])
    path = skia.Path()
    path.addPoly([skia.Point(float(x), float(y)) for x, y in points], True)
    return straight_lines(path)


def _contours(path: "skia.Path") -> list[list[tuple[float, float]]]:
    contours: list[list[tuple[float, float]]] = []
    for verb, given in skia.Path.Iter(path, True):
        points = [(point.x(), point.y()) for point in given]
        if verb == skia.Path.kMove_Verb:
            contours.append(points)
        elif verb == skia.Path.kLine_Verb:
            contours[-1].append(points[1])
        elif verb == skia.Path.kQuad_Verb:
            contours[-1].extend(_quadratic(*points))
        elif verb == skia.Path.kCubic_Verb:
            contours[-1].extend(_cubic(*points))
    return contours


def _quadratic(
    p0: tuple[float, float], p1: tuple[float, float], p2: tuple[float, float]
) -> list[tuple[float, float]]:
    a, b, c = np.array(p0), np.array(p1), np.array(p2)
    t = _steps(float(np.hypot(*(a - 2 * b + c))) / 4)[:, None]
    curve = (1 - t) ** 2 * a + 2 * t * (1 - t) * b + t * t * c
    return [(x, y) for x, y in curve.tolist()]


def _cubic(
    p0: tuple[float, float],
    p1: tuple[float, float],
    p2: tuple[float, float],
    p3: tuple[float, float],
) -> list[tuple[float, float]]:
    a, b, c, d = np.array(p0), np.array(p1), np.array(p2), np.array(p3)
    bend = max(float(np.hypot(*(a - 2 * b + c))), float(np.hypot(*(b - 2 * c + d))))
    t = _steps(bend * 0.75)[:, None]
    s = 1 - t
    curve = s**3 * a + 3 * s * s * t * b + 3 * s * t * t * c + t**3 * d
    return [(x, y) for x, y in curve.tolist()]


def _steps(bend: float) -> NDArray[np.float64]:
    """Parameters after 0 so close that no line lies further than `_FLAT` beside its curve.

    `bend` is that distance for a single line; it falls with the square of their number.
    """
    count = max(int(np.ceil(np.sqrt(bend / _FLAT))), 1)
    return np.arange(1, count + 1) / count
