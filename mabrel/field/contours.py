"""A shape's edge as closed outlines, traced below the pixel."""

from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.field.outline_crossings import Edge, edge_of
from mabrel.kernels import kernel

Lines = NDArray[np.float64]
_NEAR = (1.4, 2.2)  # pixels beside a corner that antialiasing rounds: less, or more
_ALONG = 8.0  # and those that tell where its sides are
_STRAIGHT = 0.12  # pixels by which a side may leave its line
_MANY = 0.1  # corners for each crossing, above which they are grain
_TURN = 0.35  # radians from which two sides meet in a corner


def contours(coverage: NDArray[np.float32], tolerance: float = 0.08) -> Lines:
    """Closed outlines (N, 4: x1, y1, x2, y2) of where `coverage` (H, W) passes ½.

    Places are in pixels from the array's corner, found between pixels; points that lie within
    `tolerance` pixels of a straight line are left out. Corners that antialiasing has rounded are
    put back where their sides meet. What is inside lies to the left of the way that x and y run;
    holes run the other way round.
    """
    return outlines_of(edge_of(np.pad(np.asarray(coverage, np.float32), 1)), tolerance) - 0.5


def outlines_of(edge: Edge, tolerance: float = 0.08) -> Lines:
    """The same of an edge that reaches no border, in pixels from the first centre."""
    found = [_lines(loop, tolerance) for loop in _loops(edge)]
    return np.vstack(found) if found else np.empty((0, 4))


def _lines(loop: "_Loop", tolerance: float) -> Lines:
    points = _cornered(loop.points, loop.cornered)
    held = points.astype(np.float32)[:, None]
    kept = cv2.approxPolyDP(held, tolerance, True)[:, 0].astype(np.float64)
    if len(kept) < 3:
        return np.empty((0, 4))
    return np.hstack([kept, np.roll(kept, -1, axis=0)])


class _Loop(NamedTuple):
    points: Lines
    """(N, 2): one after the other around it."""
    cornered: NDArray[np.bool_]
    """(N): which of them are corners that were known."""


def _loops(edge: Edge) -> list[_Loop]:
    rows, columns = edge.inside.shape
    follows = np.full(2 * rows * columns, -1, np.int64)
    corner_after = np.full(2 * rows * columns, -1, np.int32)
    _link(edge.inside, edge.across, edge.down, edge.corner, follows, corner_after)
    starts = np.flatnonzero(follows >= 0)
    order, ends = np.empty(len(starts), np.int64), np.empty(len(starts), np.int64)
    many = _follow(starts, follows, order, ends)
    across = np.stack([edge.across, edge.down], axis=-1).ravel()
    place = order // 2
    points = np.stack([place % columns, place // columns], axis=1).astype(np.float64)
    points[np.arange(len(order)), order % 2] += across[order]
    found, first = [], 0
    for end in ends[:many]:
        found.append(_with_corners(points[first:end], corner_after[order[first:end]], edge.corners))
        first = end
    return found


def _with_corners(points: Lines, after: NDArray[np.int32], corners: NDArray[np.float32]) -> _Loop:
    there = np.flatnonzero(after >= 0)
    whole = np.insert(points, there + 1, corners[after[there]], axis=0) if len(there) else points
    known = np.zeros(len(whole), np.bool_)
    known[there + 1 + np.arange(len(there))] = True
    return _Loop(whole, known)


@kernel()
def _link(inside, across, down, corner, follows, corner_after):  # type: ignore[no-untyped-def]
    """From each crossing to the next one, with what is inside on the left of the way there.

    A crossing's number is twice that of its centre, and one more where it is on the way down.
    """
    rows, columns = inside.shape
    cornered = corner.shape[0] > 0
    for y in range(rows - 1):
        for x in range(columns - 1):
            here = 2 * (y * columns + x)
            top, left = here, here + 1
            right, bottom = here + 3, here + 2 * columns
            a, b = inside[y, x], inside[y, x + 1]
            c, d = inside[y + 1, x], inside[y + 1, x + 1]
            has_top, has_left = a != b, a != c
            has_right, has_bottom = b != d, c != d
            if has_top and has_left and has_right and has_bottom:
                if a:
                    follows[left], follows[right] = top, bottom
                else:
                    follows[top], follows[bottom] = left, right
                continue
            entry, leaves = -1, -1
            if has_top:
                entry, leaves = (top, leaves) if b else (entry, top)
            if has_right:
                entry, leaves = (right, leaves) if d else (entry, right)
            if has_bottom:
                entry, leaves = (bottom, leaves) if c else (entry, bottom)
            if has_left:
                entry, leaves = (left, leaves) if a else (entry, left)
            if entry >= 0:
                follows[entry] = leaves
                if cornered:
                    corner_after[entry] = corner[y, x]


@kernel()
def _follow(starts, follows, order, ends):  # type: ignore[no-untyped-def]
    """All crossings, loop by loop; where each loop ends; how many loops there are."""
    count, many = 0, 0
    for start in starts:
        at = start
        if follows[at] < 0:
            continue
        while at >= 0 and follows[at] >= 0:
            order[count] = at
            count += 1
            after = follows[at]
            follows[at] = -1
            at = after
        ends[many] = count
        many += 1
    return many


def _cornered(points: Lines, known: NDArray[np.bool_]) -> Lines:
    """Corners that are not known, since antialiasing has rounded them or outlines cross there, put
    back where straight sides meet (points (N, 2))."""
    count = len(points)
    if count < 16:
        return points
    sharp = np.abs(_turns(points, 5))
    sharper = sharp + np.abs(_turns(points, 2)) / 8  # tells which of several is the corner
    peaks = (sharp > _TURN) & (sharper >= np.roll(sharper, 1)) & (sharper > np.roll(sharper, -1))
    made, keep = points.copy(), np.ones(count, bool)
    for away in range(-3, 4):
        peaks &= ~np.roll(known, away)
    if peaks.sum() > _MANY * count:  # grain has none
        return points
    for index in np.flatnonzero(peaks):
        _put_back(points, int(index), made, keep)
    return made[keep]


def _turns(points: Lines, step: int) -> Lines:
    """(N): by how much it turns at each point, between those `step` before and behind it."""
    into, out = points - np.roll(points, step, axis=0), np.roll(points, -step, axis=0) - points
    across = into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0]
    return np.asarray(np.arctan2(across, (into * out).sum(axis=1)))


def _put_back(points: Lines, index: int, made: Lines, keep: NDArray[np.bool_]) -> None:
    away = np.arange(-14, 15)
    around = points[(index + away) % len(points)]
    far = np.hypot(*(around - points[index]).T)
    for near in _NEAR:
        corner = _meeting([around[(away * way > 0) & (far > near) & (far < _ALONG)]
                           for way in (-1, 1)])  # fmt: skip
        if corner is None or np.hypot(*(corner - points[index])) > near + 0.6:
            continue
        made[index] = corner
        keep[(index + away[(far <= near) & (away != 0)]) % len(points)] = False
        return


def _meeting(sides: list[Lines]) -> Lines | None:
    """Where two straight sides meet; None where they are not straight, or run on."""
    if min(len(side) for side in sides) < 4:
        return None
    (p, u, loose), (q, v, other) = (_line_through(side) for side in sides)
    cross = u[0] * v[1] - u[1] * v[0]
    if max(loose, other) > _STRAIGHT or abs(cross) < 0.25:
        return None
    gap = q - p
    return np.asarray(p + u * (gap[0] * v[1] - gap[1] * v[0]) / cross)


def _line_through(points: Lines) -> tuple[Lines, Lines, float]:
    """A place on the line nearest to points (N, 2), its direction, and how far one leaves it."""
    middle = points.mean(axis=0)
    _, _, axes = np.linalg.svd(points - middle, full_matrices=False)
    return middle, axes[0], float(np.abs((points - middle) @ axes[1]).max())
