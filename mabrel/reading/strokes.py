"""How thick the strokes are, and what bevel and inflate they bear."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.field import signed_distance
from mabrel.reading.flat import Flat
from mabrel.reading.said import Reading, label_of, px
from mabrel.steps import settings_at
from mabrel.title import Step

Array = NDArray[np.float32]

_RIDGE = 0.55  # the middle axis of a corner of 90° has a slope of 0.71: not a stroke
_THIN_FOR_INFLATING = 0.07  # of the letters' height; below it a swelling reads as a wire


class StrokeWidths(NamedTuple):
    """Widths of strokes in pixels, by the length of their middle axis; `shares` (16,) is their
    distribution from 0 to `thickest`."""

    thinnest: float
    median: float
    thickest: float
    shares: tuple[float, ...]

    def times(self, factor: float) -> "StrokeWidths":
        """In other pixels."""
        thinnest, median, thickest = (width * factor for width in self[:3])
        return StrokeWidths(thinnest, median, thickest, self.shares)


def stroke_widths(coverage: Array) -> StrokeWidths | None:
    """Widths of what is covered, or None where nothing is.

    Every place on the middle axis of the shape is twice as far from both edges as the stroke
    is wide there. The axis is where the slope of the distance breaks down (it is 1 elsewhere):
    Blum (1967), A transformation for extracting new descriptors of shape. The thinnest and the
    thickest hundredth are left out, as ends of strokes.
    """
    distance = -signed_distance(coverage)
    down, across = np.gradient(distance)
    axis = (np.hypot(down, across) < _RIDGE) & (distance > 0.75)
    # The distance is read beside the axis where that runs between pixels: half a pixel short.
    widths = 2 * (distance[axis] + 0.25)
    if widths.size == 0:
        return None
    thin, median, thick = np.quantile(widths, (0.04, 0.5, 0.98))
    counts, _ = np.histogram(widths, bins=16, range=(0, max(float(thick), 1e-3)))
    shares = counts / max(counts.sum(), 1)
    return StrokeWidths(float(thin), float(median), float(thick), tuple(shares.tolist()))


def stroke_readings(flat: Flat) -> tuple[StrokeWidths | None, list[Reading]]:
    """Widths in frame pixels of the lettering that the relief is given, and what they bear."""
    reliefs = [step for step in flat.layer.build if step.on]
    first = next((step.id for step in reliefs if _stage(step) not in ("shape", "surface")), None)
    matte = flat.matte(first)
    found = stroke_widths(matte)
    if found is None:
        return None, []
    strokes = found.times(1 / flat.scale)
    rows = np.flatnonzero(matte.max(axis=1) > 0.5)
    tall = float(np.ptp(rows) + 1) / flat.scale
    return strokes, [
        Reading("strokes", _widths(strokes), layer=flat.layer.id),
        *_too_wide(flat, strokes),
        *_too_thin_to_inflate(flat, strokes, tall),
    ]


def _widths(strokes: StrokeWidths) -> str:
    safe = px(strokes.thinnest / 2)
    swells = px(strokes.thickest / 2)
    thin, thick = px(strokes.thinnest), px(strokes.thickest)
    if strokes.thickest - strokes.thinnest < 0.08 * strokes.thickest:
        return f"Strokes are {thick} wide. A bevel is safe up to {safe}."
    return (
        f"Strokes are {thin.removesuffix(' px')} to {thick} wide. A bevel is safe up to {safe}; "
        f"inflating raises them up to {swells}."
    )


def _stage(step: Step) -> str:
    return step.step.split(".")[0]


def inward_widths(build: list[Step]) -> Iterator[tuple[Step, float]]:
    """The steps that reach from the edge into the strokes, and how far, in frame pixels."""
    for step in build:
        if not step.on:
            continue
        settings = settings_at(step, 0.0)
        for name, field in type(settings).model_fields.items():
            extra = field.json_schema_extra
            shares = extra.get("inwards") if isinstance(extra, dict) else None
            if isinstance(shares, dict):
                share = shares.get(getattr(settings, "side", ""), 0.0)
                width = getattr(settings, name)
                if isinstance(share, float) and share * width > 0:
                    yield step, share * width


def _too_wide(flat: Flat, strokes: StrokeWidths) -> Iterator[Reading]:
    """What closes over the strokes: over the thin ones, or over most, which is the font's fault."""
    for step, width in inward_widths(flat.layer.build):
        if 2 * width <= strokes.thinnest * 1.15:
            continue
        name = label_of(step)
        closes = px(2 * width)
        text = f"{name} is {px(width)} wide: it closes over strokes thinner than {closes}."
        if 2 * width > strokes.median:
            mostly, safe = px(strokes.median), px(strokes.thinnest / 2)
            text = (
                f"This lettering is too thin for {name.lower()}: it reaches {px(width)} into "
                f"strokes that are mostly {mostly} wide. Choose a bolder font, or at most {safe}."
            )
        yield Reading("strokes", text, True, flat.layer.id, step.id)


def _too_thin_to_inflate(flat: Flat, strokes: StrokeWidths, tall: float) -> Iterator[Reading]:
    if strokes.median >= _THIN_FOR_INFLATING * tall:
        return
    for step in flat.layer.build:
        if step.on and step.step == "relief.inflate":
            text = (
                f"The strokes are thin for inflating: {px(strokes.median)} wide on {px(tall)} of "
                "height, they will look like wire. A bolder font or shape swells."
            )
            yield Reading("strokes", text, True, flat.layer.id, step.id)
            return
