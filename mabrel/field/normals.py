"""Surface normals of a relief."""

import math

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel


def normals(
    height: NDArray[np.float32],
    inside: NDArray[np.float32] | None = None,
    depth: float = 1.0,
) -> NDArray[np.float32]:
    """Unit normals of a relief: x to the right, y down, z to the viewer.

    Central differences of the height. Where `inside` is given, nothing is read across the edge at
    half coverage: beside it the slope is that of a plane fitted to what lies inside, and pixels
    just outside take the mean of their neighbours. So a rim is lit as the relief is, not as the
    cliff beside it.

    Convention: beyond the border the height is taken to go on level.

    Parameters
    ----------
    height : (H, W) float32
        In pixels.
    inside : (H, W) float32, optional
        Coverage of the shape that the relief belongs to, 0..1.
    depth : float, optional
        Multiplies the height.

    Returns
    -------
    (H, W, 3) float32

    Examples
    --------
    A slope of one in one, rising to the right, faces left:

    >>> import numpy as np
    >>> slope = np.tile(np.arange(5, dtype=np.float32), (5, 1))
    >>> normals(slope)[2, 2].round(3).tolist()
    [-0.7070000171661377, -0.0, 0.7070000171661377]
    """
    height = np.ascontiguousarray(height, dtype=np.float32)
    out = np.empty((*height.shape, 3), np.float32)
    if inside is None:
        _central(height, np.float32(depth), out)
    else:
        _within(height, np.ascontiguousarray(inside, np.float32), np.float32(depth), out)
        _carry_over_the_rim(np.ascontiguousarray(inside, np.float32), out)
    return out


@kernel(inline="always")
def _write(row, x, dx, dy):  # type: ignore[no-untyped-def]
    scale = np.float32(1) / np.sqrt(dx * dx + dy * dy + np.float32(1))
    row[x, 0], row[x, 1], row[x, 2] = -dx * scale, -dy * scale, scale


@kernel(parallel=True)
def _central(height, depth, out):  # type: ignore[no-untyped-def]
    for line in numba.prange(height.shape[0]):
        y = np.int64(line)
        normals_of_row(height, y, depth, out[y])


@kernel()
def normals_of_row(height, y, depth, out):  # type: ignore[no-untyped-def]
    """`normals` of the row `y` of a relief (H, W), for kernels: into `out` (W, 3)."""
    rows, columns = height.shape
    half, last = np.float32(0.5) * depth, height.shape[1] - 1
    row, up, down = height[y], height[max(y - 1, 0)], height[min(y + 1, rows - 1)]
    for x in range(1, columns - 1):
        _write(out, x, half * (row[x + 1] - row[x - 1]), half * (down[x] - up[x]))
    for x in (0, last):
        across = half * (row[min(x + 1, last)] - row[max(x - 1, 0)])
        _write(out, x, across, half * (down[x] - up[x]))


@kernel(parallel=True)
def _within(height, inside, depth, out):  # type: ignore[no-untyped-def]
    rows, columns = height.shape
    level = np.float32(0.5)
    half = np.float32(0.5) * depth
    for line in numba.prange(rows):
        y = np.int64(line)
        up, down = max(y - 1, 0), min(y + 1, rows - 1)
        for x in range(columns):
            if inside[y, x] < level:
                _write(out[y], x, np.float32(0), np.float32(0))
                continue
            left, right = max(x - 1, 0), min(x + 1, columns - 1)
            around = min(inside[y, left], inside[y, right], inside[up, x], inside[down, x])
            if around >= level:
                dx = half * (height[y, right] - height[y, left])
                dy = half * (height[down, x] - height[up, x])
            else:
                dx, dy = _fitted_slope(height, inside, y, x)
                dx, dy = depth * dx, depth * dy
            _write(out[y], x, dx, dy)


@kernel()
def _fitted_slope(height, inside, y, x):  # type: ignore[no-untyped-def]
    """Slope of the plane that fits best to what lies inside among the 5 × 5 pixels around."""
    rows, columns = height.shape
    n, sx, sy, sh = 0.0, 0.0, 0.0, 0.0
    sxx, sxy, syy, sxh, syh = 0.0, 0.0, 0.0, 0.0, 0.0
    for row in range(max(y - 2, 0), min(y + 3, rows)):
        for column in range(max(x - 2, 0), min(x + 3, columns)):
            if inside[row, column] < 0.5:
                continue
            dx, dy = column - x, row - y
            weight = inside[row, column] * math.exp(-0.6 * (dx * dx + dy * dy))
            h = height[row, column]
            n += weight
            sx += weight * dx
            sy += weight * dy
            sh += weight * h
            sxx += weight * dx * dx
            sxy += weight * dx * dy
            syy += weight * dy * dy
            sxh += weight * dx * h
            syh += weight * dy * h
    sxx, sxy, syy = sxx - sx * sx / n, sxy - sx * sy / n, syy - sy * sy / n
    sxh, syh = sxh - sx * sh / n, syh - sy * sh / n
    det = sxx * syy - sxy * sxy
    if det < 1e-4:
        return np.float32(0), np.float32(0)
    return (
        np.float32((syy * sxh - sxy * syh) / det),
        np.float32((sxx * syh - sxy * sxh) / det),
    )


@kernel(parallel=True)
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
            for i in range(9):
                row, column = y + i // 3 - 1, x + i % 3 - 1
                if row < 0 or row >= rows or column < 0 or column >= columns:
                    continue
                if inside[row, column] >= level:
                    nx += out[row, column, 0]
                    ny += out[row, column, 1]
                    nz += out[row, column, 2]
            if nz > 0:
                scale = np.float32(1) / np.sqrt(nx * nx + ny * ny + nz * nz)
                out[y, x, 0] = nx * scale
                out[y, x, 1] = ny * scale
                out[y, x, 2] = nz * scale
