"""Sides under a face: what of them it leaves to be seen, without a seam beside it."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel
from mabrel.steps.piece import Array
from mabrel.steps.sides.drawing import Drawn

_LEFT = 2e-3  # of a pixel, that a face must leave for sides to be seen


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
