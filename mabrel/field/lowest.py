"""The lowest ink of a shape: where it meets a floor."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

_INK = 0.02  # coverage below which a pixel counts as empty


def lowest(
    coverage: NDArray[np.float32], origin: tuple[int, int], down: tuple[float, ...] = (0.0, 1.0)
) -> float | None:
    """How far ink ((H, W), 0..1) reaches in the direction `down`, in pixels and between them too;
    None where there is none. The array's first pixel lies at `origin` (x, y).

    `down` may be shorter than 1, as it is on a card that leans.
    """
    reaches = np.full(coverage.shape[0], -np.inf)
    _reach(coverage, origin[0] + 0.5, origin[1] + 0.5, down[0], down[1], reaches)
    reach = reaches.max(initial=-np.inf)
    return None if np.isinf(reach) else float(reach)


@kernel(parallel=True)
def _reach(coverage, left, top, across, down, reaches):  # type: ignore[no-untyped-def]
    length = np.sqrt(across * across + down * down)
    rows, columns = coverage.shape
    for line in numba.prange(rows):
        y = np.int64(line)
        most = -np.inf
        for x in range(columns):
            share = coverage[y, x]
            if share > _INK:
                edge = (min(share, np.float32(1)) - 0.5) * length
                most = max(most, (left + x) * across + (top + y) * down + edge)
        reaches[y] = most
