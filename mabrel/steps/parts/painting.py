"""Painting parts: on the face where they are fronts and facets, behind it where they are sides."""

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np
import shapely

from mabrel.colour import brightness, from_code, straight
from mabrel.kernels import kernel
from mabrel.steps.part import NamedPart
from mabrel.steps.parts.areas import coverage, joined, minus
from mabrel.steps.piece import Array
from mabrel.steps.region import Region
from mabrel.title.part_paints import Brush

ON_FACE = ("front", "facet")
BEHIND = ("side", "outline")
_BEYOND = 2.0  # pixels that a paint goes on where there is no other part
_DARKEST = 0.02  # of white: nothing is told apart from less
_BRIGHTEST = np.float32(8)  # times the mean
_FULL = 0.999  # of a pixel


class Fill(NamedTuple):
    """What a part is filled with."""

    colours: Callable[[Region], Array]
    """Straight (H, W, 4), over a window."""
    shading: float
    """How much of the light and shade that lie there it keeps, 0..1."""


def seen_parts(parts: Sequence[NamedPart]) -> list[NamedPart]:
    """Outlines without what lies over them; all others as they are."""
    if not any(part.kind == "outline" for part in parts):
        return list(parts)
    over = joined([each.area for each in parts if each.kind in ("side", "facet", "front")])
    return [
        part._replace(area=minus(part.area, over)) if part.kind == "outline" else part
        for part in parts
    ]


def painted(
    plane: Array,
    region: Region,
    parts: Sequence[tuple[NamedPart, Fill | None]],
    pause: Callable[[], None] = lambda: None,
) -> Array:
    """Premultiplied colours (H, W, 4) to lay over a plane of colours ((H, W, 4), premultiplied):
    of all its parts those that have a fill, each covering of a pixel what the part does."""
    total = np.zeros_like(plane)
    if all(fill is None for _, fill in parts):
        return total
    covers = [_covered(part, region) for part, _ in parts]
    tones = brightness(straight(plane))
    levels = _levels(tones, np.clip(plane[..., 3], 0, 1), region, parts, covers)
    open_ = _left_open(region, covers)
    for (part, fill), (window, cover) in zip(parts, covers, strict=True):
        if not fill or not window:
            continue
        pause()
        inside = window.within(region)
        left = open_[inside]
        if left.any():
            wider = part.area.buffer(_BEYOND, join_style="mitre")
            cover = cover + coverage(wider, window) * left
        level, shading = np.float32(levels[part.kind]), np.float32(fill.shading)
        _lay(total[inside], fill.colours(window), cover, tones[inside] / level, shading)
    return np.asarray(total / np.maximum(total[..., 3:], np.float32(1)), np.float32)


def _covered(part: NamedPart, region: Region) -> tuple[Region | None, Array]:
    """The window of a part, and how much of each of its pixels it covers."""
    window = _window(part.area, region)
    return window, coverage(part.area, window) if window else np.zeros((0, 0), np.float32)


def _left_open(region: Region, covers: Sequence[tuple[Region | None, Array]]) -> Array:
    """(H, W), 0..1: what no part covers."""
    covered = np.zeros((region.height, region.width), np.float32)
    for window, cover in covers:
        if window is not None:
            covered[window.within(region)] += cover
    return np.where(covered < _FULL, 1 - covered, np.float32(0))


@kernel()
def _lay(total, colours, cover, light, shading):  # type: ignore[no-untyped-def]
    """Add straight colours where a part covers anything, as much darker than they are, or on the
    way to white, as what is there is darker or brighter than the mean of its kind."""
    one, none = np.float32(1), np.float32(0)
    for y in range(cover.shape[0]):
        for x in range(cover.shape[1]):
            alpha = colours[y, x, 3] * min(cover[y, x], one)
            if alpha == none:
                continue
            lit = one + (min(max(light[y, x], none), _BRIGHTEST) - one) * shading
            darker, towards_white = min(lit, one), one - one / max(lit, one)
            for c in range(3):
                colour = colours[y, x, c]
                shaded = colour * darker + max(one - colour, none) * towards_white
                total[y, x, c] += shaded * alpha
            total[y, x, 3] += alpha


def laid_within(plane: Array, paint: Array) -> Array:
    """Paint over a plane, both premultiplied (H, W, 4), nowhere beyond what it covers."""
    share = plane[..., 3:]
    return np.asarray(plane * (1 - paint[..., 3:]) + paint * share, np.float32)


def _levels(
    tones: Array,
    there: Array,
    region: Region,
    parts: Sequence[tuple[NamedPart, Fill | None]],
    covers: Sequence[tuple[Region | None, Array]],
) -> dict[str, float]:
    """How bright the parts of each kind are in the mean, where there is anything."""
    light: dict[str, float] = {}
    size: dict[str, float] = {}
    for (part, _), (window, cover) in zip(parts, covers, strict=True):
        light.setdefault(part.kind, 0.0)
        size.setdefault(part.kind, 0.0)
        if window is not None:
            inside = window.within(region)
            share = cover * there[inside]
            light[part.kind] += float((tones[inside] * share).sum())
            size[part.kind] += float(share.sum())
    return {
        kind: max(light[kind] / max(size[kind], 1e-6), _DARKEST) if size[kind] else 1.0
        for kind in light
    }


def filled(brush: Brush, part: NamedPart, window: Region) -> Array:
    """Straight colours (H, W, 4) over a window, of one colour or a gradient."""
    first = np.array(from_code(brush.colour), np.float32)
    if brush.fill == "colour":
        return np.tile(first, (window.height, window.width, 1))
    turn = math.radians(brush.angle)
    way = np.array([math.cos(turn), math.sin(turn)])
    along = shapely.get_coordinates(part.area) @ way
    x = np.arange(window.width) + window.left + 0.5
    y = np.arange(window.height) + window.top + 0.5
    place = (x[None, :] * way[0] + y[:, None] * way[1] - along.min()) / max(np.ptp(along), 1e-6)
    share = np.clip(place, 0, 1)[..., None].astype(np.float32)
    return np.asarray(first + (np.array(from_code(brush.second), np.float32) - first) * share)


def _window(area: shapely.Geometry, region: Region) -> Region | None:
    """The pixels of a region that an area, with what it goes on, may cover."""
    if area.is_empty:
        return None
    left, top, right, bottom = (float(side) for side in area.bounds)
    x, y = math.floor(left - _BEYOND), math.floor(top - _BEYOND)
    wide, high = math.ceil(right + _BEYOND) - x, math.ceil(bottom + _BEYOND) - y
    found = Region(x, y, wide, high).common(region)
    return found if found.width > 0 and found.height > 0 else None
