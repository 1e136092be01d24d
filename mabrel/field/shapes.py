"""Shapes to start from, as polygons around their own middle (each (N, 2), y down); those with a
hole as two, the hole last.

They are as wide and high as they are asked for: `size` is (width, height), in pixels. Curves are
cut so finely that no chord lies more than a fiftieth of a pixel beside its arc.
"""

import math
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.field import ornaments

Polygon = NDArray[np.float64]
Size = tuple[float, float]
_FLAT = 0.02  # pixels that a chord may lie beside its arc
_MOST_PIECES, _SPARE = 200, 1.3  # of an arm of a swirl; and how many more than are needed
_MOST_CHORDS = 6000  # of a path: how it crosses itself is found among all pairs
_TIP = 0.1  # of the width of an arm at its root
_ALMOST = 0.995  # of the radius at which nothing would be left to round
_MOST_ROUND = 40_000  # chords of all round joints in a quarter of their circle


def arcs(radius: float) -> int:
    """Chords of a full circle of that radius."""
    if radius <= _FLAT:
        return 8
    return int(min(max(math.ceil(math.pi / math.acos(1 - _FLAT / radius)), 16), 4096))


def ellipse(size: Size) -> Polygon:
    count = arcs(max(size) / 2)
    return _around(np.ones(count), np.arange(count) * (2 * math.pi / count)) * _half(size)


def rectangle(size: Size) -> Polygon:
    return np.array([[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]]) * _half(size)


def polygon(size: Size, sides: int) -> Polygon:
    """A regular one, a corner at the top, stretched to its size."""
    return _corners(1.0, sides, 0.0) * _half(size)


def star(size: Size, points: int, inner: float) -> Polygon:
    """`inner` is how far in the corners between its arms lie: 1 is as far out as its tips."""
    rim = np.stack(
        [_corners(1.0, points, 0.0), _corners(max(inner, 0.02), points, math.pi / points)], axis=1
    )
    return rim.reshape(-1, 2) * _half(size)


def gear(size: Size, teeth: int, inner: float) -> list[Polygon]:
    """A cog wheel; `inner` is the radius of its round hole, as a share of its own."""
    step = 2 * math.pi / teeth
    corners = [(0.78, -0.30), (1.0, -0.20), (1.0, 0.20), (0.78, 0.30)]
    far = np.tile([share for share, _ in corners], teeth)
    angles = (
        np.repeat(np.arange(teeth), 4) * step + np.tile([at for _, at in corners], teeth) * step
    )
    return with_hole(_around(far, angles) * _half(size), min(inner, 0.74), size)


def ring(size: Size, inner: float) -> list[Polygon]:
    """`inner` is the radius of its hole, as a share of its own."""
    return with_hole(ellipse(size), inner, size)


def swirl(size: Size, arms: int, inner: float, twist: float) -> Polygon:
    """Arms that wind out of a middle, `inner` of its radius wide, by `twist` degrees to their
    tips, where they are thin; no farther than chords follow them without crossing."""
    core, step = min(max(inner, 0.05), 0.9), 2 * math.pi / arms
    # A chord's radius must grow all along it: pieces > (twist in radians)² / 2 (1 − core).
    most = math.sqrt(2 * (1 - core) * _MOST_PIECES / _SPARE)
    wound = min(max(math.radians(twist), -most), most)
    pieces = math.ceil(_SPARE * wound**2 / (2 * (1 - core)))
    smooth = math.ceil(arcs(max(size) / 2) * abs(wound) / (2 * math.pi))
    along = np.linspace(0, 1, max(pieces, min(smooth, _MOST_PIECES), 24) + 1)
    far = core + (1 - core) * along
    turn = wound * along
    half = 0.36 * step * (_TIP + (1 - _TIP) * (1 - along) ** 0.6)
    between = np.linspace(half[0], step - half[0], max(arcs(max(size) * core / 2) // (4 * arms), 3))
    one = np.concatenate(
        [
            _around(far, turn - half),
            _around(far, turn + half)[-2::-1],
            _around(np.full(len(between), core), between)[1:-1],
        ]
    )
    turns = [np.array([[math.cos(a), math.sin(a)], [-math.sin(a), math.cos(a)]]) for a in (
        step * arm for arm in range(arms)
    )]  # fmt: skip
    return np.concatenate([one @ turned for turned in turns]) * _half(size)


def drop(size: Size, pointed: float) -> Polygon:
    """A falling drop, its tip at the top; the more `pointed`, the longer it narrows."""
    count = arcs(max(size) / 2)
    angles = np.linspace(0, 2 * math.pi, count, endpoint=False)
    across = np.sin(angles) * np.sin(angles / 2) ** (0.5 + 3 * pointed)
    across /= np.abs(across).max()
    return np.stack([across, -np.cos(angles)], axis=1) * _half(size)


def splash(size: Size, points: int, twist: float, seed: int) -> list[Polygon]:
    """A blot with arms of different lengths, bent by `twist` degrees, and the drops that flew off
    before some of them."""
    draw = np.random.default_rng(seed)
    blot = _blot(points, twist, draw)
    angles, reach = np.arctan2(blot[:, 1], blot[:, 0]), np.hypot(*blot.T)
    before, after = np.roll(reach, 1), np.roll(reach, -1)
    tips = np.flatnonzero((reach > before) & (reach >= after) & (reach > 0.6))
    parts = [blot]
    for tip in tips[draw.random(len(tips)) < 0.7]:
        radius = float(draw.uniform(0.035, 0.085))
        far = reach[tip] + radius + float(draw.uniform(0.06, 0.2))
        middle = far * np.array([math.cos(angles[tip]), math.sin(angles[tip])])
        parts.append(radius * _circle(radius * max(size)) + middle)
    whole = np.concatenate(parts)
    low, high = whole.min(axis=0), whole.max(axis=0)
    return [(part - (low + high) / 2) / ((high - low) / 2) * _half(size) for part in parts]


def _blot(points: int, twist: float, draw: np.random.Generator) -> Polygon:
    """Arms all around, no two alike; each is a bell on the blot's radius."""
    step = 2 * math.pi / points
    around = step * (np.arange(points) + draw.uniform(-0.32, 0.32, points))
    reach = draw.uniform(0.2, 1.0, points) ** 1.3
    thick = step * draw.uniform(0.16, 0.3, points)
    angles = np.linspace(0, 2 * math.pi, 720, endpoint=False)
    off = np.angle(np.exp(1j * (angles[:, None] - around)))
    far = 0.9 + (0.85 * reach * np.exp(-((off / thick) ** 2))).sum(axis=1)
    bent = angles + math.radians(twist) * far / far.max()
    return _around(far / far.max(), bent)


def ribbon(size: Size, notch: float, wave: float) -> Polygon:
    """A band with notched ends, `notch` of its height deep, which waves by `wave` degrees."""
    count = arcs(size[0] / 2)
    along = np.linspace(-1, 1, count)
    rise = math.tan(math.radians(min(max(wave, -80), 80))) * 0.5
    middle = rise * np.sin(along * math.pi) * size[1] / 2
    half = size[1] / 2
    top = np.stack([along * size[0] / 2, middle - half], axis=1)
    foot = np.stack([along * size[0] / 2, middle + half], axis=1)[::-1]
    deep = min(notch * size[1], 0.35 * size[0])
    right = np.array([[size[0] / 2 - deep, middle[-1]]])
    left = np.array([[-size[0] / 2 + deep, middle[0]]])
    return np.concatenate([top, right, foot, left])


def arrow(size: Size, shaft: float) -> Polygon:
    """To the right; `shaft` is how thick its shaft is, as a share of its height."""
    wide, high = size[0] / 2, size[1] / 2
    neck = wide - min(1.2 * high, 1.6 * wide)
    thin = high * min(max(shaft, 0.02), 1)
    upper = [(-wide, -thin), (neck, -thin), (neck, -high), (wide, 0.0)]
    lower = [(neck, high), (neck, thin), (-wide, thin)]
    return np.array([*upper, *lower])


def twisted(loops: list[Polygon], degrees: float) -> list[Polygon]:
    """Turned by more and more from their middle outwards: arms bend, none crosses another."""
    reach = max(float(np.hypot(*loop.T).max()) for loop in loops)
    if reach <= 0:
        return loops
    return [thinned(ornaments.bent(loop, reach, degrees)) for loop in loops]


def thinned(loop: Polygon) -> Polygon:
    """Without places that lie between their neighbours, as nearly as chords lie on arcs."""
    kept = shapely.simplify(shapely.LinearRing(loop), _FLAT, preserve_topology=False)
    return np.asarray(shapely.get_coordinates(kept)[:-1]) if len(loop) > 3 else loop


def rounded(shape: Polygon, most: float, share: float) -> Polygon:
    """With its corners rounded: by a share of `most`, the largest radius that they bear."""
    return shape if share <= 0 else ornaments.rounded(shape, share * _ALMOST * most)


def stroked(shape: Polygon, width: float, closed: bool) -> list[Polygon]:
    """A line of that width along a shape, or along an open path, with round joints and ends: its
    rim, and its holes."""
    fine = min(max(arcs(width / 2) // 4, 4), max(_MOST_ROUND // max(len(shape), 1), 6))
    if not closed:
        return _loops(shapely.LineString(shape).buffer(width / 2, quad_segs=fine))
    rim = shapely.make_valid(shapely.Polygon(shape))
    rim = shapely.simplify(rim, width / _MOST_ROUND**0.5)
    edge = shapely.boundary(rim)
    if edge is None or edge.is_empty:  # it has no area
        return []
    return _loops(edge.buffer(width / 2, quad_segs=fine, join_style="mitre"))


def path(nodes: NDArray[np.float64], closed: bool) -> Polygon:
    """A drawn path: `nodes` (N, 6) are places, and how far off the ends of the handle before and
    after each lie; between two of them runs a cubic Bézier curve. Very long paths are cut less
    finely."""
    pairs = list(zip(nodes, np.roll(nodes, -1, axis=0), strict=True))
    pairs = pairs if closed else pairs[:-1]
    counts = [_chords(first, second) for first, second in pairs]
    share = min(_MOST_CHORDS / max(sum(counts), 1), 1.0)
    pieces = [
        _cubic(first, second, max(round(count * share), 1))
        for (first, second), count in zip(pairs, counts, strict=True)
    ]
    return np.concatenate([*pieces, nodes[:0, :2] if closed else nodes[-1:, :2]])


def _chords(first: NDArray[np.float64], second: NDArray[np.float64]) -> int:
    """How many a curve is cut into: chords are off by less than |second difference| / 8 n², times
    6 for a cubic's second derivative."""
    if not first[4:6].any() and not second[2:4].any():
        return 1
    start, end = first[:2], second[:2]
    out, back = start + first[4:6], end + second[2:4]
    bulge = max(np.hypot(*(start - 2 * out + back)), np.hypot(*(out - 2 * back + end)))
    return int(min(max(math.ceil(math.sqrt(0.75 * bulge / _FLAT)), 1), 400))


def _cubic(first: NDArray[np.float64], second: NDArray[np.float64], count: int) -> Polygon:
    start, end = first[:2], second[:2]
    out, back = start + first[4:6], end + second[2:4]
    t = np.arange(count)[:, None] / count
    return np.asarray(
        (1 - t) ** 3 * start + 3 * (1 - t) ** 2 * t * out + 3 * (1 - t) * t**2 * back + t**3 * end
    )


def with_hole(rim: Polygon, inner: float, size: Size) -> list[Polygon]:
    """A rim, and a round hole as far in as a share of its size."""
    return [rim] if inner <= 0 else [rim, ellipse((inner * size[0], inner * size[1]))]


def _circle(across: float) -> Polygon:
    count = arcs(across / 2)
    return _around(np.ones(count), np.arange(count) * (2 * math.pi / count))


def _corners(radius: float, count: int, start: float) -> Polygon:
    angles = start - math.pi / 2 + np.arange(count) * (2 * math.pi / count)
    return _around(np.full(count, radius), angles)


def _around(far: NDArray[np.float64], angles: Any) -> Polygon:
    return np.stack([far * np.cos(angles), far * np.sin(angles)], axis=1)


def _half(size: Size) -> NDArray[np.float64]:
    return np.array(size) / 2


def _loops(area: shapely.Geometry) -> list[Polygon]:
    """The largest part of an area: its rim, and its holes."""
    parts = [each for each in shapely.get_parts(area) if isinstance(each, shapely.Polygon)]
    largest = max(parts, key=lambda each: each.area, default=shapely.Polygon())
    rings = [] if largest.is_empty else [largest.exterior, *largest.interiors]
    return [shapely.get_coordinates(ring)[:-1] for ring in rings]
