"""Sides and backs of bodies, drawn by rays: on the card, or in the picture itself."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import SIDE, Rays, march, met_at, met_between
from mabrel.field.body import Seen as Hits
from mabrel.kernels import kernel
from mabrel.steps.body import Pause
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.sides.colouring import Body, Places, coloured
from mabrel.steps.sides.rays import BETWEEN, EDGE, FEW, FEWEST, MARCHED, beside, looked_at

_MIDDLE = np.zeros((1, 2))
_TOGETHER = 2**15  # rays that are worked on together
Pixels = tuple[NDArray[np.intp], ...]
"""Their rows, and their columns."""


@dataclass(frozen=True)
class Drawn:
    """What one sees of a body without its face."""

    pixels: Array
    """(H, W, 4): premultiplied."""
    met: Array
    """(H, W), 0..1: the share of rays that met sides or back."""
    what: NDArray[np.int8]
    """(H, W): what the ray through the middle of a pixel meets (`mabrel.field.body`)."""
    place: Array
    """(H, W, 3): where, in the card's axes."""


def drawn(
    piece: Piece,
    body: Body,
    rays: Rays,
    target: Region,
    count: int,
    pause: Pause,
    shown: tuple[NDArray[np.bool_], Array] | None = None,
) -> Drawn:
    """The sides and the back over `target`: everywhere, or at pixels that are `shown` ((H, W)),
    with how deep the side lies that the middle of a pixel shows ((H, W), 0..1), where that is
    known, and 0 elsewhere. Both follow from the shape.

    A ray runs through the middle of each pixel; where neighbours differ much, `count` do, and few
    where they differ little, and wherever there is a texture: so borders between facets are as
    smooth as the outline, and textures finer than pixels fade. With `shown`, pixels whose middle
    shows no side are left out if their neighbours are even: they have the colour of these
    (`under_face`).
    """
    shape = (target.height, target.width)
    everywhere, depth = (np.ones(shape, np.bool_), None) if shown is None else shown
    known = everywhere if depth is None else everywhere & (depth > 0)
    look = _Look(piece, body, rays, target, pause)
    look.through_middles(_where(known), depth)
    textured = body.texture is not None
    again = looked_at(look.what, look.place, look.pixels, everywhere, known, textured)
    y, x = _where(again > 0)
    how, followed = again[y, x], known[y, x]
    others, few = beside(count), beside(FEWEST)
    for own in (BETWEEN, EDGE, MARCHED, BETWEEN + FEW, MARCHED + FEW):
        chosen = (how == own) & followed
        look.beside_them((y[chosen], x[chosen]), few if own & FEW else others, own & ~FEW)
    new = ~followed
    look.beside_them((y[new], x[new]), np.concatenate([others, _MIDDLE]), MARCHED)
    return Drawn(look.pixels, look.met, look.what, look.place)


def _where(mask: NDArray[np.bool_]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """As `np.nonzero`, which takes twice as long."""
    flat = np.flatnonzero(mask)
    y = flat // mask.shape[1]
    return y, flat - y * mask.shape[1]


class _Look:
    """Looks at a body through the pixels of `target`, and puts down what is seen there."""

    def __init__(self, piece: Piece, body: Body, rays: Rays, target: Region, pause: Pause) -> None:
        shape = (target.height, target.width)
        self.pixels = np.zeros((*shape, 4), np.float32)
        self.met = np.zeros(shape, np.float32)
        self.what = np.zeros(shape, np.int8)
        self.place = np.zeros((*shape, 3), np.float32)
        """What the ray through a pixel's middle meets, and where."""
        self._body, self._rays, self._target, self._pause = body, rays, target, pause
        self._piece = piece
        self._distance = np.ascontiguousarray(body.distance, np.float32)
        evened = cv2.GaussianBlur(
            self._distance, (0, 0), body.even, borderType=cv2.BORDER_REPLICATE
        )
        self._even = np.asarray(evened, np.float32)
        self._corner = piece.region[:2]

    def through_middles(self, where: Pixels, depth: Array | None) -> None:
        """By one ray each; where the `depth` is known, at what lies so deep."""
        if not len(where[0]):
            return
        if depth is None:
            hits = self._remembered("middles", where, _MIDDLE)
        for part in self._parts(len(where[0]), 1):
            own = _of(where, part)
            if depth is None:
                met = Hits(*_of(hits, part))
            else:
                pixels, deep = self._through(own, _MIDDLE), depth[own][:, None]
                met = met_at(deep, self._even, self._corner, rays=self._rays, pixels=pixels)
            _note(met.what, met.place, *own, self.what, self.place)
            self._show(own, met, 1)

    def beside_them(self, where: Pixels, places: NDArray[np.float64], how: int) -> None:
        """By rays through these places beside the middle: what is known of that counts as one of
        them, unless it is there itself."""
        if not len(where[0]):
            return
        middle = not np.any(np.all(places == 0, axis=1))
        share = len(places) / (len(places) + middle)
        if how == EDGE:
            hits = self._remembered("edges", where, places)
        for part in self._parts(len(where[0]), len(places)):
            own = _of(where, part)
            if how == EDGE:
                met = Hits(*_of(hits, part))
            elif how == BETWEEN:
                y, x = own
                met = met_between(
                    self.what[y, x], self.place, self._even, self._corner,
                    length=self._body.length,
                    pixels=(x[:, None] + places[:, 0], y[:, None] + places[:, 1]),
                )  # fmt: skip
            else:
                met = self._followed(self._through(own, places))
            self._show(own, met, share)

    def _remembered(self, name: str, where: Pixels, places: NDArray[np.float64]) -> Hits:
        """What rays meet through these places of pixels that follow from the shape: other lights,
        colours or reliefs change nothing."""
        body, rays = self._body, self._rays
        key = (
            self._target, *(each.tobytes() for each in rays[:2]), rays.least, body.length,
            None if body.grown is None else body.grown.tobytes(), body.mitred, body.even,
            len(places), len(where[0]),
        )  # fmt: skip

        def followed() -> Hits:
            parts = [
                self._followed(self._through(_of(where, part), places))
                for part in self._parts(len(where[0]), len(places))
            ]
            return Hits(*(np.concatenate(each) for each in zip(*parts, strict=True)))

        return self._piece.remembered(f"{name} met by rays", key, followed)

    def _show(self, where: Pixels, hits: Hits, share: float) -> None:
        colours = coloured(hits, self._body)
        _put_down(hits.what, colours, *where, np.float32(share), self.met, self.pixels)

    def _parts(self, count: int, rays: int) -> Iterator[slice]:
        """Of so many pixels, some at a time."""
        together = max(_TOGETHER // rays, 1)
        for first in range(0, count, together):
            self._pause()
            yield slice(first, first + together)

    def _through(self, pixels: Pixels, places: NDArray[np.float64]) -> tuple[Places, Places]:
        """Where rays run, (N, K) each: those of one pixel in one row."""
        y, x = pixels
        across, down = (places + 0.5).T
        left, top = self._target[:2]
        return x[:, None] + across + left, y[:, None] + down + top

    def _followed(self, pixels: tuple[Places, Places]) -> Hits:
        body = self._body
        profile = np.zeros(2, np.float32) if body.grown is None else body.grown
        return march(
            self._distance, self._even, self._corner,
            length=body.length, profile=profile, rays=self._rays, pixels=pixels,
        )  # fmt: skip


def _of(arrays: tuple[NDArray[Any], ...], part: slice) -> tuple[NDArray[Any], ...]:
    return tuple(each[part] for each in arrays)


@kernel(parallel=True)
def _note(met, met_at, rows, columns, what, place):  # type: ignore[no-untyped-def]
    """What one ray through each of these pixels meets, and where."""
    for line in numba.prange(len(rows)):
        i = np.int64(line)
        y, x = rows[i], columns[i]
        what[y, x] = met[i, 0]
        for c in range(3):
            place[y, x, c] = met_at[i, 0, c]


@kernel(parallel=True)
def _put_down(what, colours, rows, columns, share, met, pixels):  # type: ignore[no-untyped-def]
    """As much as `share` of what a pixel shows is the mean of what its rays meet."""
    count = what.shape[1]
    each = np.float32(1 / count)
    for line in numba.prange(len(rows)):
        i = np.int64(line)
        y, x = rows[i], columns[i]
        solid = np.float32(0)
        for k in range(count):
            if what[i, k] >= SIDE:
                solid += each
        met[y, x] += (solid - met[y, x]) * share
        for c in range(4):
            total = np.float32(0)
            for k in range(count):
                total += colours[i, k, c]
            pixels[y, x, c] += (total * each - pixels[y, x, c]) * share
