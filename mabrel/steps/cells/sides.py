"""Cells on the sides of a body: their grids, and what is painted there."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import straight
from mabrel.field.fill import fill
from mabrel.steps.cells.grid import Grid, cells_between, grids_of
from mabrel.steps.cells.inks import painted_at, with_patch
from mabrel.steps.cells.pixels import weights_of
from mabrel.steps.cells.settings import Cells
from mabrel.steps.part import Kind, NamedPart, Strip
from mabrel.steps.parts.areas import rings_of
from mabrel.steps.parts.matching import owners_of
from mabrel.steps.parts.named import letter_names
from mabrel.steps.parts.painting import BEHIND, Fill, laid_within, painted, seen_parts
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
from mabrel.title.painted import Painted, Patch, Side

_SEEN = 0.02  # of a cell that is seen at least, for it to be painted in
_LEAST = 1e-3  # of its front edge that the back of a side must be seen as


class SideGrid(NamedTuple):
    """The grid on one flat side of which anything is seen."""

    grid: Grid
    """Its columns run along the front edge, from the left or from above, its rows back from it."""
    side: Side
    of: int
    """Which of the grids on faces is that of its letter."""
    parts: tuple[NamedPart, ...]
    """What is seen of it."""


def has_sides(settings: Cells) -> bool:
    """Whether cells are painted on any."""
    return any(patch.side for patch in settings.painted.letters)


def side_grids(
    faces: Sequence[Grid], parts: Sequence[NamedPart], settings: Cells, scene: Scene
) -> list[SideGrid]:
    """The grids on the sides of a body that has been broken into `parts`: cells are as wide as
    those of the face that they belong to, and as deep."""
    names = _names(faces, scene)
    seen: dict[tuple[object, ...], list[NamedPart]] = {}
    for part in parts:
        if (
            part.strip is not None
            and not part.area.is_empty
            and (part.letter in names or not names)
        ):
            seen.setdefault((part.letter, part.facing, part.place), []).append(part)
    found = []
    for own in seen.values():
        first = own[0]
        of = names.index(first.letter) if names else 0
        grid = _grid(first.strip, faces[of], settings) if first.strip else None
        if grid is not None and first.facing is not None:
            found.append(SideGrid(grid, _side(first, not names), of, tuple(own)))
    return found


def _names(faces: Sequence[Grid], scene: Scene) -> list[str]:
    """Of the letters that have a grid each; none where one lies on them all."""
    return letter_names(scene.letters) if any(face.letter for face in faces) else []


def _side(part: NamedPart, named: bool) -> Side:
    x, y = part.place
    facing, place = round(part.facing or 0.0, 1), (round(x, 3), round(y, 3))
    return Side(facing=facing, place=place, letter=part.letter if named else "")


def _grid(strip: Strip, face: Grid, settings: Cells) -> Grid | None:
    turned = np.reshape(face.turned, (2, 2))
    edge, far = strip.edge, strip.far
    as_set = np.linalg.solve(turned, edge[1] - edge[0])
    if as_set[np.argmax(np.abs(as_set) > 1e-3 * np.abs(as_set).max())] < 0:
        edge, far, as_set = edge[::-1], far[::-1], -as_set
    long, share = np.hypot(*(edge[1] - edge[0])), np.hypot(*as_set)
    shrunk = np.hypot(*(far[1] - far[0])) / long
    if shrunk < _LEAST:
        return None
    along = np.hypot(as_set[0] * face.across, as_set[1] * face.down) / share * long / share
    deep = math.sqrt(face.across * face.down * abs(np.linalg.det(turned)))
    way, back = (edge[1] - edge[0]) / long, (far[0] / shrunk - edge[0]) / strip.depth
    columns, rows = (
        cells_between(0.0, reach, 0.0, size)[1]
        for reach, size in ((long, along), (strip.depth, deep))
    )
    return Grid(
        face.letter, (0.0, 0.0), float(along), deep, 0, 0, columns, rows,
        (float(way[0]), float(back[0]), float(way[1]), float(back[1])),
        (float(edge[0, 0]), float(edge[0, 1])),
        (0.0, float(1 / shrunk - 1) / strip.depth),
    )  # fmt: skip


def inked_side(side: SideGrid, fine: int) -> NDArray[np.bool_]:
    """(R, C): of which cells anything is seen, each cut into `fine` times `fine` parts."""
    grid = side.grid
    rings = [ring for part in side.parts for ring in rings_of(part.area)]
    lines = [np.hstack([ring, np.roll(ring, -1, axis=0)]) for ring in rings]
    ends = np.concatenate(lines).reshape(-1, 2).T
    there = np.ascontiguousarray((grid.cells_at(*ends) * fine).T).reshape(-1, 4)
    region = Region(grid.left * fine, grid.top * fine, grid.columns * fine, grid.rows * fine)
    return np.asarray(fill(there, region) > _SEEN, np.bool_)


class _Address(NamedTuple):
    """What cells of a side were painted for, on the letters of now."""

    letter: str
    facing: float
    place: tuple[float, float]
    kind: Kind = "side"


def kept_sides(
    hand: Painted,
    faces: Sequence[Grid],
    sides: Sequence[SideGrid],
    parts: Sequence[NamedPart],
    scene: Scene,
) -> dict[int, tuple[int, Side]]:
    """By the place of a side's grid, which letter of the painted ones, and which of its sides, has
    its cells. A side that is not seen keeps its own, and no other one gets them."""
    now, names = painted_at(hand, faces), _names(faces, scene)
    was = list(
        dict.fromkeys(
            (patch.letter, patch.side.facing, patch.side.place, patch.side.letter)
            for patch in hand.letters
            if patch.side and patch.letter in now
        )
    )
    addresses = [
        _Address(names[now[letter]] if names else own, facing, place)
        for letter, facing, place, own in was
    ]
    every = [part for part in parts if part.kind == "side"]
    owners = owners_of(addresses, every)[0]
    by_part = {id(part): owner for part, owner in zip(every, owners, strict=True)}
    found = {}
    for index, each in enumerate(sides):
        owner = by_part[id(each.parts[0])]
        if owner is not None:
            letter, facing, place, own = was[owner]
            found[index] = letter, Side(facing=facing, place=place, letter=own)
    return found


def sides_painted(piece: Piece, settings: Cells, scene: Scene) -> Array | None:
    """What is behind the face ((H, W, 4), premultiplied) with cells painted on its sides; None
    where there are none."""
    if piece.behind is None or not has_sides(settings):
        return None
    faces, parts = grids_of(piece, settings, scene), scene.parts
    sides = side_grids(faces, parts, settings, scene)
    kept = kept_sides(settings.painted, faces, sides, parts, scene)
    fills: dict[int, Fill] = {}
    for index, (letter, side) in kept.items():
        own = [
            patch
            for patch in settings.painted.letters
            if patch.letter == letter and patch.side == side
        ]
        filled = _fill(sides[index].grid, own, settings)
        fills |= {id(part): filled for part in sides[index].parts}
    if not fills:
        return None
    behind = [part for part in seen_parts(parts) if part.kind in BEHIND]
    laid = [(part, fills.get(id(part))) for part in behind]
    paint = painted(piece.behind, piece.region, laid, scene.pause)
    return laid_within(piece.behind, paint * np.float32(settings.opacity))


def _fill(whole: Grid, patches: Sequence[Patch], settings: Cells) -> Fill:
    fine = max(patch.divided for patch in patches)
    grid = whole.at_most(fine)

    def colours(window: Region) -> Array:
        cells = np.zeros((grid.rows * fine, grid.columns * fine, 5), np.float32)
        for patch in patches:
            cells = with_patch(cells, patch, settings.painted, grid, fine)
        weights = weights_of(grid, window, fine, settings.gap, runs_on=True)
        every = np.ones(cells.shape[:2], np.bool_)
        found = np.ascontiguousarray(weights.laid(cells[..., :4], every))
        return np.dstack([straight(found), found[..., 3:]])

    return Fill(colours, settings.side_shading)
