"""Sides and backs of bodies, drawn by rays: on the card, or in the picture itself."""

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import BACK, FACE, SIDE, Rays, march
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
) -> Drawn:
    """The sides and the back over `target`, at the pixels that are `needed` ((H, W)) or at all.

    A ray runs through the middle of each pixel; where neighbours differ, at the border of what is
    needed, and wherever there is a texture, `fine` × `fine` do: so borders between facets are as
    smooth as the outline, and textures finer than pixels fade.
    """
    shape = (target.height, target.width)
    seen = Drawn(np.zeros((*shape, 4), np.float32), np.zeros(shape, np.float32))
    everywhere = np.ones(shape, np.bool_) if needed is None else needed
    look = _looking(piece, body, rays, target, pause, seen)
    if body.texture is not None or fine == 1:
        look(everywhere, fine)
        return seen
    look(everywhere, 1)
    look(everywhere & ((seen.met == 0) | _uneven(seen.pixels, everywhere)), fine)
    return seen


def _looking(
    piece: Piece, body: Body, rays: Rays, target: Region, pause: Pause, seen: Drawn
) -> Callable[[NDArray[np.bool_], int], None]:
    """Looks at some pixels ((H, W)), by so many rays across and down each, and puts down what is
    `seen` there."""
    distance = np.ascontiguousarray(body.distance, np.float32)
    even = cv2.GaussianBlur(distance, (0, 0), body.even, borderType=cv2.BORDER_REPLICATE)
    profile = np.zeros(2, np.float32) if body.grown is None else body.grown

    def look(where: NDArray[np.bool_], across: int) -> None:
        rows, columns = np.nonzero(where)
        at = (np.arange(across) + 0.5) / across
        beside, below = (each.ravel() for each in np.meshgrid(at, at))
        count = max(_TOGETHER // across**2, 1)
        for first in range(0, len(rows), count):
            pause()
            y, x = rows[first : first + count], columns[first : first + count]
            # The rays of one pixel in one row: (N, across²).
            pixels = x[:, None] + beside + target.left, y[:, None] + below + target.top
            hits = march(
                distance, np.asarray(even, np.float32), piece.region[:2],
                length=body.length, profile=profile, rays=rays, pixels=pixels,
            )  # fmt: skip
            seen.met[y, x] = (hits.what >= SIDE).mean(axis=1, dtype=np.float32)
            seen.pixels[y, x] = _coloured(hits, body).mean(axis=1, dtype=np.float32)

    return look


def _uneven(pixels: Array, known: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """(H, W): where the colours of a pixel and its neighbours differ, or one is not known."""
    out = np.zeros(known.shape, np.bool_)
    _compare(pixels, known, np.float32(_DIFFERS), out)
    return out


@kernel(parallel=True)
def _compare(pixels, known, most, out):  # type: ignore[no-untyped-def]
    rows, columns = known.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            if not known[y, x]:
                continue
            for k in range(9):
                v, u = y + k // 3 - 1, x + k % 3 - 1
                inside = 0 <= v < rows and 0 <= u < columns and known[v, u]
                differs = not inside
                for c in range(4):
                    if inside and abs(pixels[v, u, c] - pixels[y, x, c]) > most:
                        differs = True
                if differs:
                    out[y, x] = True
                    break


def _coloured(hits: Hits, body: Body) -> Array:
    """Premultiplied colours (H, W, 4) of what rays meet."""
    out = np.zeros((*hits.what.shape, 4), np.float32)
    if body.front is not None:
        out[hits.what == FACE] = body.front
    side, back = hits.what == SIDE, hits.what == BACK
    if side.any():
        out[side] = _of_sides(hits, side, body)
        _lighted(out, side, hits, body.slope, body)
    if back.any():
        out[back] = body.back(hits.place[back][:, :2].astype(np.float64))
        _lighted(out, back, hits, np.full_like(body.slope, _FACING_BACK), body)
    return out


def _of_sides(hits: Hits, side: NDArray[np.bool_], body: Body) -> Array:
    normal, depth = hits.normal[side], hits.depth[side]
    colour = looked_up(body.paint, normal, depth)
    if body.texture is not None:
        laid = body.texture(hits.place[side][:, :2].astype(np.float64), depth)
        colour[:, :3] += (laid[:, :3] - colour[:, :3]) * laid[:, 3:]
    colour[:, :3] *= colour[:, 3:]
    return colour


def _lighted(out: Array, where: NDArray[np.bool_], hits: Hits, slope: Array, body: Body) -> None:
    if body.lit is None or not body.lit.lights:
        return
    own = out * where[..., None]
    lit_up(own, Facing(hits.depth, hits.normal, hits.place), slope, body.lit)
    # Averaged with its neighbours, what is brighter than white would not look smooth.
    out[where] = np.minimum(own[where], own[where][:, 3:])


def shows(matte: Array, cover: Array) -> NDArray[np.bool_]:
    """(H, W): where a face leaves any room for its sides, of all that both `cover`."""
    return np.asarray((cover > 0) & (1 - matte >= _LEFT))


def under_face(matte: Array, cover: Array, seen: Drawn, front: Array) -> Array:
    """Sides under a face: where that covers f of a pixel and both together u, they cover
    (u − f) / (1 − f) of what it leaves: no seam at the lower edge, no rim at the upper one. Where
    no ray has met them, they have the colour of what is beside."""
    met = seen.met > 0
    pixels, area = seen.pixels, seen.met
    if not met.all():
        around = cv2.blur(pixels, (3, 3), borderType=cv2.BORDER_REPLICATE)
        pixels = np.where(met[..., None], pixels, around)
        area = np.where(met, area, cv2.blur(area, (3, 3), borderType=cv2.BORDER_REPLICATE))
    left = 1 - matte
    share = np.clip((cover - matte) / np.maximum(left, np.float32(1e-3)), 0, 1)
    out = pixels * (share / np.maximum(area, np.float32(1e-4)))[..., None]
    out[left < _LEFT] = front
    return np.asarray(out, np.float32)


def front_of(paint: Array) -> Array:
    """(4): the colour of a body under its face, which shows where that is faded."""
    colour = paint[:, 0].mean(axis=0)
    return np.asarray(colour * [*colour[3:].repeat(3), 1], np.float32)
