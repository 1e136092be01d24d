"""Where the ink of a matte lies."""

import numpy as np
from numpy.typing import NDArray

_INK = 0.5  # coverage from which a pixel counts


def ink_of(matte: NDArray[np.float32]) -> tuple[int, int, int, int]:
    """Left, top, right and bottom of the ink in a matte (H, W), as array coordinates; all 0 where
    there is none."""
    rows = np.flatnonzero(matte.max(axis=1, initial=0) > _INK)
    columns = np.flatnonzero(matte.max(axis=0, initial=0) > _INK)
    if not len(rows):
        return 0, 0, 0, 0
    return int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1
