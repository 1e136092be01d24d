"""Where ink meets the floor."""

import numba
import numpy as np

from mabrel.steps.piece import Array
from mabrel.steps.region import Region

_INK = 0.02  # coverage below which a pixel counts as empty


def lowest(coverage: Array, region: Region, down: tuple[float, ...] = (0.0, 1.0)) -> float | None:
    """How far the ink ((H, W), 0..1, lying in `region`) reaches in the direction `down`, in
    render pixels from the layer's centre, between pixels too; None where there is no ink.

    `down` may be shorter than 1, as it is on a card that leans.
    """
    reach = _reach(coverage, region.left + 0.5, region.top + 0.5, down[0], down[1])
    return None if np.isinf(reach) else float(reach)


@numba.njit(cache=True)
def _reach(coverage, left, top, across, down):  # type: ignore[no-untyped-def]
    most = -np.inf
    length = np.sqrt(across * across + down * down)
    rows, columns = coverage.shape
    for y in range(rows):
        for x in range(columns):
            share = coverage[y, x]
            if share > _INK:
                edge = (min(share, np.float32(1)) - 0.5) * length
                most = max(most, (left + x) * across + (top + y) * down + edge)
    return most
