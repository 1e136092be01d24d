"""Flat pictures seen in perspective, in one resampling."""

import math

import numba
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
_MOST = 24  # samples a pixel along one axis; what is smaller still has faded into its mean


def projected(image: Array, matrix: NDArray[np.float64], size: tuple[int, int]) -> Array:
    """`image` ((H, W) or (H, W, C)) through a homography onto a picture of `size` (width, height).

    `matrix` (3 × 3) takes pixel places of the image, whole numbers at pixel centres, to those of
    the picture; its third coordinate is positive before the viewer. Where the image is larger
    than what is seen of it, each pixel is the mean of as many lookups as it spans, so nothing
    flickers or frays. Lookups are cubic (Keys 1981, a = −½), held within the four pixels around
    them: no ringing at edges. Beyond the image there is nothing; nor is there behind the viewer.
    """
    layers = np.ascontiguousarray(image if image.ndim == 3 else image[..., None], np.float32)
    out = np.zeros((size[1], size[0], layers.shape[2]), np.float32)
    determinant = float(np.linalg.det(matrix))
    if not math.isfinite(determinant) or abs(determinant) < 1e-12:
        return out if image.ndim == 3 else out[..., 0]
    back = np.linalg.inv(matrix)
    _project(layers, back / np.abs(back).max(), out)
    return out if image.ndim == 3 else out[..., 0]


@numba.njit(cache=True, parallel=True)
def _project(image, back, out):  # type: ignore[no-untyped-def]
    height, width, _channels = image.shape
    rows, columns = out.shape[:2]
    for line in numba.prange(rows):
        y = np.int64(line)
        for x in range(columns):
            u = back[0, 0] * x + back[0, 1] * y + back[0, 2]
            v = back[1, 0] * x + back[1, 1] * y + back[1, 2]
            w = back[2, 0] * x + back[2, 1] * y + back[2, 2]
            if w <= 1e-12:
                continue
            u, v = u / w, v / w
            ux, uy = (back[0, 0] - u * back[2, 0]) / w, (back[0, 1] - u * back[2, 1]) / w
            vx, vy = (back[1, 0] - v * back[2, 0]) / w, (back[1, 1] - v * back[2, 1]) / w
            reach = 0.5 * (abs(ux) + abs(uy)) + 2.0
            if u < -reach or u > width - 1 + reach:
                continue
            reach = 0.5 * (abs(vx) + abs(vy)) + 2.0
            if v < -reach or v > height - 1 + reach:
                continue
            nx = min(max(math.ceil(math.hypot(ux, vx) - 0.1), 1), _MOST)
            ny = min(max(math.ceil(math.hypot(uy, vy) - 0.1), 1), _MOST)
            share = np.float32(1.0 / (nx * ny))
            for j in range(ny):
                dy = (j + 0.5) / ny - 0.5
                for i in range(nx):
                    dx = (i + 0.5) / nx - 0.5
                    _look(image, u + ux * dx + uy * dy, v + vx * dx + vy * dy, share, out[y, x])


@numba.njit(cache=True, inline="always")
def _weights(t):  # type: ignore[no-untyped-def]
    a = ((-0.5 * t + 1.0) * t - 0.5) * t
    b = (1.5 * t - 2.5) * t * t + 1.0
    c = ((-1.5 * t + 2.0) * t + 0.5) * t
    return a, b, c, 1.0 - a - b - c


@numba.njit(cache=True)
def _look(image, u, v, share, pixel):  # type: ignore[no-untyped-def]
    """Add `share` of what lies at (u, v)."""
    height, width, channels = image.shape
    left, top = math.floor(u), math.floor(v)
    if left < -2 or left > width or top < -2 or top > height:
        return
    across, down = _weights(u - left), _weights(v - top)
    for c in range(channels):
        total = 0.0
        low, high = np.float32(np.inf), np.float32(-np.inf)
        for j in range(4):
            row = top + j - 1
            if row < 0 or row >= height:
                if j == 1 or j == 2:
                    low, high = min(low, np.float32(0)), max(high, np.float32(0))
                continue
            for i in range(4):
                column = left + i - 1
                value = np.float32(0)
                if column >= 0 and column < width:
                    value = image[row, column, c]
                    total += value * across[i] * down[j]
                if (i == 1 or i == 2) and (j == 1 or j == 2):
                    low, high = min(low, value), max(high, value)
        pixel[c] += share * min(max(np.float32(total), low), high)
