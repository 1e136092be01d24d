"""What a relief mirrors of the world around it."""

import math

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.spaces import to_linear
from mabrel.colour.transfer import encoded
from mabrel.kernels import kernel

Array = NDArray[np.float32]
_WIDEST = 2048


def mirrored(normal: Array, world: Array, *, turn: float, axes: Array) -> Array:
    """What unit normals (H, W, 3) mirror towards the viewer: encoded RGB (H, W, 3).

    `world` is what `world_of` makes of a panorama; `turn` degrees turn it about the upright axis.
    `axes` (3 × 3) turns the card's directions into those of the frame. The mirrored direction is
    R = 2 (N·V) N − V, for a viewer V far away.
    """
    out = np.empty(normal.shape, np.float32)
    _look_around(normal, world, axes.astype(np.float32), np.float32(turn / 360 + 0.5), out)
    return out


@kernel(parallel=True)
def _look_around(normal, panorama, axes, turn, out):  # type: ignore[no-untyped-def]
    """`panorama` has one column more on each side, from the other one."""
    high, wide = panorama.shape[0], panorama.shape[1] - 2
    zero, one, two = np.float32(0), np.float32(1), np.float32(2)
    for line in numba.prange(normal.shape[0]):
        y = np.int64(line)
        for x in range(normal.shape[1]):
            nz = normal[y, x, 2]
            a, b, c = two * nz * normal[y, x, 0], two * nz * normal[y, x, 1], two * nz * nz - one
            mx = axes[0, 0] * a + axes[0, 1] * b + axes[0, 2] * c
            my = axes[1, 0] * a + axes[1, 1] * b + axes[1, 2] * c
            mz = axes[2, 0] * a + axes[2, 1] * b + axes[2, 2] * c
            around = np.float32(math.atan2(mx, mz) / (2 * math.pi)) + turn
            down = np.float32(math.acos(min(max(-my, -one), one)) / math.pi)
            u = (around - np.floor(around)) * np.float32(wide) + np.float32(0.5)
            v = min(max(down * np.float32(high) - np.float32(0.5), zero), np.float32(high - 1))
            i, j = min(int(u), wide), int(v)
            below = min(j + 1, high - 1)
            s, t = u - np.float32(i), v - np.float32(j)
            for k in range(3):
                upper = panorama[j, i, k] + (panorama[j, i + 1, k] - panorama[j, i, k]) * s
                lower = panorama[below, i, k]
                lower += (panorama[below, i + 1, k] - panorama[below, i, k]) * s
                out[y, x, k] = encoded(max(upper + (lower - upper) * t, zero))


def world_of(panorama: Array, blur: float) -> Array:
    """A panorama as `mirrored` looks it up: linear RGB (H, W + 2, 3), no wider than it need be, one
    column more on each side, from the other one.

    `panorama` is an equirectangular picture ((H, W, 4), premultiplied, encoded), its middle
    straight behind the viewer, its top above. `blur` (0..1) is the roughness of what mirrors it: it
    is blurred, in linear light, by up to a quarter of it, across its left and right edges.
    """
    seen = _blurred(panorama, blur)
    return np.ascontiguousarray(np.concatenate([seen[:, -1:], seen, seen[:, :1]], axis=1))


def _blurred(panorama: Array, blur: float) -> Array:
    linear = to_linear(np.ascontiguousarray(panorama[..., :3]))
    rows, columns = linear.shape[:2]
    width = min(columns, _WIDEST if blur < 0.02 else 512)
    if width < columns:
        size = (width, max(round(rows * width / columns), 1))
        linear = cv2.resize(linear, size, interpolation=cv2.INTER_AREA)
    sigma = blur * linear.shape[1] / 8
    if sigma < 0.3:
        return np.asarray(linear, np.float32)
    room = min(math.ceil(3 * sigma), linear.shape[1])
    wide = np.concatenate([linear[:, -room:], linear, linear[:, :room]], axis=1)
    soft = cv2.GaussianBlur(wide, (0, 0), sigma, borderType=cv2.BORDER_REFLECT_101)
    return np.ascontiguousarray(soft[:, room:-room], dtype=np.float32)
