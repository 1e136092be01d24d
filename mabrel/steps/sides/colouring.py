"""The colours of what rays meet of a body: its sides, its back, and what closes the gap to its
face."""

from collections.abc import Callable
from dataclasses import dataclass

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import BACK, FACE, SIDE
from mabrel.field.body import Seen as Hits
from mabrel.kernels import kernel
from mabrel.steps.piece import Array
from mabrel.steps.sides.paint import Facing, Lit, lit_up, looked_up

_FACING_BACK = -50.0  # how steeply the back leans: as good as straight back
Places = NDArray[np.float64]
Texture = Callable[[Places, Array], Array]


@dataclass(frozen=True)
class Body:
    """A body that reaches straight back behind its card. Lengths are in render pixels."""

    length: float
    distance: Array
    """(H, W): of its outline."""
    mitred: bool
    """Whether its corners are."""
    grown: Array | None
    even: float
    """σ in pixels over which the facing is evened out."""
    slope: Array
    paint: Array
    lit: Lit | None
    front: Array | None
    """(4): premultiplied colour under the face, so that no gap shows beside it; None for none."""
    back: Callable[[Places], Array]
    """Premultiplied colours (N, 4) of the back at places (N, 2)."""
    texture: Texture | None
    """Straight colours (N, 4) over the sides, at places (N, 2) on them, so deep (N)."""


def coloured(hits: Hits, body: Body) -> Array:
    """Premultiplied colours (H, W, 4) of what rays meet."""
    what = hits.what.ravel()
    every = Facing(hits.depth.ravel(), hits.normal.reshape(-1, 2), hits.place.reshape(-1, 3))
    on_side = what == SIDE
    if on_side.all():
        colours = _lighted(_of_sides(every, body), every, body.slope, body)
        return colours.reshape(*hits.what.shape, 4)
    out = np.zeros((hits.what.size, 4), np.float32)
    if body.front is not None:
        out[what == FACE] = body.front
    side, back = np.flatnonzero(on_side), np.flatnonzero(what == BACK)
    if len(side):
        own = Facing(*(each[side] for each in every))
        out[side] = _lighted(_of_sides(own, body), own, body.slope, body)
    if len(back):
        own = Facing(*(each[back] for each in every))
        colour = body.back(own.place[:, :2].astype(np.float64))
        out[back] = _lighted(colour, own, np.full_like(body.slope, _FACING_BACK), body)
    return out.reshape(*hits.what.shape, 4)


def _of_sides(own: Facing, body: Body) -> Array:
    colour = looked_up(body.paint, own.normal, own.depth)
    laid = np.empty((0, 4), np.float32)
    if body.texture is not None:
        laid = body.texture(own.place[:, :2].astype(np.float64), own.depth)
    _lay_on(colour, laid)
    return colour


@kernel(parallel=True)
def _lay_on(colour, laid):  # type: ignore[no-untyped-def]
    """Colours premultiplied, under what is laid on them, if anything is."""
    for index in numba.prange(len(colour)):
        i = np.int64(index)
        share = laid[i, 3] if len(laid) > 0 else np.float32(0)
        for c in range(3):
            straight = colour[i, c]
            if share != np.float32(0):
                straight += (laid[i, c] - straight) * share
            colour[i, c] = straight * colour[i, 3]


def _lighted(colour: Array, own: Facing, slope: Array, body: Body) -> Array:
    if body.lit is None or not body.lit.lights:
        return colour
    lit_up(colour, own, slope, body.lit)
    _hold(colour)
    return colour


@kernel(parallel=True)
def _hold(colour):  # type: ignore[no-untyped-def]
    """No brighter than white: averaged with its neighbours it would not look smooth."""
    for index in numba.prange(len(colour)):
        i = np.int64(index)
        for c in range(3):
            colour[i, c] = min(colour[i, c], colour[i, 3])
