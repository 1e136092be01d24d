"""The outline of shapes: each made, put where it stands, and joined to those before it."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from mabrel.field import shapes as made
from mabrel.source.flatten import Lines, wound
from mabrel.source.uniting import cut_out, joined_to, overlapping
from mabrel.title import Shape, ShapesSource, value_at

Box = tuple[float, float, float, float]
Loop = NDArray[np.float64]
Part = list[Loop]
"""A rim, and its holes."""
SMALLEST = 0.05
"""Pixels: what is thinner is not there."""
_COMBINED = {"join": joined_to, "cut": cut_out, "overlap": overlapping}
TWISTED = ("rectangle", "polygon", "star", "gear")
"""Forms that are bent as a whole; others bend their own arms."""

ROUNDED_BY_TIPS = ("star", "gear")
"""Forms whose many corners bear the less, the more they are."""
ROUNDED = (*ROUNDED_BY_TIPS, "rectangle", "polygon", "ribbon", "arrow", "frame", "path")


@dataclass(frozen=True)
class SetShape:
    """A shape as it is at a time, in pixels; see `mabrel.title.Shape`."""

    form: str
    combine: str
    x: float
    y: float
    width: float
    height: float
    turn: float
    points: int
    inner: float
    twist: float
    rounded: float
    line: float
    seed: int
    closed: bool
    nodes: tuple[tuple[float, ...], ...]


def shapes_outline(shapes: Sequence[SetShape]) -> Lines:
    """Closed outlines (N, 4: x1, y1, x2, y2) of all of them, holes the other way round."""
    lines = np.zeros((0, 4))
    for shape in shapes:
        own = [outline_of(part) for part in shape_parts(shape)]
        lines = _COMBINED[shape.combine](lines, [part for part in own if len(part)])
    return lines


def outline_of(part: Part) -> Lines:
    """A rim, and its holes the other way round."""
    rim, *holes = (wound(loop) for loop in part)
    return np.concatenate([_turned(rim, 1), *(_turned(hole, -1) for hole in holes)])


def _turned(lines: Lines, way: int) -> Lines:
    """Closed outlines, run through the way round that has an area of that sign."""
    x1, y1, x2, y2 = lines.T
    backwards = np.sum(x1 * y2 - x2 * y1) * way < 0
    return lines[::-1, [2, 3, 0, 1]] if backwards else lines


def shape_parts(shape: SetShape) -> list[Part]:
    """One shape where it stands: its parts, each its rim and its holes (each (N, 2))."""
    size = (max(shape.width, 0.0), max(shape.height, 0.0))
    closed = shape.form != "path" or shape.closed
    if shape.form == "path":
        bare = [[drawn(shape.nodes, shape.closed)]]
        across, down = np.ptp(bare[0][0], axis=0).tolist()
        size = (across, down)
    elif min(size) < SMALLEST:
        return []
    else:
        bare = _bare(shape, size)
    if shape.rounded > 0 and shape.form in ROUNDED and (closed or shape.line <= 0):
        most = min(size) / 2
        if shape.form in ROUNDED_BY_TIPS:
            most = min(most, min(size) * 0.8 / shape.points)
        bare = [[made.rounded(rim, most, shape.rounded), *holes] for rim, *holes in bare]
    if shape.twist and shape.form in TWISTED:
        bare = [made.twisted(part, shape.twist) for part in bare]
    line = shape.line if shape.form == "path" else min(shape.line, min(size) / 2)
    if line > 0:
        bare = [made.stroked(loop, line, closed) for part in bare for loop in part]
    turn = math.radians(shape.turn)
    cos, sin = math.cos(turn), math.sin(turn)
    turned = np.array([[cos, sin], [-sin, cos]])
    placed = [
        [loop @ turned + (shape.x, shape.y) for loop in part if len(loop) > 2] for part in bare
    ]
    return [part for part in placed if part]


def _bare(shape: SetShape, size: made.Size) -> list[Part]:
    points, inner, twist = shape.points, shape.inner, shape.twist
    match shape.form:
        case "ellipse":
            return [[made.ellipse(size)]]
        case "polygon":
            return [[made.polygon(size, points)]]
        case "star":
            return [[made.star(size, points, inner)]]
        case "gear":
            return [made.gear(size, points, inner)]
        case "ring":
            return [made.ring(size, min(inner, 0.98))]
        case "swirl":
            return [[made.swirl(size, points, inner, twist)]]
        case "drop":
            return [[made.drop(size, inner)]]
        case "splash":
            return [[blot] for blot in made.splash(size, points, twist, shape.seed)]
        case "ribbon":
            return [[made.ribbon(size, inner, twist)]]
        case "arrow":
            return [[made.arrow(size, inner)]]
    return [[made.rectangle(size)]]


def set_shapes(
    source: ShapesSource, time: float, unit: float, ink: Callable[[str], Box]
) -> tuple[SetShape, ...]:
    """Shapes at a time, `unit` pixels for one of their own; `ink` gives the box of a lettering,
    by its id, in those pixels."""
    return tuple(_set(shape, time, unit, ink) for shape in source.shapes)


def _set(shape: Shape, time: float, unit: float, ink: Callable[[str], Box]) -> SetShape:
    def now(value: Any) -> Any:
        return value_at(value, time)

    x, y = now(shape.x) * unit, now(shape.y) * unit
    wide, high = now(shape.width) * unit, now(shape.height) * unit
    if shape.form == "frame" and shape.around is not None:
        left, top, right, bottom = ink(shape.around)
        beyond = 2 * now(shape.margin) * unit
        x, y = x + (left + right) / 2, y + (top + bottom) / 2
        wide, high = max(right - left + beyond, 0.0), max(bottom - top + beyond, 0.0)
    nodes = tuple(tuple(part * unit for part in node) for node in now(shape.nodes))
    return SetShape(
        shape.form, shape.combine, x, y, wide, high, now(shape.turn), now(shape.points),
        now(shape.inner), now(shape.twist), now(shape.rounded), now(shape.line) * unit,
        shape.seed, shape.closed, nodes if shape.form == "path" else (),
    )  # fmt: skip


def drawn(nodes: Sequence[Sequence[float]], closed: bool) -> Loop:
    """A drawn path as the places (N, 2) that it runs through."""
    return made.path(np.array(nodes, np.float64), closed)
