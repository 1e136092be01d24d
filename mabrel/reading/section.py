"""The relief cut open along a horizontal line."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness, straight
from mabrel.render import Cancel, Renderer, Window
from mabrel.title import Title

Array = NDArray[np.float32]


@dataclass(frozen=True)
class Section:
    """One value for each of as many places across the frame.

    `height` is in frame pixels above the card; `tone` the brightness (0..1) of the face, before
    the chosen step where there is one; both are NaN outside the lettering. `colours` is (N, 3),
    0..1, of the finished picture.
    """

    height: Array
    tone: Array
    colours: Array


def cut(
    renderer: Renderer,
    title: Title,
    layer: str,
    *,
    at: float,
    samples: int,
    before: str | None = None,
    time: float = 0.0,
    cancel: Cancel | None = None,
) -> Section:
    """Cut a layer open along y = `at` (frame pixels from the top), at `samples` places.

    `before` is the id of a step of the layer: the tone is what it is given. Raises what
    `Renderer.render` raises.
    """
    scale = samples / title.frame.width
    band = 1 / scale
    top = min(max(at - band / 2, 0.0), title.frame.height - band)
    window = Window(0, top, title.frame.width, band)
    row = renderer.render(title, time=time, scale=scale, window=window, cancel=cancel).pixels[0]
    done = renderer.fields(title, layer, time=time, scale=scale, window=window, cancel=cancel)
    given = renderer.fields(
        title, layer, time=time, scale=scale, window=window, before=before, cancel=cancel
    )
    inside = done.matte[0] > 0.5
    tone = brightness(straight(given.face[0]))
    return Section(
        np.where(inside, done.height[0], np.nan).astype(np.float32),
        np.where(inside, tone, np.nan).astype(np.float32),
        np.clip(row[:, :3], 0, 1),
    )
