"""Shapes to join to lettering: stars, gears, rings, splats and drops, as polygons."""

import math

import numpy as np
import shapely
from numpy.typing import NDArray

Polygon = NDArray[np.float64]
Draw = np.random.Generator
_FINE = 12  # pieces of a side that is bent, at least
_HALVINGS = 6  # of a radius that is too large, before corners are left alone
_LEFT = 0.5  # of an area that is left at least where its corners are rounded
_FINEST_TURN = 7.5  # degrees that one of them is turned by, at most


def star(radius: float, points: int, twist: float) -> Polygon:
    """A star with that many points, its arms bent by `twist` degrees."""
    outer = _ring(radius, points, 0.0)
    inner = _ring(radius * 0.46, points, math.pi / points)
    return bent(np.stack([outer, inner], axis=1).reshape(-1, 2), radius, twist)


def gear(radius: float, teeth: int, twist: float) -> Polygon:
    """A cog wheel with a round hole; `twist` degrees bend its teeth."""
    step = 2 * math.pi / teeth
    corners = [(0.78, -0.30), (1.0, -0.20), (1.0, 0.20), (0.78, 0.30)]
    rim = [
        _polar(radius * far, step * (tooth + share))
        for tooth in range(teeth)
        for far, share in corners
    ]
    return _with_hole(bent(np.array(rim), radius, twist), radius * 0.34)


def ring(radius: float, points: int, twist: float) -> Polygon:
    """A ring; `points` notches roll around it, `twist` degrees lean them."""
    angles = np.linspace(0, 2 * math.pi, 240, endpoint=False)
    wave = 0.04 * np.sin(angles * points + math.radians(twist) * points)
    rim = radius * (1 + wave)[:, None] * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    return _with_hole(rim, radius * 0.72)


def splat(radius: float, points: int, twist: float, draw: Draw) -> Polygon:
    """A blot with that many arms of different lengths, bent by `twist` degrees."""
    around = np.sort(draw.uniform(0, 2 * math.pi, points))
    reach = draw.uniform(0.25, 0.95, points)
    thick = draw.uniform(0.10, 0.24, points)
    angles = np.linspace(0, 2 * math.pi, 360, endpoint=False)
    far = np.full(angles.shape, 0.42)
    for centre, arm, width in zip(around, reach, thick, strict=True):
        off = np.angle(np.exp(1j * (angles - centre)))
        far = far + arm * np.exp(-((off / width) ** 2)) * (0.6 + 0.4 * arm)
    far /= max(far.max(), 1e-6)
    bent = angles + math.radians(twist) * far
    return np.asarray(radius * far[:, None] * np.stack([np.cos(bent), np.sin(bent)], axis=1))


def drop(radius: float, points: int, twist: float, draw: Draw) -> Polygon:
    """A drop that runs down out of an edge: wide where it leaves it, narrower, a round end.

    Its top is the origin; more `points` make it longer, `twist` degrees swing it.
    """
    end = radius * 0.34 * draw.uniform(0.8, 1.2)
    long = radius * (0.6 + 0.16 * points) * draw.uniform(0.45, 1.15) + 2 * end
    t = np.linspace(0, 1, 120)
    # The neck narrows from the edge down to three quarters of the drop's own width, then widens.
    half_way = np.clip(t * long / max(long - 1.4 * end, 1e-6), 0, 1)
    neck = end * (0.74 + 1.6 * (1 - half_way) ** 3)
    below = np.clip((t * long - (long - 2.2 * end)) / (1.2 * end), 0, 1)
    swollen = below * below * (3 - 2 * below)
    side = neck + (end - neck) * swollen
    down = np.clip((t * long - (long - end)) / end, 0, 1)
    half = np.where(t * long > long - end, end * np.sqrt(1 - down * down), side)
    outline = np.stack([half, t * long], axis=1)
    outline = np.concatenate([outline, (outline * [-1, 1])[::-1]])
    turn = math.radians(twist)
    matrix = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
    return np.asarray(outline @ matrix)


def rounded(shape: Polygon, by: float) -> Polygon:
    """With its corners rounded, outer ones and inner ones, by circles of that radius; by smaller
    ones where nothing would be left."""
    area = shapely.Polygon(shape)
    area = area if area.is_valid else shapely.make_valid(area)
    for halved in range(_HALVINGS):
        radius = by / 2**halved
        soft = area.buffer(-radius).buffer(2 * radius).buffer(-radius)
        parts = [each for each in shapely.get_parts(soft) if isinstance(each, shapely.Polygon)]
        largest = max(parts, key=lambda part: part.area, default=shapely.Polygon())
        if largest.area > _LEFT * area.area:
            return seamed(largest)
    return shape


def seamed(area: shapely.Polygon) -> Polygon:
    """An area with holes as one loop: around its rim, and back around each hole."""
    rim = shapely.get_coordinates(area.exterior)[:-1]
    for hole in area.interiors:
        around = shapely.get_coordinates(hole)
        rim = np.concatenate([rim, rim[:1], around, rim[:1]])
    return np.asarray(rim)


def bent(shape: Polygon, radius: float, twist: float) -> Polygon:
    """Turned by more and more from the middle to `radius`, by `twist` degrees there: its sides
    bend, and none crosses another."""
    if twist == 0:
        return shape
    ends = np.roll(shape, -1, axis=0)
    pieces = max(_FINE, math.ceil(abs(twist) / _FINEST_TURN))
    shares = np.linspace(0, 1, pieces, endpoint=False)[None, :, None]
    fine = (shape[:, None] + (ends - shape)[:, None] * shares).reshape(-1, 2)
    turn = math.radians(twist) * np.hypot(fine[:, 0], fine[:, 1]) / radius
    cos, sin = np.cos(turn), np.sin(turn)
    return np.stack(
        [fine[:, 0] * cos - fine[:, 1] * sin, fine[:, 0] * sin + fine[:, 1] * cos], axis=1
    )


def _ring(radius: float, count: int, start: float) -> Polygon:
    angles = start - math.pi / 2 + np.arange(count) * (2 * math.pi / count)
    return radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)


def _polar(radius: float, angle: float) -> tuple[float, float]:
    return radius * math.cos(angle), radius * math.sin(angle)


def _with_hole(rim: Polygon, radius: float) -> Polygon:
    """One loop around a rim and back around a hole, along a seam of no width."""
    angles = np.linspace(0, -2 * math.pi, 121) + math.atan2(rim[0, 1], rim[0, 0])
    hole = radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    return np.concatenate([rim, rim[:1], hole])
