"""What a place on a surface receives of a light, and mirrors of it: for faces and sides alike."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel

Array = NDArray[np.float32]
PENUMBRA = np.float32(0.06)
"""Cosine over which a light that is no point goes down behind a surface."""
HORIZON = np.float32(0.15)
"""Sine of the height over a card between which and minus which a light goes down behind it."""


@kernel(inline="always")
def received(facing, wrap):  # type: ignore[no-untyped-def]
    """The share of a light that a surface receives whose normal has the cosine `facing` to it.

    Lambert's cosine law; `wrap` (0..1) lets it reach around to what is turned away, as skin and
    wax do. Where the light goes down behind the surface, the cosine's corner is rounded by a
    parabola over ± `PENUMBRA`, as under a light 7° wide.
    """
    cosine = (facing + wrap) / (np.float32(1) + wrap)
    if cosine >= PENUMBRA:
        return cosine
    rest = max(cosine + PENUMBRA, np.float32(0))
    return rest * rest / (np.float32(4) * PENUMBRA)


@kernel(inline="always")
def risen(height):  # type: ignore[no-untyped-def]
    """How far a light at that sine over a card stands above it: 0 behind, 1 before it."""
    share = height / (np.float32(2) * HORIZON) + np.float32(0.5)
    share = min(max(share, np.float32(0)), np.float32(1))
    share *= share * (np.float32(3) - np.float32(2) * share)
    return share * share  # tones, which rise steeply from black, so change evenly


@kernel(inline="always")
def all_distant(kinds):  # type: ignore[no-untyped-def]
    """Whether what a surface receives depends on its normal alone."""
    distant = True
    for i in range(len(kinds)):
        distant = distant and kinds[i] == 0
    return distant


@kernel(inline="always")
def towards(i, x, y, z, directions, places, kinds, axes, edges):  # type: ignore[no-untyped-def]
    """Unit vector from a place to light `i`, and the share of it that is sent there.

    Filter Effects 1, light sources: a spot's light is (−L·S)^specularExponent inside its cone
    and nothing outside; the edge is softened over a degree or so, as it allows.
    """
    if kinds[i] == 0:
        return directions[i, 0], directions[i, 1], directions[i, 2], np.float32(1)
    dx, dy, dz = places[i, 0] - x, places[i, 1] - y, places[i, 2] - z
    scale = np.float32(1) / np.sqrt(max(dx * dx + dy * dy + dz * dz, np.float32(1e-6)))
    dx, dy, dz = dx * scale, dy * scale, dz * scale
    if kinds[i] == 1:
        return dx, dy, dz, np.float32(1)
    along = -(dx * axes[i, 0] + dy * axes[i, 1] + dz * axes[i, 2])
    inside = (along - edges[i, 0]) / np.float32(0.016) + np.float32(0.5)
    if inside <= 0 or along <= 0:
        return dx, dy, dz, np.float32(0)
    return dx, dy, dz, min(inside, np.float32(1)) * along ** edges[i, 1]


@kernel(inline="always")
def mirrored_share(i, nx, ny, nz, lx, ly, lz, kinds, halfway, viewer):  # type: ignore[no-untyped-def]
    """N·H, with H halfway between the light and the viewer (Blinn 1977)."""
    if kinds[i] == 0:
        return nx * halfway[i, 0] + ny * halfway[i, 1] + nz * halfway[i, 2]
    hx, hy, hz = lx + viewer[0], ly + viewer[1], lz + viewer[2]
    length = np.sqrt(hx * hx + hy * hy + hz * hz)
    return (nx * hx + ny * hy + nz * hz) / max(length, np.float32(1e-6))


@kernel(inline="always")
def answered(i, nx, ny, nz, x, y, z, table, wrap, stands, shines, powers):  # type: ignore[no-untyped-def]
    """What the surface with the normal N at (x, y, z) receives of light `i`, and what it mirrors
    of it to the viewer: shares of the light's strength.

    Behind a card that `stands` in its way, a light goes down; sides, which reach back beyond it,
    it still meets. Nothing is mirrored where nothing is received.
    """
    directions, halfway, places, kinds, axes, edges, viewer = table
    lx, ly, lz, sent = towards(i, x, y, z, directions, places, kinds, axes, edges)
    if stands:
        sent *= risen(lz)
    facing = nx * lx + ny * ly + nz * lz
    shine = np.float32(0)
    if shines and sent > 0 and facing > 0:
        mirrored = mirrored_share(i, nx, ny, nz, lx, ly, lz, kinds, halfway, viewer)
        rises = min(facing / PENUMBRA, np.float32(1))
        shine = sent * rises * rises * (np.float32(3) - np.float32(2) * rises)
        shine *= between(powers, mirrored)
    return sent * received(facing, wrap), shine


_POWERS = 16_384


def power_table(exponent: float) -> Array:
    """Powers of even places from 0 to 1, for `between`: within 0.0005 up to an exponent of 1000."""
    return _powers(float(exponent)).copy()


@lru_cache(maxsize=64)
def _powers(exponent: float) -> Array:
    return with_end(np.asarray((np.arange(_POWERS + 1) / _POWERS) ** exponent, np.float32))


def with_end(table: Array) -> Array:
    """A table for `between`: its last entry is there twice."""
    return np.append(table, table[-1:]).astype(np.float32)


@kernel(inline="always")
def between(table, value):  # type: ignore[no-untyped-def]
    """What stands in a table at a value of 0..1."""
    place = min(max(value, np.float32(0)), np.float32(1)) * np.float32(len(table) - 2)
    low = int(place)
    return table[low] + (table[low + 1] - table[low]) * (place - np.float32(low))
