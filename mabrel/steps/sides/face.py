"""What the face shows, carried on over its edge."""

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.steps.piece import Array, Piece

_INSIDE = 1.0  # pixels inside the edge, where a colour of the face is whole
_LINE = 8192


def face_at(piece: Piece, places: NDArray[np.float64]) -> Array:
    """Premultiplied colours (N, 4) of the face at places (N, 2) from the layer's centre; beyond its
    border it goes on as it ends there."""
    lines = -(-max(len(places), 1) // _LINE)
    maps = np.zeros((2, lines * _LINE), np.float32)
    maps[0, : len(places)] = places[:, 0] - piece.region.left - 0.5
    maps[1, : len(places)] = places[:, 1] - piece.region.top - 0.5
    x, y = maps.reshape(2, lines, _LINE)
    looked = cv2.remap(piece.face, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(looked.reshape(-1, 4)[: len(places)], np.float32)


def as_the_face(piece: Piece, places: NDArray[np.float64], deep: Array, share: float) -> Array:
    """Straight colours (N, 4) for sides that begin at places (N, 2) and are so many pixels deep
    (N), their alpha `share`: the face mirrored over its edge, so that what it shows runs on."""
    slope_x, slope_y = (
        cv2.Sobel(piece.distance, cv2.CV_32F, *axes, scale=1 / 8) for axes in ((1, 0), (0, 1))
    )
    column = np.clip(places[:, 0] - piece.region.left, 0, piece.region.width - 1).astype(int)
    row = np.clip(places[:, 1] - piece.region.top, 0, piece.region.height - 1).astype(int)
    nx, ny = slope_x[row, column], slope_y[row, column]
    size = np.maximum(np.hypot(nx, ny), 1e-6)
    away = (deep + piece.distance[row, column] + _INSIDE) / size
    inside = places - np.stack([nx * away, ny * away], axis=1)
    found = face_at(piece, inside)
    found[:, :3] /= np.maximum(found[:, 3:], np.float32(1e-6))
    found[:, 3] *= np.float32(share)
    return found
