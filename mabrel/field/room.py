"""Distances in room that is put around what is known."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]


def with_room(distance: Array, margin: tuple[int, int, int, int]) -> Array | None:
    """A signed distance (H, W) with so many pixels around it: `margin` is left, top, right, bottom.

    There it is no more than the way to what is known and from there to the nearest ink, and at
    least a pixel. None where ink lies nearer than that to the border: it would end there, and have
    an edge that this distance knows nothing of.
    """
    left, top, right, bottom = margin
    border = np.concatenate([distance[[0, -1]].ravel(), distance[:, [0, -1]].ravel()])
    nearest = float(border.min())
    if nearest < 1:
        return None
    rows, columns = distance.shape
    out = np.pad(distance, ((top, bottom), (left, right)))
    across, down = _beyond(out.shape[1], left, columns), _beyond(out.shape[0], top, rows)
    middle = slice(top, top + rows)
    around = (
        (slice(top), slice(None)), (slice(top + rows, None), slice(None)),
        (middle, slice(left)), (middle, slice(left + columns, None)),
    )  # fmt: skip
    for there in around:
        away = np.hypot(down[there[0], None], across[None, there[1]])
        out[there] = away + np.float32(nearest)
    return out


def _beyond(size: int, first: int, count: int) -> Array:
    """How far each of so many pixels lies beyond `count` of them from the `first` on."""
    place = np.arange(size, dtype=np.float32)
    return np.asarray(np.maximum(np.maximum(first - place, place - (first + count - 1)), 0))
