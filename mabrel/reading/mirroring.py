"""Whether a reflection can be seen on its floor."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import brightness, straight
from mabrel.reading.said import Reading, label_of, with_build
from mabrel.render import Cancel, Renderer
from mabrel.title import Placed, Step, Title, Wash

Array = NDArray[np.float32]
SEEN = 0.045
"""Difference of encoded brightness by which a soft picture is told from what it lies on."""
_SIDE = 320  # render pixels along the frame's longer side
_COVERED = 0.15  # share of a reflection's strongest part from which a place counts


class Mirror(NamedTuple):
    """Mean brightness (encoded, 0..1) and cover of a reflection, of the floor beneath it, that
    floor's colour, and by how much the reflection changes it."""

    bright: float
    cover: float
    floor: float
    colour: Array
    changes: float


def mirror_readings(
    renderer: Renderer, title: Title, layer: Placed, cancel: Cancel | None = None
) -> list[Reading]:
    """A warning for each reflection of the layer that its floor swallows, with the tone that
    would show it."""
    said = []
    for step in layer.build:
        if step.on and step.step == "ground.reflection":
            found = _mirror(renderer, title, layer, step, cancel)
            if found is not None and found.changes < SEEN:
                said.append(Reading("mirror", _said(step, found), True, layer.id, step.id))
    return said


def _mirror(
    renderer: Renderer, title: Title, layer: Placed, step: Step, cancel: Cancel | None
) -> Mirror | None:
    scale = min(_SIDE / max(title.frame.width, title.frame.height), 1.0)
    title = _unwashed(title)
    without = with_build(title, layer, [each for each in layer.build if each.id != step.id])
    settings = {**step.settings, "show": "alone"}
    until = layer.build[: layer.build.index(step)]
    only = with_build(title, layer, [*until, step.model_copy(update={"settings": settings})])
    mirrored = renderer.render(only, layer=layer.id, alone=True, scale=scale, cancel=cancel).pixels
    shown = renderer.render(title, scale=scale, cancel=cancel).pixels
    floor = renderer.render(without, scale=scale, cancel=cancel).pixels
    body = renderer.render(without, layer=layer.id, alone=True, scale=scale, cancel=cancel).pixels
    covered = max(_COVERED * float(mirrored[..., 3].max()), 1 / 255)
    where = (mirrored[..., 3] > covered) & (body[..., 3] < 0.1) & (floor[..., 3] > 0.9)
    if where.sum() < 20:
        return None
    weight = mirrored[..., 3][where]

    def mean(values: Array) -> float:
        return float(np.average(values, weights=weight))

    changes = np.abs(brightness(shown)[where] - brightness(floor)[where])
    return Mirror(
        bright=mean(brightness(straight(mirrored))[where]),
        cover=float(np.average(weight, weights=weight)),
        floor=mean(brightness(floor)[where]),
        colour=np.average(straight(floor)[where], axis=0, weights=weight),
        changes=mean(changes),
    )


def _unwashed(title: Title) -> Title:
    """Washes treat reflection and floor alike."""
    layers = [
        layer.model_copy(update={"visible": False}) if isinstance(layer, Wash) else layer
        for layer in title.layers
    ]
    return title.model_copy(update={"layers": layers})


def _said(step: Step, mirror: Mirror) -> str:
    found = f"{label_of(step)} can't be seen on this floor ({_code(mirror.colour)})"
    apart = 1.6 * SEEN / max(mirror.cover, 1e-3)
    darker, lighter = mirror.bright - apart, mirror.bright + apart
    if darker > 0.01:
        tone = _code(_toned(mirror.colour, darker))
        return f"{found}: a floor as dark as {tone} or darker would show it."
    if lighter < 0.95:
        tone = _code(_toned(mirror.colour, lighter))
        return f"{found}: what it mirrors is dark, so a floor as light as {tone} would show it."
    return f"{found}: it is too faint for any floor; raise its opacity."


def _toned(colour: Array, bright: float) -> Array:
    """The colour at another brightness."""
    now = float(brightness(colour[None])[0])
    return np.asarray(np.clip(colour * (bright / max(now, 1e-3)), 0, 1), np.float32)


def _code(colour: Array) -> str:
    red, green, blue = (round(float(min(max(channel, 0), 1)) * 255) for channel in colour)
    return f"#{red:02x}{green:02x}{blue:02x}"
