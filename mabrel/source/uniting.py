"""Outlines joined where they touch, and cut out of one another."""

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

Lines = NDArray[np.float64]
_GRID = 1e-3  # pixels to which outlines are moved where they lie too close to be told apart


def united(parts: Sequence[Lines]) -> Lines:
    """One set of closed outlines (N, 4: x1, y1, x2, y2) of many that may overlap one another.

    Each part is a set of closed outlines without overlaps, holes the other way round; so is the
    result. Only parts whose boxes touch are looked at together (overlay by GEOS), so the time
    grows with the number of parts and of those that really meet.
    """
    there = [part for part in parts if len(part)]
    if len(there) < 2:
        return there[0] if there else np.zeros((0, 4))
    found = []
    for group in _touching([_box(part) for part in there]):
        together = [there[index] for index in group]
        found.append(_joined(together) if len(together) > 1 else together[0])
    return np.concatenate(found)


def combined(lines: Lines, shapes: Sequence[NDArray[np.float64]], cut: bool) -> Lines:
    """Closed outlines (N, 4) with polygons (each (M, 2)) joined to them, or `cut` out of them."""
    parts = [_closed(shape) for shape in shapes if len(shape) > 2]
    return cut_out(lines, parts) if cut else united([*_islands(lines), *parts])


def joined_to(lines: Lines, parts: Sequence[Lines]) -> Lines:
    """Closed outlines (N, 4) with others joined to them."""
    return united([*_islands(lines), *parts])


def cut_out(lines: Lines, parts: Sequence[Lines]) -> Lines:
    """Closed outlines (N, 4) with others cut out of them."""
    away = united(parts)
    if not len(away):
        return lines
    knife = _area(away)
    left = []
    for island in _islands(lines):
        area = _area(island)
        touched = area.intersects(knife)
        left.append(_lines(shapely.difference(area, knife)) if touched else island)
    return np.concatenate(left) if left else np.zeros((0, 4))


def overlapping(lines: Lines, parts: Sequence[Lines]) -> Lines:
    """What closed outlines (N, 4) and others both cover."""
    over = united(parts)
    if not len(lines) or not len(over):
        return np.zeros((0, 4))
    knife = _area(over)
    left = [_lines(shapely.intersection(_area(island), knife)) for island in _islands(lines)]
    return np.concatenate(left)


def even_odd(points: NDArray[np.float64], box: tuple[float, float, float, float]) -> Lines:
    """Closed outlines of a polygon (N, 2) that may cross itself, as far as it lies in `box` (left,
    top, right, bottom): inside is what an odd number of its sides parts from the outside."""
    area = shapely.make_valid(shapely.Polygon(points))
    return _lines(shapely.intersection(area, shapely.box(*box)))


def loops_of(lines: Lines) -> list[Lines]:
    """The closed outlines one by one: a line that doesn't begin where the last ended parts them."""
    if not len(lines):
        return []
    breaks = np.flatnonzero(np.abs(lines[1:, :2] - lines[:-1, 2:]).max(axis=1) > 1e-6) + 1
    return np.split(lines, breaks)


def _islands(lines: Lines) -> list[Lines]:
    """Outlines that lie within one another, or might, together: letters with their holes."""
    loops = loops_of(lines)
    boxes = [_box(loop) for loop in loops]
    return [np.concatenate([loops[index] for index in group]) for group in _touching(boxes)]


def _touching(boxes: Sequence[tuple[float, float, float, float]]) -> list[list[int]]:
    """Indices of the boxes that hang together, each group in the order of its first."""
    if not boxes:
        return []
    areas = shapely.box(*np.transpose(boxes))
    first, second = shapely.STRtree(areas).query(areas, predicate="intersects")
    meet = coo_array((np.ones(len(first)), (first, second)), (len(boxes), len(boxes)))
    _, names = connected_components(meet, directed=False)
    groups: dict[int, list[int]] = {}
    for index, name in enumerate(names.tolist()):
        groups.setdefault(name, []).append(index)
    return list(groups.values())


def _box(lines: Lines) -> tuple[float, float, float, float]:
    (left, top), (right, bottom) = lines[:, :2].min(axis=0), lines[:, :2].max(axis=0)
    return float(left), float(top), float(right), float(bottom)


def _joined(parts: Sequence[Lines]) -> Lines:
    areas = [_area(part) for part in parts]
    try:
        return _lines(shapely.disjoint_subset_union_all(areas))
    except shapely.GEOSException:
        return _lines(shapely.union_all(areas, grid_size=_GRID))


def _area(lines: Lines) -> shapely.Geometry:
    """The area within outlines that don't overlap; what lies in a hole is an island again."""
    rings = [np.vstack([loop[:, :2], loop[:1, :2]]) for loop in loops_of(lines)]
    turns = [
        float(np.sum(ring[:-1, 0] * ring[1:, 1] - ring[1:, 0] * ring[:-1, 1])) for ring in rings
    ]
    outer = max(range(len(rings)), key=lambda index: abs(turns[index]))
    holes = [ring for ring, turn in zip(rings, turns, strict=True) if turn * turns[outer] < 0]
    if len(holes) == len(rings) - 1:
        area = shapely.Polygon(rings[outer], holes)
    else:
        area = shapely.build_area(shapely.multilinestrings([*map(shapely.linestrings, rings)]))
    return area if area.is_valid else shapely.make_valid(area)


def _lines(area: shapely.Geometry) -> Lines:
    """The outlines of an area, holes the other way round than what they are in."""
    found = []
    for part in shapely.get_parts(shapely.orient_polygons(area, exterior_cw=False)):
        if isinstance(part, shapely.Polygon):
            found += [
                shapely.get_coordinates(ring)[:-1] for ring in [part.exterior, *part.interiors]
            ]
    return np.concatenate([_closed(ring) for ring in found]) if found else np.zeros((0, 4))


def _closed(points: NDArray[np.float64]) -> Lines:
    return np.hstack([points, np.roll(points, -1, axis=0)])
