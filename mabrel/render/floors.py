"""Floors: a level plane painted in bands, each as fine as it is seen, and laid in perspective."""

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.camera import Card
from mabrel.field.projection import projected
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.placing import between_arrays
from mabrel.render.view import View, whole_frame
from mabrel.steps import Array, Piece, Region, kind_of
from mabrel.title import Floor, value_at
from mabrel.title.varying import varying_in

_LARGEST = 3_000_000  # pixels of a band at most, and no more than the frame itself has
_MORE = 6  # times as many as the picture has rows and columns for: seen flat, most are not seen
_FADE = 0.3  # share of the distance `far` at which a floor begins to fade
_CLOSEST = 0.2  # rows nearer than that share of the viewer's distance share one band
_ROWS = 64
_FEW_ROWS = 5
_NONE = 99  # rows that show no floor
_ACROSS = 6.0  # pixels across the finest thing that is painted on a floor
_COARSEST = 1 / 64  # pixels of a plane for one of the frame, at least


class Band(NamedTuple):
    """Rows of the picture and the part of the plane that they show."""

    rows: Region
    """In render pixels from the frame's centre."""
    plane: Region
    """In the plane's own render pixels, at `scale`."""
    scale: float


def bands(
    card: Card, frame: Region, region: Region, scale: float, far: float, finest: float = 0.0
) -> Iterator[Band]:
    """What one sees of a floor in `region`, farthest first, each band half as fine as the next, but
    that few rows are no band of their own.

    `card` is the floor's; `scale` is in render pixels a frame pixel, `far` in frame pixels from
    the viewer, as is `finest`, the width of what is painted finest. How fine a band is follows
    from the whole `frame`, whatever part of it is looked at.
    """
    whole = frame.joined(region)
    away = _distances(card, whole, scale)
    shown = np.isfinite(away) & (away < far)
    if not shown.any():
        return
    unit = card.viewer[2]
    steps = np.full(away.shape, _NONE)
    steps[shown] = np.round(np.log2(np.maximum(away[shown] / unit, _CLOSEST)))
    needed = math.inf if finest <= 0 else max(_ACROSS / finest, _COARSEST)
    steps = _joined_few(steps)
    for step in sorted(set(steps[shown].tolist()), reverse=True):
        rows = np.nonzero(steps == step)[0]
        part = Region(whole.left, whole.top + int(rows[0]), whole.width, len(rows))
        fine = min(scale * min(2.0**-step, 4.0), needed, _allowed(card, part, scale, whole))
        seen = part.common(region)
        if seen.area:
            yield Band(seen, _plane_of(card, seen, scale, fine), fine)


def _joined_few(steps: NDArray[np.int64]) -> NDArray[np.int64]:
    """Bands (H) of few rows as a part of the next nearer one: a band costs a plan of its own."""
    joined = steps.copy()
    present = sorted(set(steps.tolist()) - {_NONE}, reverse=True)
    for step, nearer in itertools.pairwise(present):
        rows = joined == step
        if np.count_nonzero(rows) < _FEW_ROWS:
            joined[rows] = nearer
    return joined


def _allowed(card: Card, rows: Region, scale: float, frame: Region) -> float:
    """How fine a band may be without taking more pixels than there may be."""
    u, v = _corners_of(card, rows, scale)
    area = (max(u) - min(u)) * (max(v) - min(v))
    most = min(_LARGEST, frame.area, _MORE * rows.area)
    return math.sqrt(most / max(float(area), 1.0))


def _plane_of(card: Card, rows: Region, scale: float, fine: float) -> Region:
    """The part of the plane, `fine` pixels for one of the frame, that these rows show."""
    u, v = _corners_of(card, rows, scale)
    # Means over rows begin at the same rows, whatever part of the floor is looked at.
    left, top = math.floor(min(u) * fine) - 3, (math.floor(min(v) * fine) - 3) // _ROWS * _ROWS
    return Region(
        left, top, math.ceil(max(u) * fine) + 3 - left, math.ceil(max(v) * fine) + 3 - top
    )


def _corners_of(card: Card, rows: Region, scale: float) -> tuple[Array, Array]:
    """The corners of what rows of the picture show, in the plane's own frame pixels."""
    x = np.array([rows.left, rows.right, rows.left, rows.right]) / scale
    back = card.back
    # A row more on each side, as far as that is still floor: pixels span what lies around them.
    ends = [rows.top - 1.0, rows.bottom + 1.0]
    if back[2] @ [x[0], ends[0] / scale, 1.0] <= 0 or back[2] @ [x[1], ends[0] / scale, 1.0] <= 0:
        ends[0] = rows.top + 0.5
    y = np.repeat(ends, 2) / scale
    u, v, w = back @ np.array([x, y, np.ones(4)])
    return u / w, v / w


def _distances(card: Card, region: Region, scale: float) -> Array:
    """(H): how far from the viewer the floor is that each row of the picture shows; infinite
    where it shows none."""
    rows = (np.arange(region.height) + region.top + 0.5) / scale
    middle = np.full(region.height, (region.left + region.width / 2) / scale)
    below = card.seen_from[2] > 1e-6  # the viewer stands above it
    with np.errstate(divide="ignore"):
        w = 1 / (card.back @ np.array([middle, rows, np.ones(len(rows))]))[2]
    return np.asarray(np.where(below & (w > 0), w, np.inf), np.float32)


Field = Callable[[Piece, float], Array]
"""From a piece and its scale to what is shown of it, (H, W) or (H, W, C)."""


def floor_node(
    plans: Plans, view: View, plan: LayerPlan, floor: Floor, field: Field, name: str
) -> Node[Any]:
    """A floor over the view's region; `field`, known by its `name`, is what is shown of it.

    Towards the floor's `far` it fades.
    """
    far = value_at(floor.far, plans.time)
    frame = whole_frame(plans.title.frame, view.scale)
    finest = _finest(plans, view, floor)
    found = list(bands(plan.card, frame, view.region, view.scale, far, finest))
    parts = tuple(_band_node(plans, view, plan, floor, band, field, name) for band in found)
    if not parts:  # none of it is seen: one pixel tells what it would be like
        nowhere = Band(view.region, Region(0, 0, 1, 1), view.scale)
        parts = (_band_node(plans, view, plan, floor, nowhere, field, name),)
        found = [nowhere._replace(rows=Region(view.region.left, view.region.top, 0, 0))]
    key = key_of(floor=name, bands=parts, far=far, region=view.region)
    varies = (*plan.placed_by, *varying_in([floor.far, floor.level]))

    def work(*painted: Array) -> Array:
        return _joined(plan.card, view, far, found, painted)

    return Node("floor", floor.id, key, view.region, work, parts, varies)


def _finest(plans: Plans, view: View, floor: Floor) -> float:
    """How wide the finest thing is that is painted on a floor, in frame pixels; 0 where it may be
    as fine as pixels are."""
    return min(
        (kind_of(step.step).finest(plans.settings(step)) for step in view.part.of(floor.build)),
        default=math.inf,
    )


def _band_node(
    plans: Plans, view: View, plan: LayerPlan, floor: Floor, band: Band, field: Field, name: str
) -> Node[Array]:
    """The rows of one band, (H, W) or (H, W, C), in perspective."""
    own = plans.layer(replace(view, scale=band.scale, region=band.plane), floor, plan.card)
    matrix = between_arrays(plan.card, band.scale, band.plane, band.rows, view.scale)

    def work(piece: Piece) -> Array:
        return projected(field(piece, band.scale), matrix, (band.rows.width, band.rows.height))

    key = key_of(band=own.node, field=name, matrix=matrix, rows=band.rows)
    return Node("card", floor.id, key, band.rows, work, (own.node,), plan.placed_by)


def _joined(
    card: Card, view: View, far: float, found: Sequence[Band], painted: Sequence[Array]
) -> Array:
    """Bands of a floor as one, faded in the distance."""
    region = view.region
    out = np.zeros((region.height, region.width, *painted[0].shape[2:]), np.float32)
    for band, rows in zip(found, painted, strict=True):
        if band.rows.area:
            out[band.rows.within(region)] = rows
    away = _distances(card, region, view.scale) / np.float32(far)
    fade = np.clip((1 - away) / (1 - _FADE), 0, 1)
    out *= (fade * fade * (3 - 2 * fade)).reshape(-1, *[1] * (out.ndim - 1))
    return out
