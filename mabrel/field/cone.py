"""How far rays that run close together run clear of a body (cone marching).

One ray is followed that runs in their midst, for as long as what surrounds it has room for all.
"""

import numpy as np

from mabrel.field.rays import bilinear, grown_at
from mabrel.kernels import kernel

CLEAR = 1e12
"""Further than any ray runs."""
_MOST_STEPS = 64
_SPARE = 0.5  # pixels around the rays
_WIDEST = 12.0  # pixels of the picture that they may lie apart
_LEAST_ROOM = 1.0  # pixels; with less, each ray finds its own way


@kernel()
def clear_for(distance, profile, numbers, start, way, across, down):  # type: ignore[no-untyped-def]
    """As many times its `way` as each of the rays through these pixels ((N): x, and y) runs before
    it can meet the body; `numbers` and the rest as in `body`."""
    length, rate, _, left, top, least = numbers
    low_x, high_x, low_y, high_y = across[0], across[0], down[0], down[0]
    for i in range(1, len(across)):
        low_x, high_x = min(low_x, across[i]), max(high_x, across[i])
        low_y, high_y = min(low_y, down[i]), max(high_y, down[i])
    half_x, half_y = (high_x - low_x) * 0.5, (high_y - low_y) * 0.5
    if half_x + half_y > 0.5 * _WIDEST:
        return least
    vx, vy, vz = times(start, low_x + half_x, low_y + half_y)
    dx, dy, dz = times(way, low_x + half_x, low_y + half_y)
    beside, deeper = _around(start, half_x, half_y)
    wider, further = _around(way, half_x, half_y)
    near, far = _first_and_last(vz, dz, deeper, further, length, least)
    speed = np.sqrt(dx * dx + dy * dy) + wider + rate * (abs(dz) + further)
    at = near
    for _ in range(_MOST_STEPS):
        if at >= far:
            return CLEAR
        share = np.float32(min(max(-(vz + at * dz) / length, 0.0), 1.0))
        x, y = vx + at * dx - left - 0.5, vy + at * dy - top - 0.5
        room = _from_outline(distance, x, y) - grown_at(profile, share)
        room -= _SPARE + beside + at * wider + rate * (deeper + at * further)
        if room < _LEAST_ROOM:
            break
        at += room / max(speed, 1e-9)
    return at


@kernel(inline="always")
def times(matrix, x, y):  # type: ignore[no-untyped-def]
    return (
        matrix[0, 0] * x + matrix[0, 1] * y + matrix[0, 2],
        matrix[1, 0] * x + matrix[1, 1] * y + matrix[1, 2],
        matrix[2, 0] * x + matrix[2, 1] * y + matrix[2, 2],
    )


@kernel(inline="always")
def _around(matrix, half_x, half_y):  # type: ignore[no-untyped-def]
    """How far what a matrix makes of pixels so far apart lies apart at most: along the card, and in
    depth."""
    x = abs(matrix[0, 0]) * half_x + abs(matrix[0, 1]) * half_y
    y = abs(matrix[1, 0]) * half_x + abs(matrix[1, 1]) * half_y
    return np.sqrt(x * x + y * y), abs(matrix[2, 0]) * half_x + abs(matrix[2, 1]) * half_y


@kernel(inline="always")
def _first_and_last(vz, dz, deeper, further, length, least):  # type: ignore[no-untyped-def]
    """Between where any of the rays may be as deep as the body, and where none is any more."""
    near, far = least, CLEAR
    for side in (1.0, -1.0):  # its face, and its back
        # Beyond it as a whole while `away` + at · `going` is above 0.
        away = side * vz - deeper if side > 0 else -length - vz - deeper
        going = side * dz - further
        if away > 0 and going < 0:
            near = max(near, away / -going)
        elif away > 0:
            return CLEAR, CLEAR
        elif going > 0:
            far = min(far, -away / going)
    return near, far


@kernel(inline="always")
def _from_outline(distance, x, y):  # type: ignore[no-untyped-def]
    """No more than the distance to the outline, beyond the array too."""
    height, width = distance.shape
    inside_x, inside_y = min(max(x, 0.0), width - 1.0), min(max(y, 0.0), height - 1.0)
    found = np.float64(bilinear(distance, np.float32(inside_x), np.float32(inside_y)))
    beyond = np.hypot(x - inside_x, y - inside_y)
    return found if beyond == 0 else np.hypot(max(found, 0.0), beyond)
