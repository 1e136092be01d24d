"""What the frame cuts off."""

import numpy as np
from numpy.typing import NDArray

from mabrel.reading.said import Reading, joined, px, with_build
from mabrel.render import Cancel, Renderer, Window
from mabrel.steps import kind_of
from mabrel.title import Placed, Step, Title

_SIDE = 420  # render pixels along the frame's longer side
_ROOM = 0.25  # of the frame, looked at around it
_SEEN = 0.08  # coverage from which something counts


def frame_readings(
    renderer: Renderer, title: Title, layer: Placed, cancel: Cancel | None = None
) -> list[Reading]:
    """The sides at which lettering, or what its steps put around it, leaves the frame."""
    frame = title.frame
    scale = _SIDE / max(frame.width, frame.height)
    across, down = frame.width * _ROOM, frame.height * _ROOM
    window = Window(-across, -down, frame.width + 2 * across, frame.height + 2 * down)
    room = (round(across * scale), round(down * scale))

    def beyond(coverage: NDArray[np.float32]) -> dict[str, float]:
        return {side: far / scale for side, far in _beyond(coverage, room).items()}

    matte = renderer.fields(title, layer.id, scale=scale, window=window, cancel=cancel).matte
    lettering = beyond(matte)
    name = layer.name or layer.kind
    if lettering:
        text = f"{name} is cut off by the frame {_said(lettering)}."
        return [Reading("frame", text, True, layer.id)]
    alone = renderer.render(
        _bounded(title, layer),
        layer=layer.id,
        alone=True,
        scale=scale,
        window=window,
        cancel=cancel,
    )
    around = beyond(np.asarray(alone.pixels[..., 3], np.float32))
    if not around:
        return []
    text = f"What lies around {name} (sides, shadows) is cut off by the frame {_said(around)}."
    return [Reading("frame", text, True, layer.id)]


def _bounded(title: Title, layer: Placed) -> Title:
    """Without what is meant to leave the frame: light in the lens, and what lies on the floor."""

    def stays(step: Step) -> bool:
        kind = kind_of(step.step)
        return kind.stage != "lens" and not kind.falls_on_surroundings

    return with_build(title, layer, [step for step in layer.build if stays(step)])


def _said(sides: dict[str, float]) -> str:
    return joined([f"at the {side} by {px(far)}" for side, far in sides.items()])


def _beyond(coverage: NDArray[np.float32], room: tuple[int, int]) -> dict[str, float]:
    """How far it reaches out at each side, in pixels; what leaves the window counts up to there."""
    across, down = room
    rows = np.flatnonzero((coverage > _SEEN).any(axis=1))
    columns = np.flatnonzero((coverage > _SEEN).any(axis=0))
    if rows.size == 0:
        return {}
    height, width = coverage.shape
    sides = {
        "left": across - columns[0],
        "right": columns[-1] - (width - across - 1),
        "top": down - rows[0],
        "bottom": rows[-1] - (height - down - 1),
    }
    return {side: float(far) for side, far in sides.items() if far > 1}
