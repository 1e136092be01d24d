"""Areas cut out of one another and joined, robustly: what comes of it are areas again."""

from collections.abc import Callable, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.field.fill import fill

GRID = 1e-4
"""Pixels to which areas are moved where that is needed to tell them apart."""


def minus(area: shapely.Geometry, other: shapely.Geometry) -> shapely.Geometry:
    """What of an area another doesn't cover."""
    return _robust(shapely.difference, area, other)


def common(area: shapely.Geometry, other: shapely.Geometry) -> shapely.Geometry:
    """What both cover."""
    return _robust(shapely.intersection, area, other)


def either(area: shapely.Geometry, other: shapely.Geometry) -> shapely.Geometry:
    """What only one of them covers."""
    return _robust(shapely.symmetric_difference, area, other)


def joined(areas: Sequence[shapely.Geometry]) -> shapely.Geometry:
    """What any of them covers."""
    there = [each for each in areas if not each.is_empty]
    try:
        return polygons(shapely.union_all(there))
    except shapely.GEOSException:
        return polygons(shapely.union_all(shapely.make_valid(there), grid_size=GRID))


def _robust(
    work: Callable[..., shapely.Geometry], area: shapely.Geometry, other: shapely.Geometry
) -> shapely.Geometry:
    try:
        return polygons(work(area, other))
    except shapely.GEOSException:
        mended = (polygons(shapely.make_valid(each)) for each in (area, other))
        return polygons(work(*mended, grid_size=GRID))


def polygons(found: shapely.Geometry) -> shapely.Geometry:
    """Without the lines and places where areas only touch."""
    if found.geom_type in ("Polygon", "MultiPolygon"):
        return found
    parts = [each for each in shapely.get_parts(found) if isinstance(each, shapely.Polygon)]
    return shapely.MultiPolygon(parts) if parts else shapely.Polygon()


def coverage(area: shapely.Geometry, window: tuple[int, int, int, int]) -> NDArray[np.float32]:
    """(H, W), 0..1: how much of each pixel of a window (left, top, width, height) it covers."""
    lines = [
        np.hstack([ring, np.roll(ring, -1, axis=0)])
        for part in shapely.get_parts(shapely.orient_polygons(polygons(area)))
        for ring in rings_of(part)
    ]
    if not lines:
        return np.zeros((window[3], window[2]), np.float32)
    return fill(np.concatenate(lines), window)


def rings_of(part: shapely.Polygon) -> list[NDArray[np.float64]]:
    """Its rim and its holes, each (N, 2), the first place not repeated."""
    return [shapely.get_coordinates(ring)[:-1] for ring in (part.exterior, *part.interiors)]
