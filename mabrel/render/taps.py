"""Taps: the fields of a piece as pictures."""

import numpy as np

from mabrel.field import normals
from mabrel.render.compose import flattened
from mabrel.steps import Array, Piece

TAPS = ("picture", "matte", "height", "normals", "light", "face", "behind", "front")


def shown(tap: str, piece: Piece, face_opacity: float = 1.0) -> Array:
    """A field as premultiplied RGBA (H, W, 4).

    `matte` and `height` are opaque greys, the highest place white; `normals` are
    (n + 1) / 2; `face`, `behind` and `front` are themselves, the face cut out by the matte.
    """
    if tap == "matte":
        return _grey(piece.matte)
    if tap == "height":
        low, high = min(float(piece.height.min()), 0.0), float(piece.height.max())
        return _grey((piece.height - low) / max(high - low, 1e-6))
    if tap == "normals":
        vectors = normals(piece.height, piece.matte)
        opaque = np.ones((*piece.matte.shape, 4), np.float32)
        opaque[..., :3] = vectors * 0.5 + 0.5
        return opaque
    if tap == "face":
        return flattened(piece.but(behind=None, front=None), face_opacity)
    layer = piece.behind if tap == "behind" else piece.front
    return np.zeros_like(piece.face) if layer is None else layer


def _grey(values: Array) -> Array:
    opaque = np.ones((*values.shape, 4), np.float32)
    opaque[..., :3] = values[..., None]
    return opaque
