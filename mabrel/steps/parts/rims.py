"""The facets of a rim: of each place of it, the side that is nearest."""

from collections.abc import Callable
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.spatial import Voronoi

from mabrel.steps.parts.areas import common, joined, minus
from mabrel.steps.parts.solid import Run, Shape, runs_of

_STEP, _WIDEST = 0.75, 2.0  # pixels between the places by which a side is known: least, and most
_GROWS_OVER = 8.0  # pixels from its end over which the least doubles
_SHARPEST = 0.04  # of 2, how far two planes at a corner must face one way to be mitred
_SEEN = 0.5  # square pixels: less than that is not moved from one facet to another
_THIN = 0.05  # square pixels: less than that is no facet


def rim_of(
    face: shapely.Geometry,
    width: float,
    corners: Literal["round", "mitred"],
    pause: Callable[[], None] = lambda: None,
) -> tuple[shapely.Geometry, list[Shape]]:
    """What a rim of that width leaves of a face, and its facets: one for each side.

    Each piece that hangs together is worked on by itself, since none reaches into another;
    `pause` is called before each.
    """
    inner, facets = [], []
    for piece in shapely.get_parts(face):
        pause()
        if piece.area > 0:
            left, found = _rim_of_one(piece, width, corners)
            inner.append(left)
            facets += found
    return joined(inner), facets


def _rim_of_one(
    piece: shapely.Polygon, width: float, corners: Literal["round", "mitred"]
) -> tuple[shapely.Geometry, list[Shape]]:
    left, top, right, bottom = piece.bounds
    width = min(width, min(right - left, bottom - top) / 2 + 1)  # beyond, nothing is left of it
    join: Literal["round", "mitre"] = "mitre" if corners == "mitred" else "round"
    inner = piece.buffer(-width, join_style=join, mitre_limit=8.0)
    rim = minus(piece, inner)
    if rim.is_empty:
        return piece, []
    runs = runs_of(piece)
    samples = [_samples(run) for run in runs]
    ends = np.cumsum([len(each) for each in samples])
    cells = np.split(_nearest_to(np.concatenate(samples)), ends[:-1])
    areas = [common(shapely.coverage_union_all(own), rim) for own in cells]
    if corners == "mitred":
        _mitre(areas, runs, samples, width)
    facets = []
    for run, area in zip(runs, areas, strict=True):
        for part in shapely.get_parts(area):
            if isinstance(part, shapely.Polygon) and part.area > _THIN:
                facets.append(run.shape("facet", part))
    return inner, facets


def _mitre(
    areas: list[shapely.Geometry], runs: list[Run], samples: list[NDArray[np.float64]], width: float
) -> None:
    """Give the sides at inner corners what their planes cover beyond them, in place: as far as
    these meet in a crease, others there are not nearer to the edge."""
    starts = {tuple(run.places[0]): index for index, run in enumerate(runs)}
    wedges = []
    for index, run in enumerate(runs):
        after = starts.get(tuple(run.places[-1]))
        if after is not None and after != index:
            owners = (index, after)
            wedges += [(owners, *each) for each in _wedges(run, runs[after], owners, width)]
    longer = list(samples)
    for _, owner, _, line in wedges:
        longer[owner] = np.concatenate([longer[owner], line])
    for owners, owner, wedge, line in wedges:
        for other in _over(areas, wedge, owners):
            own = _nearer(common(areas[other], wedge), line, longer[other])
            areas[other] = minus(areas[other], own)
            areas[owner] = joined([areas[owner], own])


def _over(
    areas: list[shapely.Geometry], wedge: shapely.Polygon, apart_from: tuple[int, int]
) -> list[int]:
    found = shapely.area(shapely.intersection(areas, wedge)) > _SEEN
    return [each for each in np.flatnonzero(found).tolist() if each not in apart_from]


def _wedges(
    run: Run, following: Run, owners: tuple[int, int], width: float
) -> list[tuple[int, shapely.Polygon, NDArray[np.float64]]]:
    """At an inner corner, the half of it that each of two sides' planes covers beyond its end, and
    places on the line that it goes on in."""
    corner = run.places[-1]
    ways = np.array([corner - run.places[-2], following.places[1] - corner])
    ways /= np.hypot(*ways.T)[:, None]
    if ways[0, 0] * ways[1, 1] - ways[0, 1] * ways[1, 0] >= 0:
        return []
    inwards = np.stack([-ways[:, 1], ways[:, 0]], axis=1)
    open_ = 1 + float(inwards[0] @ inwards[1])
    if open_ < _SHARPEST:
        return []
    tip = corner + inwards.sum(axis=0) * width / open_
    beyond = (tip - corner) @ ways[0]
    steps = np.arange(0.5 * _STEP, beyond, _STEP)[:, None]
    lines = corner + steps * ways[0], corner - steps * ways[1]
    return [
        (owner, shapely.Polygon([corner, corner + inward * width, tip]), line)
        for owner, inward, line in zip(owners, inwards, lines, strict=True)
        if len(line)
    ]


def _nearer(
    area: shapely.Geometry, places: NDArray[np.float64], others: NDArray[np.float64]
) -> shapely.Geometry:
    """What of an area is nearer to some places than to others."""
    if area.is_empty:
        return area
    box = np.reshape(area.bounds, (2, 2))
    cells = _nearest_to(np.concatenate([places, _near_enough(box, places, others)]), box)
    return common(area, shapely.coverage_union_all(cells[: len(places)]))


def _near_enough(
    box: NDArray[np.float64], places: NDArray[np.float64], others: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Those of the others to which anything in a box (its lowest and highest corner) may be nearer
    than to all of the places."""
    low, high = box
    to_all_of_it = np.hypot(*np.maximum(np.abs(places - low), np.abs(places - high)).T)
    to_any_of_it = np.hypot(*np.maximum(np.maximum(low - others, others - high), 0).T)
    near: NDArray[np.bool_] = to_any_of_it <= to_all_of_it.min()
    return np.asarray(others[near])


def _nearest_to(
    places: NDArray[np.float64], box: NDArray[np.float64] | None = None
) -> NDArray[np.object_]:
    """Of each place (N, 2) the area that is nearest to it, as far as all of them and a box (2, 2)
    reach."""
    covered = places if box is None else np.concatenate([places, box])
    low, high = covered.min(axis=0), covered.max(axis=0)
    far = 4 * (high - low).max() + 1
    middle = (low + high) / 2
    ways = np.linspace(0, 2 * np.pi, 8, endpoint=False)
    around = middle + far * np.stack([np.cos(ways), np.sin(ways)], axis=1)
    found = Voronoi(np.concatenate([places, around]) - middle)
    cells = [found.regions[each] for each in found.point_region[: len(places)]]
    owners = np.repeat(np.arange(len(cells)), [len(cell) for cell in cells])
    corners = found.vertices[np.concatenate(cells)] + middle
    rings = shapely.linearrings(corners, indices=owners)
    return np.asarray(shapely.polygons(rings))


def _along(length: float) -> NDArray[np.float64]:
    """How far along a side its places lie: from `_STEP` apart at its ends to `_WIDEST` in its
    middle, where borders with other sides are far away and hardly bent by them."""
    if length <= 2 * _STEP:
        return np.array([length / 4, length * 3 / 4])
    half = [_STEP / 2]
    while half[-1] < length / 2:
        half.append(half[-1] + min(_STEP * (1 + half[-1] / _GROWS_OVER), _WIDEST))
    ends = np.array(half[:-1])
    gap = length - 2 * ends[-1]
    middle = [length / 2] if gap > half[-1] - half[-2] else []
    return np.concatenate([ends, middle, length - ends[::-1]])


def _samples(run: Run) -> NDArray[np.float64]:
    """Places along a side, as far from its ends as those of its neighbours are."""
    steps = np.hypot(*np.diff(run.places, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    at = _along(float(along[-1]))
    return np.stack([np.interp(at, along, axis) for axis in run.places.T], axis=1)
