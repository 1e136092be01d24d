"""Which rays are sent through a pixel of a body, beside the one through its middle."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.body import SIDE
from mabrel.kernels import LANES, kernel
from mabrel.steps.piece import Array

LEFT_OUT, BETWEEN, MARCHED, EDGE = 0, 1, 2, 3
"""A pixel shows what its middle shows; the rays beside it meet what lies between what its
neighbours show; or each has to be followed by itself: because neighbours have other colours and
lie uneven, or because they show something else, whatever the colours."""
FEW = 4
"""Added to that where `FEWEST` rays do."""
FEWEST = 5
_DIFFERS = 6 / 255  # of colours of neighbours, for which more rays are sent through a pixel
_DIFFERS_MUCH = 36 / 255  # and for which those are not few: a fifth of less is a seventh of much
_BENT = 0.5  # pixels that a place may lie beside the line between those that its neighbours show
_TURNED = {5: 2, 17: 4}


def beside(count: int) -> NDArray[np.float64]:
    """(`count` − 1, 2): where rays run through a pixel, from its middle, through which one more
    does. All of them have rows and columns of their own, so that an edge is as smooth as it can be
    however it runs. `count` is 5 or 17."""
    number = np.arange(count)
    across = (number - count // 2) / count
    down = ((number * _TURNED[count] + (count // 2) * (1 - _TURNED[count])) % count) / count
    places = np.stack([across, down - (count // 2) / count], axis=1)
    return np.delete(places, count // 2, axis=0)


def looked_at(
    what: NDArray[np.int8],
    place: Array,
    pixels: Array,
    needed: NDArray[np.bool_],
    known: NDArray[np.bool_],
    textured: bool,
) -> NDArray[np.int8]:
    """(H, W): how to look again at the pixels that are `needed`, some of which are `known` ((H, W)
    each): `what` their middle meets, in which `place` ((H, W, 3)), and the colours `pixels` that it
    has there.

    Where neighbours differ, and on sides that are `textured`; and a pixel that is not known, unless
    those beside it are, and have but one colour. Few rays do where what they meet is the same kind
    of thing, and hardly differs."""
    out = np.zeros(what.shape, np.int8)
    limits = np.float32(_DIFFERS), np.float32(_DIFFERS_MUCH), np.float32(_BENT)
    _compare(what, place, pixels, needed, known, limits, textured, out)
    return out


@kernel(parallel=True)
def _compare(what, place, pixels, needed, known, limits, textured, out):  # type: ignore[no-untyped-def]
    rows, columns = known.shape
    little, much, bent = limits
    for lane in numba.prange(LANES):
        for y in range(np.int64(lane), rows, LANES):
            for x in range(columns):
                if not needed[y, x]:
                    continue
                first_y, first_x, found = np.uint64(y), np.uint64(x), known[y, x]
                textures, whole = textured and found and what[y, x] >= SIDE, found
                edge, apart = False, np.float32(0)
                for k in range(9):
                    j, i = y + k // 3 - 1, x + k % 3 - 1
                    v, u = np.uint64(j), np.uint64(i)  # not looked at where they are below 0
                    if not (0 <= j < rows and 0 <= i < columns and known[v, u]):
                        whole = False
                        continue
                    if not found:
                        first_y, first_x, found = v, u, True
                    if what[v, u] != what[first_y, first_x]:
                        edge = True
                        break
                    apart = max(apart, _apart(pixels[v, u], pixels[first_y, first_x]))
                differs = textures or apart > little
                few = FEW if whole and apart <= much else 0
                if edge:
                    out[y, x] = EDGE
                elif not found or (differs and not whole):
                    out[y, x] = MARCHED
                elif differs:
                    flat = what[y, x] >= SIDE and _flat(place, y, x, bent)
                    out[y, x] = (BETWEEN if flat else MARCHED) + few


@kernel(inline="always")
def _apart(a, b):  # type: ignore[no-untyped-def]
    """How far two colours are apart, in the channel in which they are furthest."""
    red, green = abs(a[0] - b[0]), abs(a[1] - b[1])
    return max(max(red, green), max(abs(a[2] - b[2]), abs(a[3] - b[3])))


@kernel(inline="always")
def _flat(place, y, x, most):  # type: ignore[no-untyped-def]
    """Whether the places around a pixel lie so even that those between lie between."""
    two = np.float32(2)
    for c in range(3):
        here = two * place[y, x, c]
        if abs(place[y, x - 1, c] + place[y, x + 1, c] - here) > most:
            return False
        if abs(place[y - 1, x, c] + place[y + 1, x, c] - here) > most:
            return False
        if abs(place[y - 1, x - 1, c] + place[y + 1, x + 1, c] - here) > two * most:
            return False
        if abs(place[y - 1, x + 1, c] + place[y + 1, x - 1, c] - here) > two * most:
            return False
    return True
