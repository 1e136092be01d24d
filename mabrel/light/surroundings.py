"""What a relief mirrors of the world around it."""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.spaces import to_encoded, to_linear

Array = NDArray[np.float32]
_WIDEST = 2048


def mirrored(normal: Array, panorama: Array, *, turn: float, blur: float, axes: Array) -> Array:
    """What unit normals (H, W, 3) mirror towards the viewer: encoded RGB (H, W, 3).

    `panorama` is an equirectangular picture ((H, W, 4), premultiplied, encoded), its middle
    straight behind the viewer, its top above; `turn` degrees turn it about the upright axis.
    `blur` (0..1) is the roughness of the surface: the panorama is blurred, in linear light, by up
    to a quarter of it. `axes` (3 × 3) turns the card's directions into those of the frame. The
    mirrored direction is R = 2 (N·V) N − V, for a viewer V far away.
    """
    seen = _prepared(panorama, blur)
    rows, columns = seen.shape[:2]
    nz = normal[..., 2:]
    mirror = 2 * nz * normal
    mirror[..., 2] -= 1
    x, y, z = np.moveaxis(mirror @ axes.T.astype(np.float32), -1, 0)
    around = np.arctan2(x, z) / (2 * math.pi) + 0.5 + turn / 360
    down = np.arccos(np.clip(-y, -1, 1)) / math.pi
    across = (np.mod(around, 1) * columns - 0.5).astype(np.float32)
    below = np.clip(down * rows - 0.5, 0, rows - 1).astype(np.float32)
    wide = np.concatenate([seen[:, -1:], seen, seen[:, :1]], axis=1)
    looked = cv2.remap(wide, across + np.float32(1), below, cv2.INTER_LINEAR,
                       borderMode=cv2.BORDER_REPLICATE)  # fmt: skip
    return to_encoded(np.asarray(looked, np.float32))


def _prepared(panorama: Array, blur: float) -> Array:
    """Linear RGB, no wider than it need be, blurred; the left and right edges meet."""
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
