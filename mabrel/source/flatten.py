"""Paths as straight lines, ready to be filled."""

from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.source.drawing import skia

_FLAT = 0.02  # pixels that a line may lie beside its curve

Lines = NDArray[np.float64]
Place = tuple[float, float]
Contour = NDArray[np.float64]
"""(N, 4, 2): the control points of its cubics, each beginning where the one before ends. Lines and
quadratics are cubics too."""


class Curves(NamedTuple):
    """Closed contours that don't overlap, holes the other way round, ready to be cut into lines."""

    controls: Contour
    """(N, 4, 2): of all of them; each begins with a curve that stays at its first point."""
    lengths: NDArray[np.int64]
    """How many of the curves are those of each contour."""
    bends: NDArray[np.float64]
    """(N): how far each lies beside the line between its ends, at most."""


def straight_lines(path: "skia.Path") -> Lines:
    """Closed outlines (N, 4: x1, y1, x2, y2) that don't overlap, holes the other way round.

    Overlapping contours, as in the glyphs of variable fonts, are joined first. That takes time
    with the square of their number: for one glyph or one line, not for a whole text.
    """
    return straightened(curves_of(path))


def straightened(curves: Curves, scale: float = 1.0) -> Lines:
    """Closed outlines (N, 4), `scale` times as large as these curves, in lines so short that none
    lies further than `_FLAT` beside its curve."""
    if not len(curves.lengths):
        return np.zeros((0, 4))
    # The distance of a single line falls with the square of their number.
    counts = np.maximum(np.ceil(np.sqrt(curves.bends * (scale / _FLAT))), 1).astype(np.int64)
    points = _cut(curves.controls * scale, counts)
    ends = np.cumsum(counts)[np.cumsum(curves.lengths) - 1]
    starts = np.concatenate([[0], ends[:-1]])
    following = np.arange(1, len(points) + 1)
    following[ends - 1] = starts
    lines = np.hstack([points, points[following]])
    areas = ends - starts > 2
    return lines if areas.all() else lines[np.repeat(areas, ends - starts)]


def _cut(controls: Contour, counts: NDArray[np.int64]) -> NDArray[np.float64]:
    """(M, 2): the places on each curve that cut it into so many even parts, and its end."""
    own = np.repeat(np.arange(len(controls)), counts)
    number = np.arange(1, len(own) + 1) - np.repeat(np.cumsum(counts) - counts, counts)
    t = number / counts[own]
    s = 1 - t
    shares = np.stack([s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t], axis=1)
    return np.asarray((shares[..., None] * controls[own]).sum(axis=1))


def curves_of(path: "skia.Path") -> Curves:
    """A path's contours, joined where they overlap."""
    return _curves(_joined(path))


def _curves(contours: list[Contour]) -> Curves:
    parts = [part for each in contours for part in (each[:1, [0, 0, 0, 0]], each)]
    controls = np.concatenate(parts) if parts else np.zeros((0, 4, 2))
    a, b, c, d = controls.transpose(1, 0, 2)
    bends = np.maximum(np.hypot(*(a - 2 * b + c).T), np.hypot(*(b - 2 * c + d).T)) * 0.75
    return Curves(controls, np.array([1 + len(each) for each in contours], np.int64), bends)


def _joined(path: "skia.Path") -> list[Contour]:
    """Contours without overlaps, holes the other way round; of a path that is too tangled for Skia
    to be joined, those that it has."""
    try:
        joined = skia.Simplify(path)
    except RuntimeError:
        return _read(path)
    try:
        return _read(skia.AsWinding(joined))
    except RuntimeError:
        return _by_depth(_read(joined))


def _by_depth(contours: list[Contour]) -> list[Contour]:
    """Those that lie in an odd number of others the other way round, as the holes that they are."""
    drawn = [straightened(_curves([contour])) for contour in contours]
    contours = [each for each, lines in zip(contours, drawn, strict=True) if len(lines)]
    rings = [shapely.LinearRing(lines[:, :2]) for lines in drawn if len(lines)]
    areas = [shapely.Polygon(ring) for ring in rings]
    middles = [shapely.line_interpolate_point(ring, 0.001, normalized=True) for ring in rings]
    turned = []
    for index, contour in enumerate(contours):
        others = (area for k, area in enumerate(areas) if k != index)
        depth = sum(area.contains(middles[index]) for area in others)
        backwards = rings[index].is_ccw == bool(depth % 2)
        turned.append(contour[::-1, ::-1] if backwards else contour)
    return turned


def wound(points: NDArray[np.float64]) -> Lines:
    """The outlines of a polygon (N, 2) that may cross itself: inside is what it goes around, on
    the whole, at least once."""
    if shapely.is_valid(shapely.Polygon(points)):  # far quicker than Skia, which looks at all pairs
        return np.hstack([points, np.roll(points, -1, axis=0)])
    path = skia.Path()
    path.addPoly([skia.Point(float(x), float(y)) for x, y in points], True)
    return straight_lines(path)


def _read(path: "skia.Path") -> list[Contour]:
    contours: list[list[tuple[Place, ...]]] = []
    for verb, given in skia.Path.Iter(path, True):
        points = [(point.x(), point.y()) for point in given]
        if verb == skia.Path.kMove_Verb:
            contours.append([])
        elif verb == skia.Path.kLine_Verb:
            contours[-1].append(_line(*points))
        elif verb == skia.Path.kQuad_Verb:
            contours[-1].append(_quadratic(*points))
        elif verb == skia.Path.kCubic_Verb:
            contours[-1].append(tuple(points))
    return [np.array(curves) for curves in contours if curves]


def _line(a: Place, b: Place) -> tuple[Place, ...]:
    return a, _between(a, b, 1 / 3), _between(a, b, 2 / 3), b


def _quadratic(a: Place, b: Place, c: Place) -> tuple[Place, ...]:
    return a, _between(a, b, 2 / 3), _between(c, b, 2 / 3), c


def _between(a: Place, b: Place, share: float) -> Place:
    return a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share
