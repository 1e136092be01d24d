"""Shading of a relief by lights: diffuse and highlight."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.normals import normals_of_row
from mabrel.kernels import kernel
from mabrel.light.core import all_distant, answered, power_table
from mabrel.light.light import Light
from mabrel.light.rows import answer_row, go_on, uneven
from mabrel.light.table import light_table

Array = NDArray[np.float32]
_UNKNOWN = np.empty((0, 0, 3), np.float32)  # normals: those of the relief


@dataclass(frozen=True)
class Material:
    """How a surface answers light: shares of ambient, diffuse and highlight, its exponent."""

    ambient: float = 0.0
    diffuse: float = 1.0
    highlight: float = 1.0
    tightness: float = 20.0


class Shading(NamedTuple):
    """Light that leaves the surface towards the viewer; (H, W, 3) each, not clamped, not to be
    written to: under white lights the channels are one."""

    diffuse: Array
    highlight: Array


def shade(
    height: Array,
    lights: Sequence[Light],
    material: Material | None = None,
    origin: tuple[float, float] = (0.0, 0.0),
) -> Shading:
    """Light a relief, the viewer straight above it.

    Blinn and Phong's model [1]_ with the terms of the SVG filter specification [2]_: with N the
    normal, L the direction to the light and H halfway between L and the viewer, diffuse =
    kd · N·L · colour and highlight = ks · (N·H)^tightness · colour, summed over the lights;
    ambient is added to diffuse. A light behind the surface gives neither. Where N·L or a light's
    height over the plane passes 0, the corner is rounded (`mabrel.light.core`), so that a light
    goes down evenly. N comes from central differences of float heights.

    Parameters
    ----------
    height : (H, W) float32
        In pixels.
    lights : sequence of Light
    material : Material, optional
    origin : (float, float), optional
        Where the first pixel's centre lies, from where the places of lights are measured.

    Returns
    -------
    Shading
        `diffuse` and `highlight`, (H, W, 3) float32, not clamped.

    References
    ----------
    .. [1] J. Blinn, "Models of light reflection for computer synthesized pictures", SIGGRAPH 1977,
       https://doi.org/10.1145/563858.563893
    .. [2] Filter Effects Module Level 1, https://www.w3.org/TR/filter-effects-1/

    Examples
    --------
    A level plate under a light at 30° gets the sine of that:

    >>> import numpy as np
    >>> from mabrel.light import Light
    >>> lit = shade(np.zeros((3, 3), np.float32), [Light(0, 30)], Material(0, 1, 0, 1))
    >>> round(float(lit.diffuse[1, 1, 0]), 3)
    0.5
    """
    height = np.ascontiguousarray(height, np.float32)
    return _shaded(_UNKNOWN, height, lights, material or Material(), origin)


def shade_normals(
    normal: Array,
    lights: Sequence[Light],
    material: Material,
    height: Array | None = None,
    origin: tuple[float, float] = (0.0, 0.0),
) -> Shading:
    """`shade`, from unit normals (H, W, 3); without `height` the relief counts as flat for the
    places of lights."""
    flat = np.zeros(normal.shape[:2], np.float32) if height is None else height
    return _shaded(normal, flat, lights, material, origin)


def _shaded(
    normal: Array,
    height: Array,
    lights: Sequence[Light],
    material: Material,
    origin: tuple[float, float],
) -> Shading:
    colours = np.array(
        [[channel * light.strength for channel in light.colour] for light in lights], np.float32
    ).reshape(-1, 3)
    if (colours == colours[:, :1]).all():  # white and grey lights: one channel is all three
        colours = np.ascontiguousarray(colours[:, :1])
    channels = (*height.shape, colours.shape[1])
    diffuse, highlight = np.empty(channels, np.float32), np.empty(channels, np.float32)
    _shade(
        normal,
        height,
        np.array(origin, np.float32),
        light_table(lights),
        colours,
        np.float32(material.ambient),
        np.float32(material.diffuse),
        np.float32(material.highlight),
        np.float32(material.tightness),
        power_table(material.tightness),
        diffuse,
        highlight,
    )
    shape = (*height.shape, 3)
    return Shading(np.broadcast_to(diffuse, shape), np.broadcast_to(highlight, shape))


@kernel(parallel=True)
def _shade(  # type: ignore[no-untyped-def]
    normals, height, origin, table, colours, ambient, kd, ks, tightness, powers, diffuse, highlight
):
    rows, columns = height.shape
    none = np.float32(0)
    distant = all_distant(table[3])
    for line in numba.prange(rows):
        y = np.int64(line)
        if normals.shape[0] > 0:
            normal = normals[y]
        else:  # row by row, so that they stay in the processor's cache
            normal = np.empty((columns, 3), np.float32)
            normals_of_row(height, y, np.float32(1), normal)
        if distant:
            _shade_row(normal, table, colours, ambient, kd, ks, tightness, diffuse[y], highlight[y])
            continue
        for x in range(columns):
            nx, ny, nz = normal[x, 0], normal[x, 1], normal[x, 2]
            for c in range(colours.shape[1]):
                diffuse[y, x, c] = ambient
                highlight[y, x, c] = 0
            for i in range(colours.shape[0]):
                share, shine = answered(
                    i, nx, ny, nz, origin[0] + np.float32(x), origin[1] + np.float32(y),
                    height[y, x], table, none, True, ks > 0, powers,
                )  # fmt: skip
                for c in range(colours.shape[1]):
                    diffuse[y, x, c] += kd * share * colours[i, c]
                    highlight[y, x, c] += ks * shine * colours[i, c]


@kernel()
def _shade_row(normal, table, colours, ambient, kd, ks, tightness, diffuse, highlight):  # type: ignore[no-untyped-def]
    count = uneven(normal)
    shares, shines = np.empty(count, np.float32), np.empty(count, np.float32)
    diffuse[:], highlight[:] = ambient, 0
    for i in range(colours.shape[0]):
        answer_row(i, normal[:count], table, np.float32(0), True, tightness, shares, shines)
        for c in range(colours.shape[1]):
            falls, mirrored = kd * colours[i, c], ks * colours[i, c]
            for x in range(count):
                diffuse[x, c] += falls * shares[x]
                highlight[x, c] += mirrored * shines[x]
    go_on(diffuse, count)
    go_on(highlight, count)
