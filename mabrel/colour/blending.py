"""Pictures laid over one another in a blend mode; the modes themselves are in `modes`."""

import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.modes import MODES, mode_index
from mabrel.colour.rows import composite_channels, composite_row, goes_by_channels
from mabrel.kernels import kernel

Array = NDArray[np.float32]

__all__ = ["MODES", "blend", "blend_colour", "blend_into", "covering", "over"]


def blend(mode: str, backdrop: Array, source: Array) -> Array:
    """Lay one picture over another in a blend mode.

    Parameters
    ----------
    mode : str
        One of `MODES`: those of the W3C [1]_, and those that the trade uses besides (see the
        module).
    backdrop, source : (H, W, 4) float32
        Premultiplied, sRGB-encoded.

    Returns
    -------
    (H, W, 4) float32
        A new array, premultiplied.

    Raises
    ------
    ValueError
        For an unknown mode.

    References
    ----------
    .. [1] Compositing and Blending Level 1, https://www.w3.org/TR/compositing-1/

    Examples
    --------
    >>> import numpy as np
    >>> grey, red = np.zeros((2, 1, 1, 4), np.float32)
    >>> grey[:], red[:] = (0.5, 0.5, 0.5, 1), (1, 0, 0, 1)
    >>> blend("multiply", grey, red)[0, 0].tolist()
    [0.5, 0.0, 0.0, 1.0]
    """
    out = np.empty(backdrop.shape, np.float32)
    _blend(mode_index(mode), backdrop, source, out)
    return out


def blend_into(mode: str, canvas: Array, source: Array, top: int, left: int) -> None:
    """`blend` in place: lay a picture over a canvas (H, W, 4), its first pixel on the row `top` and
    the column `left` of that; what lies beyond is left out."""
    _blend_into(mode_index(mode), canvas, source, top, left)


def blend_colour(
    mode: str, backdrop: Array, colour: tuple[float, float, float], coverage: Array
) -> Array:
    """Lay one straight RGB `colour` over `backdrop`, as much as `coverage` ((H, W), 0..1)."""
    out = np.empty(backdrop.shape, np.float32)
    red, green, blue = (np.float32(channel) for channel in colour)
    _blend_colour(mode_index(mode), backdrop, red, green, blue, coverage, out)
    return out


def covering(picture: NDArray[np.float32]) -> NDArray[np.float32]:
    """Premultiplied RGBA (H, W, 4) in which light without cover, such as an added glow, covers as
    much as it is bright."""
    alpha = np.maximum(picture[..., 3], np.minimum(picture[..., :3].max(axis=2), 1))
    return np.concatenate([picture[..., :3], alpha[..., None]], axis=2)


def over(backdrop: Array, source: Array) -> Array:
    """`blend("normal", …)`."""
    return blend("normal", backdrop, source)


@kernel(parallel=True)
def _blend(mode, backdrop, source, out):  # type: ignore[no-untyped-def]
    for line in numba.prange(backdrop.shape[0]):
        y = np.int64(line)
        composite_row(mode, backdrop[y], source[y], out[y])


@kernel(parallel=True)
def _blend_into(mode, canvas, source, top, left):  # type: ignore[no-untyped-def]
    first, last = max(left, 0), min(left + source.shape[1], canvas.shape[1])
    for line in numba.prange(max(top, 0), min(top + source.shape[0], canvas.shape[0])):
        y = np.int64(line)
        if last > first:
            row = canvas[y, first:last]
            composite_row(mode, row, source[y - top, first - left : last - left], row)


@kernel(parallel=True)
def _blend_colour(mode, backdrop, red, green, blue, coverage, out):  # type: ignore[no-untyped-def]
    rows, columns = backdrop.shape[:2]
    for line in numba.prange(rows):
        y = np.int64(line)
        most = np.float32(0)
        for x in range(columns):
            most = max(most, coverage[y, x])
        if most <= np.float32(0):
            out[y] = backdrop[y]
            continue
        if goes_by_channels(mode):
            planes = np.empty((8, columns), np.float32)
            planes[4], planes[5], planes[6], planes[7] = red, green, blue, coverage[y]
            composite_channels(mode, backdrop[y], planes, out[y])
            continue
        source = np.empty((columns, 4), np.float32)
        for x in range(columns):
            share = coverage[y, x]
            source[x, 0], source[x, 1] = red * share, green * share
            source[x, 2], source[x, 3] = blue * share, share
        composite_row(mode, backdrop[y], source, out[y])
