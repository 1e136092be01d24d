"""Taps: the fields of a piece as pictures."""

import numpy as np

from mabrel.field import normals
from mabrel.steps import Array, Piece
from mabrel.steps.faces.flattening import flattened

TAPS = ("picture", "matte", "height", "normals", "light", "face", "behind", "front")


def tapped_field(tap: str, piece: Piece, face_opacity: float = 1.0) -> Array:
    """The field of a piece that a tap shows: (H, W), or (H, W, 3) or (H, W, 4) with colour."""
    if tap == "matte":
        return piece.matte
    if tap == "height":
        return piece.height
    if tap == "normals":
        return normals(piece.height, piece.matte)
    if tap == "face":
        return flattened(piece.without_planes(), face_opacity)
    layer = piece.behind if tap == "behind" else piece.front
    return np.zeros_like(piece.face) if layer is None else layer


def shown(tap: str, field: Array) -> Array:
    """A field, in its place in the picture, as premultiplied RGBA (H, W, 4).

    `matte` and `height` are opaque greys, the highest place white; `normals` are
    (n + 1) / 2; `face`, `behind` and `front` are themselves, the face cut out by the matte.
    """
    if tap == "matte":
        return _grey(field)
    if tap == "height":
        low, high = min(float(field.min()), 0.0), float(field.max())
        return _grey((field - low) / max(high - low, 1e-6))
    if tap == "normals":
        opaque = np.ones((*field.shape[:2], 4), np.float32)
        opaque[..., :3] = field * 0.5 + 0.5
        return opaque
    return field


def _grey(values: Array) -> Array:
    opaque = np.ones((*values.shape, 4), np.float32)
    opaque[..., :3] = values[..., None]
    return opaque
