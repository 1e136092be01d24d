"""What steps break a lettering into, in the card's plane."""

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.field.contours import outlines_of
from mabrel.field.outline_crossings import edge_of
from mabrel.steps.extent import Lines
from mabrel.steps.part import Kind, Strip
from mabrel.steps.parts.areas import either, joined
from mabrel.steps.piece import Array
from mabrel.steps.region import Region

ORDER: tuple[Kind, ...] = ("shadow", "outline", "back", "side", "facet", "front")
"""From what lies beneath to what lies above."""
_EVEN = 0.05  # pixels: what is narrower between two parts is no gap
_FINE = 0.02  # pixels by which traced outlines may leave the edge
_ONE_WAY = 0.5  # of its length that a side must face one way
_CORNER = np.radians(24)  # the least turn at which a side ends and another begins


class Shape(NamedTuple):
    """A part, in render pixels from the layer's centre."""

    kind: Kind
    area: shapely.Geometry
    anchor: tuple[float, float] | None = None
    """A place in what it belongs to: a letter; None where it belongs to all."""
    facing: float | None = None
    """Degrees, 0 to the right and 90 down; None for what faces no way, or every way."""
    spot: tuple[float, float] | None = None
    """A place by which it is known, whatever of it is seen: on the outline that it begins at; None
    for its middle."""
    run: int | None = None
    """Which stretch of its outline it belongs to, whatever of it is seen; None for all of it."""
    strip: Strip | None = None
    """See `NamedPart`."""


class Run(NamedTuple):
    """A stretch of an outline from one corner to the next: a side of the shape."""

    places: NDArray[np.float64]
    """(N, 2), what is inside on the left where x runs right and y up; its end is its last one."""
    anchor: tuple[float, float]
    """A place in the shape that it is the edge of."""
    number: int
    """Among those of the shape."""

    def shape(self, kind: Kind, area: shapely.Geometry, strip: Strip | None = None) -> Shape:
        """A part that belongs to it."""
        return Shape(kind, area, self.anchor, self.facing, self.spot, self.number, strip)

    @property
    def is_straight(self) -> bool:
        way = self.places[-1] - self.places[0]
        length = float(np.hypot(*way))
        if length < _EVEN:
            return False
        off = (self.places - self.places[0]) @ np.array([way[1], -way[0]]) / length
        return float(np.abs(off).max()) < _EVEN

    @property
    def facing(self) -> float | None:
        """Which way it faces outwards, in degrees, 0 to the right and 90 down; None where it goes
        so far around that it faces no way."""
        way = np.diff(self.places, axis=0)
        normals = np.stack([way[:, 1], -way[:, 0]], axis=1)
        x, y = normals.sum(axis=0).tolist()
        if np.hypot(x, y) < _ONE_WAY * np.hypot(*normals.T).sum():
            return None
        return float(np.degrees(np.arctan2(y, x)) % 360)

    @property
    def spot(self) -> tuple[float, float]:
        """Half way along it; of a closed one, its highest place."""
        if (self.places[0] == self.places[-1]).all():
            x, y = self.places[np.argmin(self.places[:, 1])].tolist()
            return x, y
        steps = np.hypot(*np.diff(self.places, axis=0).T)
        along = np.concatenate([[0.0], np.cumsum(steps)])
        x, y = (float(np.interp(along[-1] / 2, along, axis)) for axis in self.places.T)
        return x, y


@dataclass(frozen=True)
class Solid:
    """A lettering on its way through a build, as shapes."""

    face: shapely.Geometry
    """All of its front, rims too."""
    front: shapely.Geometry
    """What rims leave of it."""
    parts: tuple[Shape, ...] = ()
    whole: bool = False
    """Whether its sides are kept whole where others hide them."""

    @property
    def silhouette(self) -> shapely.Geometry:
        """All that is solid of it."""
        solid = [each.area for each in self.parts if each.kind in ("side", "back", "outline")]
        whole = joined([self.face, *solid])
        return whole.buffer(_EVEN).buffer(-_EVEN).simplify(_EVEN)

    def with_parts(self, *parts: Shape) -> "Solid":
        return replace(self, parts=(*self.parts, *parts))


def area_of(coverage: Array, region: Region) -> shapely.Geometry:
    """What is covered by more than half of pixels ((H, W), 0..1) over a region."""
    lines = outlines_of(edge_of(np.ascontiguousarray(coverage)), _FINE)
    return face_of(lines + np.array([region.left + 0.5, region.top + 0.5] * 2))


def face_of(lines: Lines) -> shapely.Geometry:
    """The area within closed outlines (N, 4)."""
    rings = _rings(lines)
    areas = [shapely.Polygon(ring) for ring in rings if len(ring) > 2]
    area = shapely.Polygon()
    for each in areas:  # what lies in a hole is an island again
        area = either(area, shapely.make_valid(each))
    return shapely.orient_polygons(area, exterior_cw=False)


def _rings(lines: Lines) -> list[NDArray[np.float64]]:
    if not len(lines):
        return []
    breaks = np.flatnonzero(np.abs(lines[1:, :2] - lines[:-1, 2:]).max(axis=1) > 1e-6) + 1
    return [loop[:, :2] for loop in np.split(lines, breaks)]


def runs_of(face: shapely.Geometry) -> list[Run]:
    """The sides of a face, ring by ring."""
    found: list[Run] = []
    for each in shapely.get_parts(face):
        if each.area > 0:
            found += _runs_of_one(each)
    return found


def _runs_of_one(piece: shapely.Polygon) -> list[Run]:
    found: list[Run] = []
    anchor = anchor_of(piece)
    for ring in (piece.exterior, *piece.interiors):
        places = shapely.get_coordinates(ring)[:-1]
        cuts = _corners(places)
        if not cuts:
            found.append(Run(np.concatenate([places, places[:1]]), anchor, len(found)))
            continue
        places = np.roll(places, -cuts[0], axis=0)
        closed = np.concatenate([places, places[:1]])
        starts = [cut - cuts[0] for cut in cuts]
        for first, last in zip(starts, [*starts[1:], len(places)], strict=True):
            found.append(Run(closed[first : last + 1], anchor, len(found)))
    return found


def anchor_of(area: shapely.Polygon) -> tuple[float, float]:
    """A place in it."""
    place = shapely.point_on_surface(area)
    return float(place.x), float(place.y)


def fronts_of(solid: Solid) -> list[Shape]:
    """Its front, in the parts that hang together."""
    there = [each for each in shapely.get_parts(solid.front) if each.area > 0]
    return [Shape("front", each, anchor_of(each)) for each in there]


def _corners(places: NDArray[np.float64]) -> list[int]:
    before = places - np.roll(places, 1, axis=0)
    after = np.roll(places, -1, axis=0) - places
    turn = np.arctan2(
        before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1)
    )
    return np.flatnonzero(np.abs(turn) > _CORNER).tolist()
