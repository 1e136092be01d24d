"""Paths as straight lines, ready to be filled."""

import math

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.source.drawing import skia

_FLAT = 0.02  # pixels that a line may lie beside its curve

Lines = NDArray[np.float64]
Place = tuple[float, float]


def straight_lines(path: "skia.Path") -> Lines:
    """Closed outlines (N, 4: x1, y1, x2, y2) that don't overlap, holes the other way round.

    Overlapping contours, as in the glyphs of variable fonts, are joined first. That takes time
    with the square of their number: for one glyph or one line, not for a whole text.
    """
    points = [np.array(contour) for contour in _joined(path) if len(contour) > 2]
    loops = [np.hstack([loop, np.roll(loop, -1, axis=0)]) for loop in points]
    return np.concatenate(loops) if loops else np.zeros((0, 4))


def _joined(path: "skia.Path") -> list[list[Place]]:
    """Contours without overlaps, holes the other way round; of a path that is too tangled for Skia
    to be joined, those that it has."""
    try:
        joined = skia.Simplify(path)
    except RuntimeError:
        return _contours(path)
    try:
        return _contours(skia.AsWinding(joined))
    except RuntimeError:
        return _by_depth([each for each in _contours(joined) if len(each) > 2])


def _by_depth(contours: list[list[Place]]) -> list[list[Place]]:
    """Those that lie in an odd number of others the other way round, as the holes that they are."""
    rings = [shapely.LinearRing(contour) for contour in contours]
    areas = [shapely.Polygon(ring) for ring in rings]
    middles = [shapely.line_interpolate_point(ring, 0.001, normalized=True) for ring in rings]
    turned = []
    for index, contour in enumerate(contours):
        others = (area for k, area in enumerate(areas) if k != index)
        depth = sum(area.contains(middles[index]) for area in others)
        turned.append(contour[::-1] if rings[index].is_ccw == bool(depth % 2) else contour)
    return turned


def wound(points: NDArray[np.float64]) -> Lines:
    """The outlines of a polygon (N, 2) that may cross itself: inside is what it goes around, on
    the whole, at least once."""
    if shapely.is_valid(shapely.Polygon(points)):  # far quicker than Skia, which looks at all pairs
        return np.hstack([points, np.roll(points, -1, axis=0)])
    path = skia.Path()
    path.addPoly([skia.Point(float(x), float(y)) for x, y in points], True)
    return straight_lines(path)


def _contours(path: "skia.Path") -> list[list[Place]]:
    contours: list[list[Place]] = []
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


def _quadratic(p0: Place, p1: Place, p2: Place) -> list[Place]:
    (ax, ay), (bx, by), (cx, cy) = p0, p1, p2
    points = []
    for t in _steps(math.hypot(ax - 2 * bx + cx, ay - 2 * by + cy) / 4):
        s = 1 - t
        a, b, c = s * s, 2 * s * t, t * t
        points.append((a * ax + b * bx + c * cx, a * ay + b * by + c * cy))
    return points


def _cubic(p0: Place, p1: Place, p2: Place, p3: Place) -> list[Place]:
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = p0, p1, p2, p3
    first = math.hypot(ax - 2 * bx + cx, ay - 2 * by + cy)
    last = math.hypot(bx - 2 * cx + dx, by - 2 * cy + dy)
    points = []
    for t in _steps(max(first, last) * 0.75):
        s = 1 - t
        a, b, c, d = s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t
        points.append((a * ax + b * bx + c * cx + d * dx, a * ay + b * by + c * cy + d * dy))
    return points


def _steps(bend: float) -> list[float]:
    """Parameters after 0 so close that no line lies further than `_FLAT` beside its curve.

    `bend` is that distance for a single line; it falls with the square of their number.
    """
    count = max(math.ceil(math.sqrt(bend / _FLAT)), 1)
    return [number / count for number in range(1, count + 1)]
