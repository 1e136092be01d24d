"""Words along a line: each letter is turned as the line runs, and stays the outline it is."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from mabrel.field.shapes import arcs
from mabrel.source.drawing import skia
from mabrel.source.flatten import Lines
from mabrel.source.lettering import Letter, Outline
from mabrel.source.uniting import loops_of


@dataclass(frozen=True)
class Way:
    """What words run along, in pixels from the layer's centre."""

    points: NDArray[np.float64]
    """(N, 2): the places that it runs through."""
    closed: bool
    start: float
    """Where the middle of the words is, as a share of it; beyond 0..1 it runs round, where it is
    closed."""
    away: float
    """How far off it their baseline stands."""
    inside: bool


def circle(radius: float) -> NDArray[np.float64]:
    """From its top, clockwise."""
    angles = np.arange(arcs(radius)) * (2 * math.pi / arcs(radius)) - math.pi / 2
    return radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)


def longest_edge(lines: Lines) -> NDArray[np.float64]:
    """The longest of closed outlines, clockwise from its highest place."""
    loops = loops_of(lines)
    if not loops:
        return np.zeros((0, 2))
    points = max(loops, key=lambda loop: np.hypot(*(loop[:, 2:] - loop[:, :2]).T).sum())[:, :2]
    x, y = points.T
    if np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y) < 0:
        points = points[::-1]
    middle = points.mean(axis=0)
    highest = np.argmin(points[:, 1] + 1e-3 * np.abs(points[:, 0] - middle[0]))
    return np.asarray(np.roll(points, -int(highest), axis=0))


def set_along(outline: Outline, way: Way) -> Outline:
    """Words along a way, whose own centre stays the layer's. Lines below the first stand farther
    to the inner side. Letters beyond the ends of an open way are left out."""
    line = _Line(way)
    if line.length <= 0 or not outline.letters:
        return outline
    first = outline.letters[0].y
    groups: dict[tuple[int, int], list[Letter]] = {}
    for letter in outline.letters:
        groups.setdefault((letter.part[0], letter.part[2]), []).append(letter)
    placed = []
    for letters in groups.values():
        lines = np.concatenate([each.lines() for each in letters])
        middle = (lines[:, ::2].min() + lines[:, ::2].max()) / 2 if len(lines) else letters[0].x
        found = line.at(float(middle))
        if found is None:
            continue
        x, y, turn = found
        cos, sin = math.cos(turn), math.sin(turn)
        for each in letters:
            across, down = each.x - middle, each.y - first - way.away
            spot = (x + across * cos - down * sin, y + across * sin + down * cos)
            placed.append(each._replace(x=spot[0], y=spot[1], turn=math.degrees(turn)))
    return _outline(outline, placed)


class _Line:
    """A way by its length: where it is, and how it runs there."""

    def __init__(self, way: Way) -> None:
        points = way.points[::-1] if way.inside else way.points
        if way.inside and way.closed:  # from the same place, the other way round
            points = np.roll(points, 1, axis=0)
        self._closed = way.closed
        if way.closed and len(points):
            points = np.concatenate([points, points[:1]])
        steps = np.hypot(*np.diff(points, axis=0).T) if len(points) > 1 else np.zeros(0)
        self._points, self._along = points, np.concatenate([[0.0], np.cumsum(steps)])
        self.length = float(self._along[-1])
        share = 0.5 - way.start if way.inside else way.start
        self._start = (share if way.closed else 0.5 + way.start) * self.length

    def at(self, along: float) -> tuple[float, float, float] | None:
        """x, y and the direction (radians) so far from where the middle of the words is."""
        place = self._start + along
        if self._closed:
            place %= self.length
        elif not 0 <= place <= self.length:
            return None
        x, y = (float(np.interp(place, self._along, axis)) for axis in self._points.T)
        reach = max(self.length * 1e-3, 0.5)
        (x0, y0), (x1, y1) = (self._place(place + by) for by in (-reach, reach))
        return x, y, math.atan2(y1 - y0, x1 - x0)

    def _place(self, place: float) -> tuple[float, float]:
        place = place % self.length if self._closed else min(max(place, 0.0), self.length)
        x, y = (float(np.interp(place, self._along, axis)) for axis in self._points.T)
        return x, y


def _outline(outline: Outline, letters: list[Letter]) -> Outline:
    path = skia.Path()
    for each in letters:
        place = skia.Matrix.Scale(each.scale, each.scale)
        place.postRotate(each.turn)
        place.postTranslate(each.x, each.y)
        path.addPath(each.face.outline(each.glyph), place)
    if not path.countPoints():
        return replace(outline, path=path, letters=(), bounds=(0.0, 0.0, 0.0, 0.0))
    ink = path.computeTightBounds()
    bounds = (ink.left(), ink.top(), ink.right(), ink.bottom())
    return replace(outline, path=path, letters=tuple(letters), bounds=bounds)
