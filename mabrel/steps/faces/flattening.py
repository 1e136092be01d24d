"""A piece as it looks by itself."""

import math

import numba
import numpy as np

from mabrel.colour import over
from mabrel.kernels import kernel
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region

WHOLE = np.float32(0.999)
"""Coverage from which a pixel counts as wholly covered."""


def flattened(piece: Piece, face_opacity: float = 1.0) -> Array:
    """(H, W, 4): front over face, cut out by the matte, over what is behind; without what it
    casts.

    Where the matte covers a part of a pixel, what is brighter than white counts as white: else it
    would still be white when half of it is cut off, and the edge would turn into stairs. Inside,
    all of it stays, for glow and glints. It may be the piece's own array.
    """
    if piece.is_plane:
        return piece.face
    face = flattened_face(piece, face_opacity)
    if piece.behind is None:
        picture = np.zeros(face.shape, np.float32)  # memory is first touched where there is ink
        _cut_out(face, piece.matte, picture)
    else:
        picture = np.empty(face.shape, np.float32)
        _cut_out_over(face, piece.matte, piece.behind, picture)
    return picture if piece.front is None else over(picture, piece.front)


def flattened_face(piece: Piece, face_opacity: float) -> Array:
    """The face as a plane of colour, faded as its layer fades it."""
    if piece.added is None:
        return piece.face
    share = np.float32(face_opacity)
    return piece.face * share + piece.added * (1 - share)


def solid_picture(piece: Piece, part: Region) -> Array:
    """(H, W, 4) over `part` of its region: only what is solid of it, face and sides, without
    shadows and glows."""
    inside = part.within(piece.region)
    picture = flattened(piece.seen_in(part))
    picture = picture.copy() if picture is piece.face else picture
    _keep_solid(picture, piece.solid[inside])
    return picture


def own_part(piece: Piece) -> tuple[Array, Region]:
    """The piece as it looks within the box of its ink, whatever room there is around it, and
    where that lies."""
    left, top, right, bottom = piece.box
    x, y = math.floor(left), math.floor(top)
    box = Region(x, y, max(math.ceil(right) - x, 1), max(math.ceil(bottom) - y, 1))
    part = box.common(piece.region)
    if not part.area:
        return flattened(piece), piece.region
    return flattened(piece.seen_in(part)), part


@kernel(parallel=True)
def _keep_solid(picture, solid):  # type: ignore[no-untyped-def]
    """A picture (H, W, 4), in place, covering no more than what is solid of it (H, W)."""
    rows, columns = solid.shape
    for y in numba.prange(rows):
        for x in range(columns):
            alpha = picture[y, x, 3]
            if alpha > solid[y, x]:
                share = solid[y, x] / max(alpha, np.float32(1e-6))
                for c in range(4):
                    picture[y, x, c] *= share


@kernel(parallel=True)
def _cut_out(face, matte, out):  # type: ignore[no-untyped-def]
    rows, columns = matte.shape
    for y in numba.prange(rows):
        for x in range(columns):
            share = matte[y, x]
            if share == 0:
                continue
            alpha = face[y, x, 3]
            most = np.float32(np.inf) if share >= WHOLE else alpha
            for c in range(3):
                out[y, x, c] = min(face[y, x, c], most) * share
            out[y, x, 3] = alpha * share


@kernel(parallel=True)
def _cut_out_over(face, matte, behind, out):  # type: ignore[no-untyped-def]
    rows, columns = matte.shape
    one = np.float32(1)
    for y in numba.prange(rows):
        for x in range(columns):
            share, alpha = matte[y, x], face[y, x, 3]
            rest = one - alpha * share
            cut = np.float32(0) < share < WHOLE
            most = alpha if cut else np.float32(np.inf)
            beyond = one if cut else np.float32(np.inf)
            for c in range(3):
                seen = min(behind[y, x, c], beyond)
                out[y, x, c] = min(face[y, x, c], most) * share + seen * rest
            out[y, x, 3] = alpha * share + behind[y, x, 3] * rest
