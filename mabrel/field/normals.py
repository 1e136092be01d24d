"""Surface normals of a relief."""

import numba
import numpy as np
from numpy.typing import NDArray


def normals(
    height: NDArray[np.float32], inside: NDArray[np.float32] | None = None, depth: float = 1.0
) -> NDArray[np.float32]:
    """Unit normals (H, W, 3) of `height` ((H, W), pixels), x right, y down, z to the viewer.

    Central differences of the height times `depth`. Where `inside` (a coverage, 0..1) is given,
    differences don't reach across the edge at half coverage, and pixels just outside it take
    the mean of their neighbours inside: so a rim is lit as the relief is, not as the cliff
    beside it. Beyond the border the height is taken to go on level.
    """
    height = np.ascontiguousarray(height, dtype=np.float32)
    out = np.empty((*height.shape, 3), np.float32)
    if inside is None:
        _central(height, np.float32(depth), out)
    else:
        _within(height, np.ascontiguousarray(inside, np.float32), np.float32(depth), out)
        _carry_over_the_rim(np.ascontiguousarray(inside, np.float32), out)
    return out


@numba.njit(cache=True, inline="always")
def _write(out, y, x, dx, dy):  # type: ignore[no-untyped-def]
    scale = np.float32(1) / np.sqrt(dx * dx + dy * dy + np.float32(1))
    out[y, x, 0] = -dx * scale
    out[y, x, 1] = -dy * scale
    out[y, x, 2] = scale


@numba.njit(cache=True, parallel=True)
def _central(height, depth, out):  # type: ignore[no-untyped-def]
    rows, columns = height.shape
    half = np.float32(0.5) * depth
    for line in numba.prange(rows):
        y = np.int64(line)
        up, down = max(y - 1, 0), min(y + 1, rows - 1)
        for x in range(columns):
            left, right = max(x - 1, 0), min(x + 1, columns - 1)
            dx = half * (height[y, right] - height[y, left])
            dy = half * (height[down, x] - height[up, x])
            _write(out, y, x, dx, dy)


@numba.njit(cache=True, parallel=True)
def _within(height, inside, depth, out):  # type: ignore[no-untyped-def]
    rows, columns = height.shape
    level = np.float32(0.5)
    for line in numba.prange(rows):
        y = np.int64(line)
        up, down = max(y - 1, 0), min(y + 1, rows - 1)
        for x in range(columns):
            if inside[y, x] < level:
                _write(out, y, x, np.float32(0), np.float32(0))
                continue
            left, right = max(x - 1, 0), min(x + 1, columns - 1)
            left = left if inside[y, left] >= level else x
            right = right if inside[y, right] >= level else x
            above = up if inside[up, x] >= level else y
            below = down if inside[down, x] >= level else y
            dx = depth * (height[y, right] - height[y, left]) / max(right - left, 1)
            dy = depth * (height[below, x] - height[above, x]) / max(below - above, 1)
            _write(out, y, x, np.float32(dx), np.float32(dy))


@numba.njit(cache=True, parallel=True)
def _carry_over_the_rim(inside, out):  # type: ignore[no-untyped-def]
    """Only pixels outside are written and only pixels inside are read: order can't matter."""
    rows, columns = inside.shape
    level = np.float32(0.5)
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            if inside[y, x] >= level:
                continue
            nx, ny, nz = np.float32(0), np.float32(0), np.float32(0)
            for row in range(max(y - 1, 0), min(y + 2, rows)):
                for column in range(max(x - 1, 0), min(x + 2, columns)):
                    if inside[row, column] >= level:
                        nx += out[row, column, 0]
                        ny += out[row, column, 1]
                        nz += out[row, column, 2]
            if nz > 0:
                scale = np.float32(1) / np.sqrt(nx * nx + ny * ny + nz * nz)
                out[y, x, 0] = nx * scale
                out[y, x, 1] = ny * scale
                out[y, x, 2] = nz * scale
