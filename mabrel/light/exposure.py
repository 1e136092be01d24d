"""From how much light falls somewhere to how light it looks."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.kernels import kernel
from mabrel.light.core import answered
from mabrel.light.light import Light, Vector
from mabrel.light.table import LightTable, light_table

SHOULDER = 0.75
"""How far the picture comes back where lights add up, unless it is said otherwise."""
_LEAST_LEVEL, _MOST_LEVEL = 0.15, 0.9
_LARGEST = 0.5  # of the tones that the shoulder may bend


class Exposure(NamedTuple):
    """How tones follow from light; see `exposure`."""

    gain: np.float32
    bias: np.float32
    knee: np.float32
    """Tone above which they bend."""
    white: np.float32
    """What the brightest there can be would get without bending; it gets 1."""


def exposure(
    lights: Sequence[Light],
    table: LightTable,
    strengths: NDArray[np.float32],
    *,
    plain: Vector,
    wrap: float,
    stands: bool,
    shoulder: float,
) -> Exposure:
    """Such that a surface with the normal `plain` at the origin looks as it is, ½, under the first
    light alone at strength 1; without length, a normal is one that all lights see edge on.

    Light E runs through Schlick's bias function ("Fast alternatives to Perlin's bias and gain
    functions", 1994), which goes straight on above 1. Lights add; where together they make the
    plain surface brighter than that, the exposure is taken back by the power `shoulder` (0..1) of
    how much, and tones above 1 − `shoulder` / 2 bend softly, so that the brightest there can be is
    1 (the extended curve of Reinhard et al., "Photographic tone reproduction for digital images",
    2002). With 0 they burn out.
    """
    flat = _on_plain(light_table(_alone(lights[:1])), plain, wrap, stands).sum()
    level = min(max(float(flat), _LEAST_LEVEL), _MOST_LEVEL)
    there = float(_on_plain(table, plain, wrap, stands) @ strengths)
    gain = min(level / max(float(flat), _LEAST_LEVEL), 1.0)
    gain /= max(there / max(float(flat), _LEAST_LEVEL), 1.0) ** shoulder
    bias = (2 * level - 1) / (1 - level)
    knee, brightest = 1 - _LARGEST * shoulder, np.float32(strengths.sum())
    white = max(float(_straight(brightest, np.float32(gain), np.float32(bias))), 1.0)
    return Exposure(np.float32(gain), np.float32(bias), np.float32(knee), np.float32(white))


def _alone(lights: Sequence[Light]) -> list[Light]:
    """Wherever a spot is aimed, and however far away a light is."""
    return [Light(light.azimuth, light.elevation) for light in lights]


def _on_plain(table: LightTable, plain: Vector, wrap: float, stands: bool) -> NDArray[np.float32]:
    """(N): what the plain surface receives of each light."""
    out = np.zeros(len(table.kinds), np.float32)
    _receive(np.array(plain, np.float32), table, np.float32(wrap), stands, out)
    return out


@kernel()
def _receive(normal, table, wrap, stands, out):  # type: ignore[no-untyped-def]
    nx, ny, nz = normal
    zero, powers = np.float32(0), np.zeros(3, np.float32)
    for i in range(out.shape[0]):
        share, _ = answered(i, nx, ny, nz, zero, zero, zero, table, wrap, stands, False, powers)
        out[i] = share


@kernel(inline="always")
def _straight(light, gain, bias):  # type: ignore[no-untyped-def]
    """The tone before it bends."""
    e, one = light * gain, np.float32(1)
    return e / (bias * (one - e) + one) if e < one else one + (one + bias) * (e - one)


@kernel(inline="always")
def tone_of(light, gain, bias, knee, white):  # type: ignore[no-untyped-def]
    """The tone (0..1) of so much light."""
    one = np.float32(1)
    tone, bent = _straight(light, gain, bias), one - knee
    if tone <= knee or bent <= 0:
        return min(tone, one)
    u, w = (tone - knee) / bent, (white - knee) / bent
    return min(knee + bent * u * (one + u / (w * w)) / (one + u), one)
