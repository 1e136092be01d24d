"""The facets of a rim: of each place of it, the side that is nearest."""

from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.spatial import Voronoi

from mabrel.steps.parts.areas import common, joined, minus
from mabrel.steps.parts.solid import Run, Shape, runs_of

_STEP = 0.75  # pixels between the places by which a side is known
_THIN = 0.05  # square pixels: less than that is no facet


def rim_of(
    face: shapely.Geometry, width: float, corners: Literal["round", "mitred"]
) -> tuple[shapely.Geometry, list[Shape]]:
    """What a rim of that width leaves of a face, and its facets: one for each side."""
    join: Literal["round", "mitre"] = "mitre" if corners == "mitred" else "round"
    inner = face.buffer(-width, join_style=join, mitre_limit=8.0)
    rim = minus(face, inner)
    if rim.is_empty:
        return face, []
    runs = runs_of(face)
    samples = [_samples(run) for run in runs]
    owners = np.repeat(np.arange(len(runs)), [len(each) for each in samples])
    pieces = _nearest_to(np.concatenate(samples))
    facets = []
    for index in range(len(runs)):
        own = joined(list(pieces[owners == index]))
        for part in shapely.get_parts(common(own, rim)):
            if isinstance(part, shapely.Polygon) and part.area > _THIN:
                facets.append(Shape("facet", part, runs[index].anchor, runs[index].facing))
    return inner, facets


def _nearest_to(places: NDArray[np.float64]) -> NDArray[np.object_]:
    """Of each place (N, 2) the area that is nearest to it, as far as all of them reach."""
    low, high = places.min(axis=0), places.max(axis=0)
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


def _samples(run: Run) -> NDArray[np.float64]:
    """Places along a side, as far from its ends as those of its neighbours are."""
    steps = np.hypot(*np.diff(run.places, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    count = max(int(np.ceil(along[-1] / _STEP)), 2)
    half = min(_STEP, along[-1] / count) / 2
    at = np.linspace(half, along[-1] - half, count)
    return np.stack([np.interp(at, along, axis) for axis in run.places.T], axis=1)
