"""Light that fades with the height over a floor."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]


def fade(light: Array, above: Array, start: float, over: float) -> None:
    """Fade light (H, W, 4) in place: from the height `start` on, and within `over` to nothing,
    smoothly at both ends. `above` (H, W) is the height of each pixel, in the same unit."""
    _fade(light, above, np.float32(start), np.float32(over))


@kernel(parallel=True)
def _fade(light, above, start, over):  # type: ignore[no-untyped-def]
    rows, columns = above.shape
    zero, one = np.float32(0), np.float32(1)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            share = min(max((above[y, x] - start) / over, zero), one)
            left = one - share * share * (np.float32(3) - np.float32(2) * share)
            for c in range(4):
                light[y, x, c] *= left
