"""Painting parts: on the face where they are fronts and facets, behind it where they are sides."""

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np
import shapely

from mabrel.colour import brightness, from_code, straight
from mabrel.steps.part import NamedPart
from mabrel.steps.parts.areas import coverage, joined, minus
from mabrel.steps.piece import Array
from mabrel.steps.region import Region
from mabrel.title.part_paints import Brush

ON_FACE = ("front", "facet")
BEHIND = ("side", "outline")
_BEYOND = 2.0  # pixels that a paint goes on where there is no other part
_DARKEST = 0.02  # of white: nothing is told apart from less
_BRIGHTEST = 8.0  # times the mean


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
    levels = _levels(plane, region, [part for part, _ in parts])
    open_ = _left_open(region, [part for part, _ in parts])
    for part, fill in parts:
        window = fill and _window(part.area, region)
        if not fill or not window:
            continue
        pause()
        inside = window.within(region)
        wider = part.area.buffer(_BEYOND, join_style="mitre")
        cover = coverage(part.area, window) + coverage(wider, window) * open_[inside]
        colours = fill.colours(window)
        shade = _shaded(colours[..., :3], plane[inside], levels[part.kind], fill.shading)
        colours = np.dstack([shade, colours[..., 3:]])
        alpha = colours[..., 3] * np.minimum(cover, np.float32(1))
        total[inside] += np.dstack([colours[..., :3] * alpha[..., None], alpha])
    return np.asarray(total / np.maximum(total[..., 3:], np.float32(1)), np.float32)


def _left_open(region: Region, parts: Sequence[NamedPart]) -> Array:
    """(H, W), 0..1: what no part covers."""
    covered = np.zeros((region.height, region.width), np.float32)
    for part in parts:
        window = _window(part.area, region)
        if window is not None:
            covered[window.within(region)] += coverage(part.area, window)
    return np.maximum(1 - covered, np.float32(0))


def laid_within(plane: Array, paint: Array) -> Array:
    """Paint over a plane, both premultiplied (H, W, 4), nowhere beyond what it covers."""
    share = plane[..., 3:]
    return np.asarray(plane * (1 - paint[..., 3:]) + paint * share, np.float32)


def _levels(plane: Array, region: Region, parts: Sequence[NamedPart]) -> dict[str, float]:
    """How bright the parts of each kind are in the mean."""
    tones = brightness(straight(plane))
    levels: dict[str, float] = {}
    for kind in {part.kind for part in parts}:
        area = joined([part.area for part in parts if part.kind == kind])
        window = _window(area, region)
        if window is None:
            levels[kind] = 1.0
            continue
        inside = window.within(region)
        share = coverage(area, window) * np.clip(plane[inside][..., 3], 0, 1)
        mean = float((tones[inside] * share).sum() / max(float(share.sum()), 1e-6))
        levels[kind] = max(mean, _DARKEST)
    return levels


def _shaded(colours: Array, there: Array, level: float, shading: float) -> Array:
    """Colours as much darker than they are, or on the way to white, as what is there is darker or
    brighter than the mean of its kind."""
    if shading == 0:
        return colours
    light = np.clip(brightness(straight(there)) / np.float32(level), 0, _BRIGHTEST)[..., None]
    share = np.float32(shading)
    light = 1 + (light - 1) * share
    towards_white = 1 - 1 / np.maximum(light, 1)
    lit = colours * np.minimum(light, 1)
    return np.asarray(lit + np.maximum(1 - colours, 0) * towards_white, np.float32)


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
