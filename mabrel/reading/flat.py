"""A layer laid flat: its matte before and after steps, without the card's place and turn."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.reading.strip import strip_window
from mabrel.render import Cancel, Renderer, Window
from mabrel.title import Placed, Placement, Step, Title

Array = NDArray[np.float32]
_SIDE = 900  # render pixels along the longer side: strokes stay measurable, a reading stays quick


@dataclass(frozen=True)
class Flat:
    """One layer of `title` alone, on an unturned card in the middle of the frame.

    `scale` is in render pixels a frame pixel of the layer's own lengths.
    """

    renderer: Renderer
    title: Title
    layer: Placed
    window: Window
    scale: float
    cancel: Cancel | None = None

    def matte(self, before: str | None = None) -> Array:
        """Coverage (H, W) as the step with this id is given it, or at the end of the build."""
        return self.renderer.fields(
            self.title,
            self.layer.id,
            scale=self.scale,
            window=self.window,
            before=before,
            cancel=self.cancel,
        ).matte

    def after(self, step: Step) -> Array:
        """Coverage after one step of the build."""
        build = self.layer.build
        at = next(index for index, each in enumerate(build) if each.id == step.id)
        return self.matte(build[at + 1].id if at + 1 < len(build) else None)


def laid_flat(renderer: Renderer, title: Title, layer: Placed, cancel: Cancel | None) -> Flat:
    """`layer` without its placement; others stay for those that it refers to."""
    alone = layer.model_copy(update={"placement": Placement(), "visible": True})
    layers = [
        alone if each.id == layer.id else each.model_copy(update={"visible": False})
        for each in title.layers
    ]
    flat = title.model_copy(update={"layers": layers})
    window = strip_window(flat, title.frame.width / title.frame.height, room=1.6)
    scale = min(_SIDE / max(window.width, window.height), 4.0)
    return Flat(renderer, flat, alone, window, scale, cancel)
