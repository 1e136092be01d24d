"""The title held against the shot that it is made for: its light, and whether it can be read."""

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.camera import light_at
from mabrel.colour import to_linear
from mabrel.field import gaussian_blur
from mabrel.light import Light
from mabrel.reading.agreement import TOLERANCE
from mabrel.reading.said import Reading
from mabrel.render import Cancel, Renderer
from mabrel.title import Placed, Plate, Title

LEAST_CONTRAST = 1.5
"""Of two sides of an edge (as in WCAG 2), below which the edge is hard to see."""
_RUNS_IN = 0.15
"""The share of an outline from which that is told."""
_SIDE = 640  # render pixels along the frame's longer side
_NEAR = 3.0  # render pixels beside the edge that count
_GREEN = np.array([0.2126, 0.7152, 0.0722], np.float32)


class Edge(NamedTuple):
    """How much of an outline is hard to see, and how much brighter the lettering is than what
    lies beside it, as a ratio; both in the mean."""

    lost: float
    ratio: float


def plate_readings(
    renderer: Renderer, title: Title, layer: Placed, cancel: Cancel | None = None
) -> list[Reading]:
    """Whether the key light agrees with the shot's, and where the outline runs into the shot;
    nothing where no shot is shown."""
    plate = next((each for each in title.layers if isinstance(each, Plate) and each.visible), None)
    if plate is None:
        return []
    said = _of_light(title, plate)
    edge = edge_against(renderer, title, layer, cancel)
    if edge is not None and edge.lost > _RUNS_IN:
        text = (
            f"{edge.lost:.0%} of the outline of {layer.name or layer.kind} runs into the shot: "
            f"there is less than {LEAST_CONTRAST} to 1 between them."
        )
        said.append(Reading("plate", text, True, layer.id))
    elif edge is not None:
        text = (
            f"{layer.name or layer.kind} stands out from the shot: {edge.ratio:.1f} to 1 along "
            "its outline."
        )
        said.append(Reading("plate", text, layer=layer.id))
    return said


def _of_light(title: Title, plate: Plate) -> list[Reading]:
    shot = plate.source.light
    if shot is None or not title.lights:
        return []
    key = light_at(title.lights[0], title, 0.0)
    name = title.lights[0].name or "The first light"
    seen = Light(shot.azimuth, shot.elevation)
    off = _between(key.direction, seen.direction)
    if off <= TOLERANCE:
        text = f"{name} agrees with the shot's light, {off:.0f}° from it."
        return [Reading("light", text, layer=plate.id, light=title.lights[0].id)]
    text = (
        f"The shot is lit from {shot.azimuth % 360:.0f}°, {shot.elevation:.0f}° high: {name} "
        f"stands {off:.0f}° away from there."
    )
    return [Reading("light", text, True, plate.id, light=title.lights[0].id)]


def _between(a: tuple[float, float, float], b: tuple[float, float, float]) -> float:
    """Degrees between two unit vectors."""
    return math.degrees(math.acos(min(max(sum(x * y for x, y in zip(a, b, strict=True)), -1), 1)))


def edge_against(
    renderer: Renderer, title: Title, layer: Placed, cancel: Cancel | None = None
) -> Edge | None:
    """The contrast on both sides of a layer's outline as it is shown; None where it has none."""
    scale = min(_SIDE / max(title.frame.width, title.frame.height), 1.0)
    matte = renderer.fields(title, layer.id, scale=scale, cancel=cancel).matte
    picture = renderer.render(title, scale=scale, cancel=cancel).pixels
    light = to_linear(np.clip(picture[..., :3], 0, 1)) @ _GREEN
    edge = (matte > 0.25) & (matte < 0.75)
    if not edge.any():
        return None
    inside, outside = _beside(light, matte > 0.9), _beside(light, matte < 0.1)
    ratios = ((inside + 0.05) / (outside + 0.05))[edge]
    contrast = np.maximum(ratios, 1 / ratios)
    return Edge(float((contrast < LEAST_CONTRAST).mean()), float(np.median(contrast)))


def _beside(light: NDArray[np.float32], there: NDArray[np.bool_]) -> NDArray[np.float32]:
    """(H, W): the mean of what is there, near each place."""
    share = there.astype(np.float32)
    near = gaussian_blur(np.dstack([light * share, share]), _NEAR)
    return np.asarray(near[..., 0] / np.maximum(near[..., 1], 1e-4), np.float32)
