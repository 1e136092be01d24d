"""A title broken apart, as vector shapes filled with the colours that its picture has there."""

from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from mabrel.colour import straight
from mabrel.field.fitting import Curve, fitted
from mabrel.render import Cancel, Renderer, Shard
from mabrel.steps.parts.areas import common, coverage, joined, rings_of
from mabrel.title import Title

Array = NDArray[np.float32]
_HAIR = 1.5  # frame pixels that a part goes on beneath its neighbours, so that no crack is seen
_NEAR = 0.06  # frame pixels that a curve may lie beside its part
_EVEN = 0.02  # the same, for places that are left out before curves are looked for
_BETTER = 0.6  # of its unevenness that a gradient leaves at most, to be taken
_UNEVEN = (
    2.5 / 255
)  # the least that colours differ from their mean, for a gradient to be looked for
_SEEN = 0.01  # of a part, of which what is seen there is its colour
_FEW = 12  # pixels: of fewer the mean is taken


class Paint(NamedTuple):
    """A flat colour, or one that goes over to another along a line."""

    colours: tuple[tuple[float, float, float, float], ...]
    """Straight sRGB and alpha, 0..1: one, or two."""
    line: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    """From x, y to x, y in frame pixels, for two."""


class Drawn(NamedTuple):
    """A part, ready to be written."""

    shard: Shard
    outlines: tuple[tuple[Curve, ...], ...]
    """Its rim and its holes, as cubic curves."""
    paint: Paint


class Sheet(NamedTuple):
    """All parts of a title, from the back to the front."""

    name: str
    width: int
    height: int
    layers: dict[str, str]
    """Names by ids."""
    parts: tuple[Drawn, ...]


def parts_sheet(
    title: Title,
    renderer: Renderer,
    time: float = 0.0,
    *,
    layer: str | None = None,
    before: str | None = None,
    whole: bool = False,
    cancel: Cancel | None = None,
) -> Sheet:
    """The parts of a title at a time, or of one layer of it before a step; sides that are `whole`
    are not cut where others hide them. Raises what `Renderer.parts` raises."""
    how: dict[str, Any] = {"before": before, "whole": whole, "time": time, "cancel": cancel}
    shards = renderer.parts(title, layer=layer, **how)
    frame = title.frame
    layers = {each.id: each.name or each.id for each in title.layers}
    drawn: list[Drawn] = []
    for name in dict.fromkeys(shard.layer for shard in shards):
        own = [shard for shard in shards if shard.layer == name]
        picture = renderer.render(title, time=time, layer=name, alone=True, cancel=cancel).pixels
        paints = _paints(own, picture)
        areas = _overlapping(own)
        for shard, area, paint in zip(own, areas, paints, strict=True):
            outlines = _outlines(area)
            if outlines:
                drawn.append(Drawn(shard, outlines, paint))
    return Sheet(title.name, frame.width, frame.height, layers, tuple(drawn))


def index_of(shards: Sequence[Shard], width: int, height: int) -> NDArray[np.int32]:
    """(H, W): which part is seen at each pixel, counted from 1; 0 for none."""
    index = np.zeros((height, width), np.int32)
    for number, shard in enumerate(shards, 1):
        window = _window(shard.area, width, height)
        if window is None:
            continue
        (left, top, wide, high), cover = window, coverage(shard.area, window)
        there = index[top : top + high, left : left + wide]
        there[cover > 0.5] = number
    return index


def _window(area: shapely.Geometry, width: int, height: int) -> tuple[int, int, int, int] | None:
    left, top, right, bottom = area.bounds
    x, y = max(int(np.floor(left)), 0), max(int(np.floor(top)), 0)
    wide, high = min(int(np.ceil(right)), width) - x, min(int(np.ceil(bottom)), height) - y
    return (x, y, wide, high) if wide > 0 and high > 0 else None


def _paints(shards: Sequence[Shard], picture: Array) -> list[Paint]:
    """What the picture ((H, W, 4), premultiplied) has where each part is seen."""
    height, width = picture.shape[:2]
    index = index_of(shards, width, height)
    colours = straight(picture)
    hidden = _of_sides(shards, index, picture)
    paints = []
    for number, shard in enumerate(shards, 1):
        window = _window(shard.area, width, height)
        if window is None:
            paints.append(Paint(((0.5, 0.5, 0.5, 0.0),)))
            continue
        left, top, wide, high = window
        there = np.s_[top : top + high, left : left + wide]
        own = index[there] == number
        inner = own & (coverage(shard.area.buffer(-1), window) > 0.99) if own.any() else own
        chosen = inner if inner.sum() >= _FEW else own
        if own.sum() < _SEEN * shard.area.area:  # all but all of it lies beneath others
            paints.append(hidden)
            continue
        y, x = np.nonzero(chosen)
        places = np.stack([x + left + 0.5, y + top + 0.5], axis=1)
        alpha = picture[there][chosen][:, 3:]
        values = np.concatenate([colours[there][chosen], alpha], axis=1).astype(np.float64)
        paints.append(_paint(places, values))
    return paints


def _of_sides(shards: Sequence[Shard], index: NDArray[np.int32], picture: Array) -> Paint:
    """The mean colour of all sides: what parts get that are hidden beneath others."""
    sides = [number for number, shard in enumerate(shards, 1) if shard.kind == "side"]
    own = picture[np.isin(index, sides)].astype(np.float64)
    if not len(own):
        return Paint(((0.5, 0.5, 0.5, 1.0),))
    mean = own.mean(axis=0)
    return Paint((_held(np.append(mean[:3] / max(mean[3], 1e-6), 1.0)),))


def _paint(places: NDArray[np.float64], values: NDArray[np.float64]) -> Paint:
    """The mean of colours ((N, 4)) at places, or a gradient where that fits better."""
    if not len(values):
        return Paint(((0.5, 0.5, 0.5, 0.0),))
    mean = values.mean(axis=0)
    off = values - mean
    uneven = float(np.sqrt((off**2).mean()))
    if len(values) < _FEW or uneven < _UNEVEN:
        return Paint((_held(mean),))
    middle = places.mean(axis=0)
    slopes, *_ = np.linalg.lstsq(places - middle, off, rcond=None)
    left = float(np.sqrt(((off - (places - middle) @ slopes) ** 2).mean()))
    direction = np.linalg.svd(slopes)[0][:, 0]  # along which the colours change most
    along = (places - middle) @ direction
    if left > _BETTER * uneven or np.ptp(along) < 2:
        return Paint((_held(mean),))
    rate = direction @ slopes
    low, high = along.min(), along.max()
    ends = np.concatenate([middle + direction * low, middle + direction * high])
    line = (float(ends[0]), float(ends[1]), float(ends[2]), float(ends[3]))
    return Paint((_held(mean + rate * low), _held(mean + rate * high)), line)


def _held(colour: NDArray[np.float64]) -> tuple[float, float, float, float]:
    r, g, b, a = np.clip(colour, 0, 1).tolist()
    return r, g, b, a


def _overlapping(shards: Sequence[Shard]) -> list[shapely.Geometry]:
    """Each part, with what it goes on beneath those that lie above it: no border moves."""
    grown: list[shapely.Geometry] = []
    above = shapely.Polygon()
    for shard in reversed(shards):
        area = shard.area
        if shard.kind in ("side", "facet"):
            beneath = common(area.buffer(_HAIR, join_style="mitre"), above)
            area = joined([area, beneath])
        if shard.kind in ("side", "facet", "front"):
            above = joined([above, shard.area])
        grown.append(area)
    return grown[::-1]


def _outlines(area: shapely.Geometry) -> tuple[tuple[Curve, ...], ...]:
    found = []
    for part in shapely.get_parts(area):
        if isinstance(part, shapely.Polygon) and part.area > 0.02:
            for ring in rings_of(shapely.simplify(part, _EVEN)):
                if curves := fitted(ring, _NEAR):
                    found.append(tuple(curves))
    return tuple(found)
