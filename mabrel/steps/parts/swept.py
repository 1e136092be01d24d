"""The sides of a face that is pushed back: what of each one sees."""

from collections.abc import Callable, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.steps.part import Strip
from mabrel.steps.parts.areas import common, joined, minus
from mabrel.steps.parts.solid import Run, Shape, anchor_of, runs_of
from mabrel.steps.sides.way import Way

Places = NDArray[np.float64]
_THIN = 1e-4  # square pixels: less than that is no area
_OFTEN = 200  # overlaps between two looks at whether to give up
_JOINED = 1e-3  # pixels by which neighbours are grown to be one


def sides_of(
    face: shapely.Geometry,
    way: Way,
    whole: bool = False,
    pause: Callable[[], None] = lambda: None,
) -> list[Shape]:
    """The back of a body, whole, and what of each of its sides is seen from the front; those of
    which nothing is seen are empty.

    Sides lie behind the face; of two that lie over one another the one hides the other that is
    nearer to the face there. `whole` ones are not cut; those that are hidden come first.
    """
    end = _ends(way)
    back = shapely.transform(face, end)
    runs = runs_of(face)
    quads, normals, starts, owners = [], [], [], []
    for index, run in enumerate(runs):
        for a, b in zip(run.places[:-1], run.places[1:], strict=True):
            normal = np.array([b[1] - a[1], a[0] - b[0]])
            middle = (a + b) / 2
            if normal @ (end(middle[None])[0] - middle) <= 0:
                continue
            far = end(np.array([b, a]))
            quads.append(shapely.Polygon([a, b, far[0], far[1]]))
            normals.append(normal)
            starts.append(a)
            owners.append(index)
    depth = _depths(way, np.array(normals), np.array(starts))
    backs = [
        Shape("back", behind, anchor_of(front))
        for behind, front in zip(shapely.get_parts(back), shapely.get_parts(face), strict=True)
        if front.area > 0
    ]
    sides = _by_run(quads if whole else _seen(quads, face, depth, pause), owners, runs, way)
    order = _sorted(quads, owners, depth) if whole else sorted(sides)
    unseen = [run.shape("side", shapely.Polygon()) for n, run in enumerate(runs) if n not in sides]
    return [*backs, *(each for owner in order for each in sides.get(owner, [])), *unseen]


def _sorted(
    quads: list[shapely.Polygon], owners: list[int], depth: Callable[[int, Places], float]
) -> list[int]:
    """The sides that have quads, each after those that it hides; what hides one another in a
    circle comes as it runs round."""
    before: dict[int, set[int]] = {owner: set() for owner in owners}
    for i, j in _overlapping(quads):
        if owners[i] == owners[j]:
            continue
        both = common(quads[i], quads[j])
        if both.area >= _THIN * 100:
            place = shapely.get_coordinates(shapely.point_on_surface(both))[0]
            if depth(j, place) > depth(i, place):
                before[owners[i]].add(owners[j])
    done: list[int] = []
    while len(done) < len(before):
        left = [each for each in before if each not in done]
        free = [each for each in left if not (before[each] - set(done))]
        done += free or left[:1]
    return done


def _overlapping(quads: list[shapely.Polygon]) -> list[tuple[int, int]]:
    tree = shapely.STRtree(quads)
    first, second = tree.query(quads, predicate="overlaps")
    return list(zip(first.tolist(), second.tolist(), strict=True))


def _ends(way: Way) -> Callable[[Places], Places]:
    """Where places of the face end up at the back."""
    towards = np.array(way.towards)
    if way.shrink == 0:
        return lambda places: places + towards * way.length
    return lambda places: towards + (places - towards) * (1 - way.shrink)


def _depths(way: Way, normals: Places, starts: Places) -> Callable[[int, Places], float]:
    """How deep a place (2) of one side lies, 0 at the face."""
    towards = np.array(way.towards)

    def straight(side: int, place: Places) -> float:
        return float(
            normals[side] @ (place - starts[side]) / (normals[side] @ towards * way.length)
        )

    def shrunk(side: int, place: Places) -> float:
        whole = normals[side] @ (starts[side] - towards)
        return float(1 - normals[side] @ (place - towards) / whole)

    return straight if way.shrink == 0 else shrunk


def _seen(
    quads: list[shapely.Polygon],
    face: shapely.Geometry,
    depth: Callable[[int, Places], float],
    pause: Callable[[], None],
) -> list[shapely.Geometry]:
    """What is left of each without the face, and without what lies over it."""
    if not quads:
        return []
    found: list[shapely.Geometry] = list(quads)
    pieces = shapely.get_parts(face)
    shapely.prepare(pieces)
    hits = shapely.STRtree(pieces).query(quads, predicate="intersects")
    for i, piece in zip(*hits.tolist(), strict=True):
        found[i] = minus(found[i], pieces[piece])
    for count, (i, j) in enumerate(_overlapping(quads)):
        if count % _OFTEN == 0:
            pause()
        if found[i].is_empty:
            continue
        both = common(found[i], quads[j])
        if both.area < _THIN:
            continue
        place = shapely.get_coordinates(shapely.point_on_surface(both))[0]
        if depth(j, place) < depth(i, place):
            found[i] = minus(found[i], quads[j])
    return found


def _by_run(
    seen: Sequence[shapely.Geometry], owners: list[int], runs: list[Run], way: Way
) -> dict[int, list[Shape]]:
    """The sides, by the runs of the outline that they belong to: those of which any is seen."""
    own: dict[int, list[shapely.Geometry]] = {}
    for area, owner in zip(seen, owners, strict=True):
        if area.area > 0:
            own.setdefault(owner, []).append(area.buffer(_JOINED, join_style="mitre"))
    found: dict[int, list[Shape]] = {}
    for owner, areas in own.items():
        strip = _strip(runs[owner], way)
        for part in shapely.get_parts(joined(areas)):
            if isinstance(part, shapely.Polygon) and part.area > _THIN * 100:
                found.setdefault(owner, []).append(runs[owner].shape("side", part, strip))
    return found


def _strip(run: Run, way: Way) -> Strip | None:
    """All of a side; None for one that is not flat."""
    if not run.is_straight:
        return None
    edge = run.places[[0, -1]]
    return Strip(edge, _ends(way)(edge), way.length)
