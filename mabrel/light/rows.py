"""Rows of a surface under distant lights: what `core.answered` tells of a place, told of many at a
time."""

import numpy as np

from mabrel.colour.powers import power
from mabrel.kernels import kernel
from mabrel.light.core import PENUMBRA, received, risen

_LEAST = np.float32(1e-30)


@kernel(inline="always")
def uneven(normal):  # type: ignore[no-untyped-def]
    """How many pixels of a row of normals (N, 3) have to be looked at: one, where all of them are
    the same; what lies level is so."""
    same = True
    for x in range(normal.shape[0]):
        same &= normal[x, 0] == normal[0, 0]
        same &= (normal[x, 1] == normal[0, 1]) & (normal[x, 2] == normal[0, 2])
    return 1 if same else normal.shape[0]


@kernel(inline="always")
def go_on(row, count):  # type: ignore[no-untyped-def]
    """The first of the pixels of a row (N, C) instead of those after the first `count`."""
    for c in range(row.shape[1]):
        first = row[0, c]
        for x in range(count, row.shape[0]):
            row[x, c] = first


@kernel()
def answer_row(i, normal, table, wrap, stands, tightness, shares, shines):  # type: ignore[no-untyped-def]
    """What a row of normals (N, 3) receives of the distant light `i`, and what it mirrors of it by
    the power `tightness`, into `shares` and `shines` (N); see `core.answered`."""
    zero, one, two, three = np.float32(0), np.float32(1), np.float32(2), np.float32(3)
    lx, ly, lz = table[0][i, 0], table[0][i, 1], table[0][i, 2]
    hx, hy, hz = table[1][i, 0], table[1][i, 1], table[1][i, 2]
    sent = risen(lz) if stands else one
    # One thing a loop: only so does a processor take many pixels at a time.
    for x in range(normal.shape[0]):
        mirrored = normal[x, 0] * hx + normal[x, 1] * hy + normal[x, 2] * hz
        shines[x] = min(max(mirrored, _LEAST), one)
    for x in range(normal.shape[0]):
        shines[x] = power(shines[x], tightness)
    for x in range(normal.shape[0]):
        shares[x] = normal[x, 0] * lx + normal[x, 1] * ly + normal[x, 2] * lz
    for x in range(normal.shape[0]):
        rises = min(max(shares[x], zero) / PENUMBRA, one)
        shines[x] *= sent * rises * rises * (three - two * rises)
        shares[x] = sent * received(shares[x], wrap)
