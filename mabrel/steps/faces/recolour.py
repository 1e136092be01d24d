"""Tone steps change the face's straight colours; this is what they share."""

from collections.abc import Callable

import numpy as np

from mabrel.colour import straight
from mabrel.steps.piece import Array, Piece

Recolour = Callable[[Array], Array]


def recoloured(piece: Piece, change: Recolour) -> Piece:
    """Run the face's straight RGB ((H, W, 3), encoded) through `change`; opacity stays.

    What steps painted on the face is changed likewise, so that it fits where the fill is faded.
    """

    def changed(colour: Array) -> Array:
        out = np.empty_like(colour)
        out[..., :3] = change(straight(colour)) * colour[..., 3:]
        out[..., 3] = colour[..., 3]
        return out

    return piece.recoloured(changed)
