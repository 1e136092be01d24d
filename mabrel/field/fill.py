"""Filling outlines: the exact share of every pixel."""

import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel


def fill(lines: NDArray[np.float64], region: tuple[int, int, int, int]) -> NDArray[np.float32]:
    """Coverage (H, W), 0..1, of closed outlines made of straight `lines` (N, 4: x1, y1, x2, y2).

    `region` is (left, top, width, height) in pixels. Each line adds the area between itself and
    the pixels to its right, signed by its direction, so the sum along a row is the exact area
    inside (the accumulation buffer of scan conversion; Catmull 1978 for the area of a pixel).
    Outlines must not overlap, and holes must run the other way round than what they are in.
    What lies outside the region is cut off; it still counts for the pixels to its right.
    """
    left, top, width, height = region
    areas = np.zeros((height, width + 2), np.float64)
    _accumulate(np.ascontiguousarray(lines, np.float64), float(left), float(top), areas)
    inside = np.abs(np.cumsum(areas, axis=1)[:, :width])
    return np.clip(inside, 0, 1).astype(np.float32)


@kernel()
def _accumulate(lines, left, top, areas):  # type: ignore[no-untyped-def]
    height, width = areas.shape[0], areas.shape[1] - 2
    for i in range(lines.shape[0]):
        x1, y1 = lines[i, 0] - left, lines[i, 1] - top
        x2, y2 = lines[i, 2] - left, lines[i, 3] - top
        if y1 == y2:
            continue
        way = 1.0
        if y1 > y2:
            x1, y1, x2, y2 = x2, y2, x1, y1
            way = -1.0
        slope = (x2 - x1) / (y2 - y1)
        first, last = max(int(np.floor(y1)), 0), min(int(np.ceil(y2)), height)
        for row in range(first, last):
            upper, lower = max(y1, float(row)), min(y2, row + 1.0)
            if lower <= upper:
                continue
            a, b = x1 + (upper - y1) * slope, x1 + (lower - y1) * slope
            _add_row(areas[row], a, b, way * (lower - upper), width)


@kernel()
def _add_row(row, a, b, tall, width):  # type: ignore[no-untyped-def]
    """One line within one row of pixels, `tall` high, from x = a to x = b."""
    if a > b:
        a, b = b, a
    a, b = min(max(a, 0.0), float(width)), min(max(b, 0.0), float(width))
    first, last = int(np.floor(a)), int(np.floor(b))
    if first == last or b - a < 1e-12:
        middle = 0.5 * (a + b) - first
        row[first] += tall * (1 - middle)
        row[first + 1] += tall * middle
        return
    per = tall / (b - a)
    for column in range(first, last + 1):
        start, end = max(a, float(column)), min(b, column + 1.0)
        part = (end - start) * per
        middle = 0.5 * (start + end) - column
        row[column] += part * (1 - middle)
        row[column + 1] += part * middle
