"""Ornaments joined to the letters, or cut out of them."""

import math
from typing import Literal

import numpy as np

from mabrel.field import ornaments
from mabrel.field.fill import fill
from mabrel.source.uniting import combined
from mabrel.steps.extent import Extent, Lines
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds


class Ornament(StepSettings):
    form: Literal["drop", "splat", "star", "gear", "ring"] = kinds.choice(
        "drop", "What is joined to the letters."
    )
    count: int = kinds.count(9, 1, 60, "How many.")
    size: float = kinds.length(48, 1, 2000, "How large they are.")
    points: int = kinds.count(5, 3, 40, "How many points, teeth or arms each has.")
    twist: float = kinds.angle(
        0, -90, 90, "Bends their arms: turns their tips against their middle."
    )
    rounded: float = kinds.fraction(
        0.0, "How round their corners and arms are.", when={"form": "star|gear|ring"}
    )
    place: Literal["edge", "field", "point"] = kinds.choice(
        "edge", "Along the edge, all over the lettering, or around one place."
    )
    centre: tuple[float, float] = kinds.point(
        (0, 0), "That place, from the layer's centre.", when={"place": "point"}
    )
    combine: Literal["join", "cut"] = kinds.choice("join", "Joined to the letters, or cut out.")
    seed: int = kinds.seed(2, "Another draw of their places and sizes.")


def _room(piece: Extent, settings: Ornament, scene: Scene) -> Margin:
    """As far as its shapes really reach beyond the piece."""
    shapes = [] if settings.combine == "cut" else _shapes(piece, settings, scene)
    if not shapes:
        return Margin()
    points = np.concatenate(shapes)
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    region = piece.region
    beyond = (region.left - left, region.top - top, right - region.right, bottom - region.bottom)
    return Margin(*(max(math.ceil(side), 0) + 2 for side in beyond))


@step(
    "shape.ornament",
    "Ornament",
    words="splash, drips, splatter, gear, cog, star, ring, blood, slime",
    reads=("matte",),
    writes=("matte",),
    room=_room,
)
def ornament(piece: Piece, settings: Ornament, scene: Scene) -> Piece:
    """Join drops, splats, stars, gears or rings to the letters, or cut them out; they take the
    same look."""
    shapes = _shapes(piece, settings, scene)
    cut = settings.combine == "cut"
    if piece.outline is not None:
        lines = combined(piece.outline, shapes, cut)
        matte = fill(lines, piece.region)
        return piece.reshaped(matte, lines)
    cover = fill(combined(np.zeros((0, 4)), shapes, False), piece.region)
    matte = piece.matte * (1 - cover) if cut else np.maximum(piece.matte, cover)
    return piece.reshaped(matte)


def _shapes(piece: Extent, settings: Ornament, scene: Scene) -> list[np.ndarray]:
    draw = np.random.default_rng(settings.seed)
    return [
        _shape(settings, scene, draw) + place for place in _places(piece, settings, scene, draw)
    ]


def _shape(settings: Ornament, scene: Scene, draw: np.random.Generator) -> np.ndarray:
    radius = settings.size * scene.scale * (1 if settings.count == 1 else draw.uniform(0.55, 1))
    points, twist = settings.points, settings.twist
    if settings.form == "splat":
        return ornaments.splat(radius, points, twist, draw)
    if settings.form == "drop":
        return ornaments.drop(radius, points, twist, draw)
    make = {"star": ornaments.star, "gear": ornaments.gear, "ring": ornaments.ring}[settings.form]
    shape = make(radius, points, twist)
    return (
        shape
        if settings.rounded == 0
        else ornaments.rounded(shape, 0.14 * radius * settings.rounded)
    )


def _places(
    piece: Extent, settings: Ornament, scene: Scene, draw: np.random.Generator
) -> list[tuple[float, float]]:
    left, top, right, bottom = piece.box
    if settings.place == "point":
        x, y = (axis * scene.scale for axis in settings.centre)
        spread = 0 if settings.count == 1 else settings.size * scene.scale
        return [
            (x + spread * draw.normal(), y + spread * draw.normal()) for _ in range(settings.count)
        ]
    if settings.place == "field":
        return [
            (draw.uniform(left, right), draw.uniform(top, bottom)) for _ in range(settings.count)
        ]
    return _along_the_edge(piece, settings, draw)


def _along_the_edge(
    piece: Extent, settings: Ornament, draw: np.random.Generator
) -> list[tuple[float, float]]:
    """Evenly over the edge, a little at random; drops hang from edges that face down."""
    lines = _edge(piece)
    if settings.form == "drop" and len(lines):
        below = lines[:, 2] - lines[:, 0]
        inside = below if _faces_down(lines, piece) else -below
        length = np.hypot(below, lines[:, 3] - lines[:, 1])
        lines = lines[(inside > 0.6 * length) & (length > 0)]
    if not len(lines):
        return []
    along = np.cumsum(np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]))
    steps = (np.arange(settings.count) + draw.uniform(0.15, 0.85, settings.count)) / settings.count
    found = np.searchsorted(along, steps * along[-1]).clip(0, len(lines) - 1)
    middle = (lines[found, :2] + lines[found, 2:]) / 2
    sunk = 1.5 if settings.form == "drop" else 0.0  # so that it overlaps what it runs out of
    return [(float(x), float(y) - sunk) for x, y in middle]


def _faces_down(lines: Lines, piece: Extent) -> bool:
    """Whether lines to the right have the ink above them: the lowest one tells."""
    flat = np.abs(lines[:, 2] - lines[:, 0]) > np.abs(lines[:, 3] - lines[:, 1])
    low = np.where(flat, lines[:, 1] + lines[:, 3], -np.inf).argmax()
    return bool(lines[low, 2] > lines[low, 0])


def _edge(piece: Extent) -> Lines:
    """Short lines along the edge: the outline's own, or level lines of the matte."""
    if piece.outline is not None:
        return piece.outline
    if not isinstance(piece, Piece):  # all that may be an edge
        left, top, right, bottom = piece.box
        return np.array([[left, bottom, right, bottom], [left, top, right, top]])
    inside = piece.matte > 0.5
    y, x = np.nonzero(inside[:-1] & ~inside[1:])
    across = x + piece.region.left
    down = y + 1.0 + piece.region.top
    return np.stack([across, down, across + 1.0, down], axis=1)
