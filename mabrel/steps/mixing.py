"""Between a step's input and its result."""

from collections.abc import Callable
from dataclasses import replace

import numba
import numpy as np

from mabrel.kernels import kernel
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
        sides=after.sides if after.sides is before.sides else None,
    )


def _between(a: Array, b: Array, share: float | Array) -> Array:
    if a is b:
        return b
    out = np.empty(b.shape, np.float32)
    channels = b.shape[2] if b.ndim == 3 else 1
    rows = [np.ascontiguousarray(each, np.float32).reshape(len(b), -1) for each in (a, b, out)]
    if isinstance(share, float):
        _mix_evenly(*rows[:2], np.float32(share), rows[2])
    else:
        _mix(*rows[:2], np.ascontiguousarray(share, np.float32), channels, rows[2])
    return out


@kernel(parallel=True)
def _mix_evenly(a, b, share, out):  # type: ignore[no-untyped-def]
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(out.shape[1]):
            out[y, x] = a[y, x] + (b[y, x] - a[y, x]) * share


@kernel(parallel=True)
def _mix(a, b, shares, channels, out):  # type: ignore[no-untyped-def]
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(shares.shape[1]):
            for c in range(x * channels, (x + 1) * channels):
                out[y, c] = a[y, c] + (b[y, c] - a[y, c]) * shares[y, x]


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
