"""Gradients: stops with midpoints, and the map from brightness to colour."""

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.codes import Rgba
from mabrel.colour.modes import mode_index
from mabrel.colour.rows import composite_channels, composite_row, goes_by_channels, straighten
from mabrel.colour.spaces import from_oklab, to_oklab
from mabrel.kernels import kernel

Array = NDArray[np.float32]
_ENTRIES = 4096


class ColourStop(NamedTuple):
    """A straight, encoded colour at a place (0..1); `midpoint` is the even mix to the next."""

    place: float
    colour: Rgba
    midpoint: float = 0.5


def gradient_table(stops: Sequence[ColourStop], mix: str = "srgb") -> Array:
    """Straight RGBA (4096, 4) of the gradient at even places from 0 to 1.

    Between two stops the share of the later one is t^(log ½ / log midpoint), which is ½ at the
    midpoint: CSS Images 4's colour hints. `mix` is "srgb" or "oklab". Stops at one place make
    a hard edge. Raises ValueError without stops.
    """
    if not stops:
        raise ValueError("a gradient needs at least one stop")
    return _table(tuple(stops), mix).copy()


@lru_cache(maxsize=64)
def _table(stops: tuple[ColourStop, ...], mix: str) -> Array:
    colours = np.array([stop.colour for stop in stops], np.float32)
    if mix == "oklab":
        colours[:, :3] = to_oklab(colours[:, :3])
    places = np.array([stop.place for stop in stops])
    at = np.linspace(0, 1, _ENTRIES)
    after = np.searchsorted(places, at, side="right")
    low, high = np.clip(after - 1, 0, len(stops) - 1), np.clip(after, 0, len(stops) - 1)
    gap = np.maximum(places[high] - places[low], 1e-12)
    share = np.clip((at - places[low]) / gap, 0, 1)
    bend = np.log(0.5) / np.log(np.array([stop.midpoint for stop in stops])[low])
    share = np.where(low == high, 0.0, share**bend)[:, None].astype(np.float32)
    table = colours[low] * (1 - share) + colours[high] * share
    if mix == "oklab":
        table[:, :3] = from_oklab(table[:, :3])
    return np.ascontiguousarray(table, dtype=np.float32)


def gradient_map(
    luminance: Array,
    stops: Sequence[ColourStop],
    *,
    slide: float = 0.0,
    repeats: int = 1,
    mix: str = "srgb",
) -> Array:
    """Give each brightness its colour.

    The gradient is run through `repeats` times, there and back again, after a shift by `slide`
    (1 is its length): so neither makes a seam.

    Parameters
    ----------
    luminance : (H, W) float32
        0..1; clamped.
    stops : sequence of ColourStop
        See `gradient_table`.
    slide : float, optional
    repeats : int, optional
    mix : {"srgb", "oklab"}, optional
        Where neighbouring colours mix.

    Returns
    -------
    (H, W, 4) float32
        Straight RGBA.

    Raises
    ------
    ValueError
        Without stops.

    Examples
    --------
    >>> import numpy as np
    >>> stops = [ColourStop(0, (0, 0, 0, 1)), ColourStop(1, (1, 0.5, 0, 1))]
    >>> gradient_map(np.array([[0, 1]], np.float32), stops)[0].tolist()
    [[0.0, 0.0, 0.0, 1.0], [1.0, 0.5, 0.0, 1.0]]
    """
    table = _with_steps(gradient_table(stops, mix))
    luminance = np.ascontiguousarray(luminance, dtype=np.float32)
    out = np.empty((*luminance.shape, 4), np.float32)
    _look_up(luminance, table, np.float32(slide), np.float32(repeats), out)
    return out


@kernel(parallel=True)
def _look_up(luminance, table, slide, repeats, out):  # type: ignore[no-untyped-def]
    rows, columns = luminance.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        places = np.empty(columns, np.float32)
        for x in range(columns):
            place = min(max(luminance[y, x], np.float32(0)), np.float32(1))
            if slide != 0 or repeats != 1:
                place = place * repeats + slide
                place = abs(place - 2 * np.round(place * np.float32(0.5)))  # there and back
            places[x] = place
        _look_up_row(places, table, out[y])


def blend_map(
    mode: str,
    backdrop: Array,
    luminance: Array,
    stops: Sequence[ColourStop],
    *,
    opacity: float = 1.0,
    mix: str = "srgb",
) -> Array:
    """Lay the colours that `gradient_map` gives over a backdrop (H, W, 4) in a blend mode, as much
    as `opacity`: premultiplied in and out, in one pass."""
    if not stops:
        raise ValueError("a gradient needs at least one stop")
    out = np.empty(backdrop.shape, np.float32)
    table = _premultiplied(tuple(stops), mix, opacity)
    luminance = np.ascontiguousarray(luminance, dtype=np.float32)
    _blend_map(mode_index(mode), backdrop, luminance, table, out)
    return out


def _with_steps(table: Array) -> Array:
    """(N, 8): colours (N, 4), and how far from each one the next is."""
    return np.hstack([table, np.diff(table, axis=0, append=table[-1:])])


@lru_cache(maxsize=64)
def _premultiplied(stops: tuple[ColourStop, ...], mix: str, opacity: float) -> Array:
    table = _table(stops, mix).copy()
    table[:, 3] *= np.float32(opacity)
    table[:, :3] *= table[:, 3:]
    return _with_steps(table)


@kernel(parallel=True)
def _blend_map(mode, backdrop, luminance, table, out):  # type: ignore[no-untyped-def]
    rows, columns = luminance.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        if goes_by_channels(mode):
            planes = np.empty((8, columns), np.float32)
            _look_up_row(luminance[y], table, planes[4:].T)
            straighten(planes)
            composite_channels(mode, backdrop[y], planes, out[y])
        else:
            source = np.empty((columns, 4), np.float32)
            _look_up_row(luminance[y], table, source)
            composite_row(mode, backdrop[y], source, out[y])


@kernel(inline="always")
def _look_up_row(places, table, colours):  # type: ignore[no-untyped-def]
    """The colours (N, 4) at places (N), 0 to 1 in a table of colours and of how far from each one
    the next is (M, 8)."""
    last = np.float32(table.shape[0] - 1)
    shares = np.empty(places.shape[0], np.float32)
    lows = np.empty(places.shape[0], np.int32)
    for x in range(places.shape[0]):
        place = min(max(places[x], np.float32(0)), np.float32(1)) * last
        lows[x] = np.int32(place)
        shares[x] = place - np.float32(lows[x])
    for x in range(places.shape[0]):
        low = np.uint32(lows[x])
        for c in range(4):
            colours[x, c] = table[low, c] + table[low, 4 + c] * shares[x]
