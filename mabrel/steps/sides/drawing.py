"""Sides and backs of bodies, drawn by rays: on the card, or in the picture itself."""

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import BACK, FACE, SIDE, Rays, march, met_at
from mabrel.field.body import Seen as Hits
from mabrel.kernels import kernel
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.sides.paint import Facing, Lit, lit_up, looked_up

_LEFT = 2e-3  # of a pixel, that a face must leave for sides to be seen
_TOGETHER = 2**18  # rays that are worked on together
_DIFFERS = 6 / 255  # of colours of neighbours, for which more rays are sent through a pixel
_FACING_BACK = -50.0  # how steeply the back leans: as good as straight back
Places = NDArray[np.float64]
Texture = Callable[[Places, Array], Array]
Pause = Callable[[], None]


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


@dataclass(frozen=True)
class Drawn:
    """What one sees of a body without its face."""

    pixels: Array
    """(H, W, 4): premultiplied."""
    met: Array
    """(H, W), 0..1: the share of rays that met sides or back."""


def drawn(
    piece: Piece,
    body: Body,
    rays: Rays,
    target: Region,
    fine: int,
    pause: Pause,
    needed: NDArray[np.bool_] | None = None,
    depth: Array | None = None,
) -> Drawn:
    """The sides and the back over `target`, at the pixels that are `needed` ((H, W)) or at all.
    `depth` (H, W) is how deep the side lies that the middle of a pixel shows, 0..1, where that is
    known, and 0 elsewhere.

    A ray runs through the middle of each pixel; where neighbours differ, and wherever there is a
    texture, `fine` × `fine` do: so borders between facets are as smooth as the outline, and
    textures finer than pixels fade. With `depth`, pixels whose middle shows no side are left out
    if their neighbours are even: they have the colour of these (`under_face`).
    """
    shape = (target.height, target.width)
    seen = Drawn(np.zeros((*shape, 4), np.float32), np.zeros(shape, np.float32))
    everywhere = np.ones(shape, np.bool_) if needed is None else needed
    look = _looking(piece, body, rays, target, pause, seen)
    if body.texture is not None or fine == 1:
        look(everywhere, fine)
        return seen
    known = everywhere if depth is None else everywhere & (depth > 0)
    look(known, 1, depth)
    again = _uneven(seen.pixels, known)
    look(everywhere & (again if depth is not None else again | (seen.met == 0)), fine)
    return seen


def _looking(
    piece: Piece, body: Body, rays: Rays, target: Region, pause: Pause, seen: Drawn
) -> Callable[..., None]:
    """Looks at some pixels ((H, W)), by so many rays across and down each, and puts down what is
    `seen` there; where the depth is known, at what lies so deep."""
    distance = np.ascontiguousarray(body.distance, np.float32)
    evened = cv2.GaussianBlur(distance, (0, 0), body.even, borderType=cv2.BORDER_REPLICATE)
    even = np.asarray(evened, np.float32)
    profile = np.zeros(2, np.float32) if body.grown is None else body.grown

    def look(where: NDArray[np.bool_], across: int, depth: Array | None = None) -> None:
        rows, columns = np.nonzero(where)
        at = (np.arange(across) + 0.5) / across
        beside, below = (each.ravel() for each in np.meshgrid(at, at))
        count = max(_TOGETHER // across**2, 1)
        for first in range(0, len(rows), count):
            pause()
            y, x = rows[first : first + count], columns[first : first + count]
            # The rays of one pixel in one row: (N, across²).
            pixels = x[:, None] + beside + target.left, y[:, None] + below + target.top
            if depth is None:
                hits = march(
                    distance, even, piece.region[:2],
                    length=body.length, profile=profile, rays=rays, pixels=pixels,
                )  # fmt: skip
            else:
                deep = depth[y, x][:, None]
                hits = met_at(deep, even, piece.region[:2], rays=rays, pixels=pixels)
            seen.met[y, x] = (hits.what >= SIDE).mean(axis=1, dtype=np.float32)
            seen.pixels[y, x] = _coloured(hits, body).mean(axis=1, dtype=np.float32)

    return look


def _uneven(pixels: Array, known: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """(H, W): where the colours that are known of a pixel and its neighbours differ, or none is.
    A pixel of which only those beside it are known has their colour, if they have but one."""
    out = np.zeros(known.shape, np.bool_)
    _compare(pixels, known, np.float32(_DIFFERS), out)
    return out


@kernel(parallel=True)
def _compare(pixels, known, most, out):  # type: ignore[no-untyped-def]
    rows, columns = known.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            first_y, first_x, found, differs = y, x, known[y, x], False
            for k in range(9):
                v, u = y + k // 3 - 1, x + k % 3 - 1
                if not (0 <= v < rows and 0 <= u < columns and known[v, u]):
                    continue
                if not found:
                    first_y, first_x, found = v, u, True
                for c in range(4):
                    if abs(pixels[v, u, c] - pixels[first_y, first_x, c]) > most:
                        differs = True
                if differs:
                    break
            out[y, x] = differs or not found


def _coloured(hits: Hits, body: Body) -> Array:
    """Premultiplied colours (H, W, 4) of what rays meet."""
    out = np.zeros((hits.what.size, 4), np.float32)
    what = hits.what.ravel()
    every = Facing(hits.depth.ravel(), hits.normal.reshape(-1, 2), hits.place.reshape(-1, 3))
    if body.front is not None:
        out[what == FACE] = body.front
    side, back = np.flatnonzero(what == SIDE), np.flatnonzero(what == BACK)
    if len(side):
        own = every if len(side) == len(what) else Facing(*(each[side] for each in every))
        out[side] = _lighted(_of_sides(own, body), own, body.slope, body)
    if len(back):
        own = Facing(*(each[back] for each in every))
        colour = body.back(own.place[:, :2].astype(np.float64))
        out[back] = _lighted(colour, own, np.full_like(body.slope, _FACING_BACK), body)
    return out.reshape(*hits.what.shape, 4)


def _of_sides(own: Facing, body: Body) -> Array:
    colour = looked_up(body.paint, own.normal, own.depth)
    if body.texture is not None:
        laid = body.texture(own.place[:, :2].astype(np.float64), own.depth)
        colour[:, :3] += (laid[:, :3] - colour[:, :3]) * laid[:, 3:]
    colour[:, :3] *= colour[:, 3:]
    return colour


def _lighted(colour: Array, own: Facing, slope: Array, body: Body) -> Array:
    if body.lit is None or not body.lit.lights:
        return colour
    lit_up(colour, own, slope, body.lit)
    # Averaged with its neighbours, what is brighter than white would not look smooth.
    return np.asarray(np.minimum(colour, colour[:, 3:]), np.float32)


def shows(matte: Array, cover: Array) -> NDArray[np.bool_]:
    """(H, W): where a face leaves any room for its sides, of all that both `cover`."""
    return np.asarray((cover > 0) & (1 - matte >= _LEFT))


def under_face(matte: Array, cover: Array, seen: Drawn, front: Array) -> Array:
    """Sides under a face: where that covers f of a pixel and both together u, they cover
    (u − f) / (1 − f) of what it leaves: no seam at the lower edge, no rim at the upper one. Where
    no ray has met them, they have the colour of what is beside."""
    out = np.zeros(seen.pixels.shape, np.float32)  # its memory is first touched where there is any
    _lay_under(matte, cover, seen.pixels, seen.met, front, np.float32(_LEFT), out)
    return out


@kernel(parallel=True)
def _lay_under(matte, cover, pixels, met, front, least, out):  # type: ignore[no-untyped-def]
    rows, columns = matte.shape
    zero, one = np.float32(0), np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            left = one - matte[y, x]
            if left < least:
                for c in range(4):
                    out[y, x, c] = front[c]
                continue
            share = (cover[y, x] - matte[y, x]) / max(left, np.float32(1e-3))
            share = min(max(share, zero), one)
            if share == zero:
                continue
            around = 0 if met[y, x] > zero else 1
            area = zero
            for j in range(-around, around + 1):
                v = min(max(y + j, 0), rows - 1)
                for i in range(-around, around + 1):
                    u = min(max(x + i, 0), columns - 1)
                    area += met[v, u]
                    for c in range(4):
                        out[y, x, c] += pixels[v, u, c]
            count = np.float32((2 * around + 1) * (2 * around + 1))
            share /= max(area / count, np.float32(1e-4)) * count
            for c in range(4):
                out[y, x, c] *= share


def front_of(paint: Array) -> Array:
    """(4): the colour of a body under its face, which shows where that is faded."""
    colour = paint[:, 0].mean(axis=0)
    return np.asarray(colour * [*colour[3:].repeat(3), 1], np.float32)
