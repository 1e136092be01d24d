"""Cubic Bézier curves through many places, as few as stay near enough.

By P. Schneider, "An algorithm for automatically fitting digitized curves" (Graphics Gems, 1990):
least squares for the lengths of both handles, places reparametrised by Newton's step, split where
the error is greatest.
"""

import math

import numpy as np
from numpy.typing import NDArray

Places = NDArray[np.float64]
Curve = NDArray[np.float64]
"""(4, 2): its start, the ends of its two handles, its end. A line has its handles on it."""
_CORNER = math.radians(28)  # turned by more than this within its reach, a place is a corner
_STEP = 1.5  # between places that a curve is held to, at most
_ROUNDS = 4
_STRAIGHT = 0.5  # of the tolerance within which places make a line


def fitted(ring: Places, tolerance: float) -> list[Curve]:
    """Curves around a closed ring (N, 2; its end isn't its start again), nowhere farther from its
    places than `tolerance`; corners stay corners."""
    if len(ring) < 3:
        return []
    corners = _corners(ring)
    start = corners[0] if corners else 0
    ring = np.roll(ring, -start, axis=0)
    cuts = [corner - start for corner in corners] or [0]
    closed = np.concatenate([ring, ring[:1]])
    ends = [*cuts[1:], len(ring)]
    curves: list[Curve] = []
    for first, last in zip(cuts, ends, strict=True):
        stretch = _dense(closed[first : last + 1])
        curves += _through(stretch, tolerance, smooth=not corners)
    return curves


def _dense(places: Places) -> Places:
    """With places in between, so that a curve is held to the lines too."""
    steps = np.hypot(*np.diff(places, axis=0).T)
    parts = np.maximum(np.ceil(steps / _STEP), 1).astype(int)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    at = np.concatenate(
        [
            np.linspace(a, b, n, endpoint=False)
            for a, b, n in zip(along, along[1:], parts, strict=False)
        ]
        + [along[-1:]]
    )
    return np.stack([np.interp(at, along, axis) for axis in places.T], axis=1)


def _corners(ring: Places) -> list[int]:
    before = ring - np.roll(ring, 1, axis=0)
    after = np.roll(ring, -1, axis=0) - ring
    turn = np.arctan2(
        before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1)
    )
    return np.flatnonzero(np.abs(turn) > _CORNER).tolist()


def _through(places: Places, tolerance: float, smooth: bool) -> list[Curve]:
    if len(places) < 2:
        return []
    start, end = _tangent(places[:4]), _tangent(places[::-1][:4])
    if smooth:  # around without a corner: both ends of it run the same way
        along = _unit(places[1] - places[-2])
        start, end = along, -along
    return _fit(places, start, end, tolerance)


def _fit(places: Places, start: Places, end: Places, tolerance: float) -> list[Curve]:
    first, last = places[0], places[-1]
    if len(places) == 2 or _off_line(places) < _STRAIGHT * tolerance:
        third = (last - first) / 3
        return [np.array([first, first + third, last - third, last])]
    lengths = np.hypot(*np.diff(places, axis=0).T)
    at = np.concatenate([[0.0], np.cumsum(lengths)]) / lengths.sum()
    curve = _least_squares(places, at, start, end)
    worst, error = _worst(places, at, curve)
    for _ in range(_ROUNDS):
        if error <= tolerance**2 or error > (8 * tolerance) ** 2:
            break
        at = _nearer(places, at, curve)
        curve = _least_squares(places, at, start, end)
        worst, error = _worst(places, at, curve)
    if error <= tolerance**2:
        return [curve]
    worst = min(max(worst, 1), len(places) - 2)
    middle = _unit(places[worst - 1] - places[worst + 1])
    return [
        *_fit(places[: worst + 1], start, middle, tolerance),
        *_fit(places[worst:], -middle, end, tolerance),
    ]


def _least_squares(places: Places, at: Places, start: Places, end: Places) -> Curve:
    first, last = places[0], places[-1]
    b0, b1, b2, b3 = _bernstein(at)
    a = np.stack([b1[:, None] * start, b2[:, None] * end], axis=1)
    bare = (b0 + b1)[:, None] * first + (b2 + b3)[:, None] * last
    rest = places - bare
    c = np.einsum("nik,njk->ij", a, a)
    x = np.einsum("nik,nk->i", a, rest)
    whole = c[0, 0] * c[1, 1] - c[0, 1] * c[1, 0]
    chord = float(np.hypot(*(last - first)))
    left = right = chord / 3
    if abs(whole) > 1e-12:
        left = (x[0] * c[1, 1] - x[1] * c[0, 1]) / whole
        right = (c[0, 0] * x[1] - c[1, 0] * x[0]) / whole
    if not (1e-6 * chord < left < 4 * chord + 1 and 1e-6 * chord < right < 4 * chord + 1):
        left = right = chord / 3
    return np.array([first, first + start * left, last + end * right, last])


def _bernstein(at: Places) -> tuple[Places, Places, Places, Places]:
    s = 1 - at
    return s**3, 3 * at * s**2, 3 * at**2 * s, at**3


def _on(curve: Curve, at: Places) -> Places:
    return np.stack(_bernstein(at), axis=1) @ curve


def _worst(places: Places, at: Places, curve: Curve) -> tuple[int, float]:
    off = ((_on(curve, at) - places) ** 2).sum(axis=1)
    worst = int(off.argmax())
    return worst, float(off[worst])


def _nearer(places: Places, at: Places, curve: Curve) -> Places:
    """One step of Newton's method towards the nearest place on the curve."""
    first = 3 * np.diff(curve, axis=0)
    second = 2 * np.diff(first, axis=0)
    s = 1 - at
    d1 = (s**2)[:, None] * first[0] + (2 * s * at)[:, None] * first[1] + (at**2)[:, None] * first[2]
    d2 = s[:, None] * second[0] + at[:, None] * second[1]
    off = _on(curve, at) - places
    top = (off * d1).sum(axis=1)
    foot = (d1 * d1).sum(axis=1) + (off * d2).sum(axis=1)
    moved = at - np.where(np.abs(foot) > 1e-12, top / np.where(foot == 0, 1, foot), 0)
    return np.clip(moved, 0, 1)


def _off_line(places: Places) -> float:
    first, last = places[0], places[-1]
    way = last - first
    length = float(np.hypot(*way))
    if length < 1e-9:
        return float(np.hypot(*(places - first).T).max())
    off = (places - first) @ np.array([-way[1], way[0]]) / length
    return float(np.abs(off).max())


def _tangent(places: Places) -> Places:
    return _unit(places[min(1, len(places) - 1)] - places[0])


def _unit(way: Places) -> Places:
    return np.asarray(way / max(float(np.hypot(*way)), 1e-12))
