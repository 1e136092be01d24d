"""Between a step's input and its result."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from mabrel.steps.cast import Cast
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region

Weight = float | Callable[[Region], Array]


def mixed(before: Piece, after: Piece, weight: Weight) -> Piece:
    """Between a step's input and its result, which lie in the same region.

    `weight` is a share, or gives one for each pixel ((H, W)) of a region; that of what is cast is
    asked over the region where it lies.
    """
    own = weight if isinstance(weight, float) else weight(after.region)
    shape = after
    if after.matte is not before.matte:
        shape = after.reshaped(_between(before.matte, after.matte, own))
    body, plate = after.body, after.plate
    if body is not None and body is not before.body:
        body = _between(before.solid, body, own)
    if plate is not None and plate is not before.plate:
        plate = _between(before.standing, plate, own)
    return replace(
        shape,
        face=_between(before.face, after.face, own),
        height=_between(before.height, after.height, own),
        behind=_plane(before.behind, after.behind, own),
        front=_plane(before.front, after.front, own),
        added=_plane(before.added, after.added, own),
        body=body,
        plate=plate,
        cast=_cast(before.cast, after.cast, weight),
    )


def _between(a: Array, b: Array, share: float | Array) -> Array:
    if a is b:
        return b
    if not isinstance(share, float) and b.ndim == 3:
        share = share[..., None]
    return np.asarray(a + (b - a) * share, np.float32)


def _plane(a: Array | None, b: Array | None, share: float | Array) -> Array | None:
    """Between planes of colour that may not be there."""
    if b is None or a is b:
        return b
    return _between(np.zeros_like(b) if a is None else a, b, share)


def _cast(before: Cast | None, after: Cast | None, weight: Weight) -> Cast | None:
    if after is None or after is before:
        return after
    share = weight if isinstance(weight, float) else weight(after.region)
    was = None if before is None else before.grown_to(after.region).pixels
    pixels = _plane(was, after.pixels, share)
    return after if pixels is None else Cast(after.region, pixels)
