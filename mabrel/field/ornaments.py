"""Shapes to join to lettering: stars, gears, rings, splats and drops, as polygons."""

import math

import numpy as np
from numpy.typing import NDArray

Polygon = NDArray[np.float64]
Draw = np.random.Generator


def star(radius: float, points: int, twist: float) -> Polygon:
    """A star with that many points, its inner corners turned by `twist` degrees."""
    outer = _ring(radius, points, 0.0)
    inner = _ring(radius * 0.46, points, math.pi / points + math.radians(twist))
    return np.stack([outer, inner], axis=1).reshape(-1, 2)


def gear(radius: float, teeth: int, twist: float) -> Polygon:
    """A cog wheel with a round hole; `twist` degrees lean its teeth."""
    step = 2 * math.pi / teeth
    lean = math.radians(twist)
    corners = [(0.78, -0.30, 0.0), (1.0, -0.20, lean), (1.0, 0.20, lean), (0.78, 0.30, 0.0)]
    rim = [
        _polar(radius * far, step * (tooth + share) + turned)
        for tooth in range(teeth)
        for far, share, turned in corners
    ]
    return _with_hole(np.array(rim), radius * 0.34)


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
    """A drop that runs down out of an edge: wide where it leaves it, a thin neck, a round end.

    Its top is the origin; more `points` make it longer, `twist` degrees swing it.
    """
    end = radius * 0.34 * draw.uniform(0.8, 1.2)
    long = radius * (0.9 + 0.22 * points) * draw.uniform(0.45, 1.15) + end
    t = np.linspace(0, 1, 90)
    flare = 2.3 * end * np.clip(1 - t * long / (2.6 * end), 0, 1) ** 3
    neck = 0.62 * end
    bulb_y = (t * long - (long - end)) / end
    bulb = end * np.sqrt(np.clip(1 - bulb_y * bulb_y, 0, 1))
    thin = neck * np.clip((long - t * long) / end, 0, 1)  # none is left at the lowest point
    half = np.maximum(np.maximum(flare, np.where(bulb_y < 0, neck, thin)), bulb)
    side = np.stack([half, t * long], axis=1)
    outline = np.concatenate([side, (side * [-1, 1])[::-1]])
    turn = math.radians(twist)
    matrix = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
    return np.asarray(outline @ matrix)


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
