"""A blur that differs from place to place."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from mabrel.field.blur import gaussian_blur

Array = NDArray[np.float32]
_LEVELS = 6


def _go_on() -> None:
    pass


def varying_blur(image: Array, sigma: Array, pause: Callable[[], None] = _go_on) -> Array:
    """Blur (H, W) or (H, W, C) by a Gaussian of its own σ in pixels at each place ((H, W)).

    Between blurs whose σ grow by equal steps of their square root, the two nearest are mixed by
    their variance: the mix has the variance asked for. What lies beyond the border is 0. `pause`
    is called between the blurs, and may raise to give up.
    """
    most, least = float(sigma.max()), float(sigma.min())
    if most - least < 0.05:
        return gaussian_blur(image, most)
    sizes = least + (most - least) * np.linspace(0, 1, _LEVELS) ** 2
    out = np.zeros_like(image)
    variance = sigma * sigma
    before: tuple[float, Array] | None = None
    for size in sizes:
        pause()
        blurred = gaussian_blur(image, float(size))
        if before is None:
            out[:] = blurred
        else:
            low, high = np.float32(before[0] ** 2), np.float32(size**2)
            share = np.clip((variance - low) / np.float32(max(float(high - low), 1e-6)), 0, 1)
            share = share if image.ndim == 2 else share[..., None]
            within = variance > low if image.ndim == 2 else (variance > low)[..., None]
            mixed = before[1] + (blurred - before[1]) * share
            np.copyto(out, mixed, where=within)
        before = (float(size), blurred)
    return out
