"""From a title at a time to what has to be calculated, with a key for each result."""

import hashlib
import json
import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from mabrel.colour import rgb_and_alpha
from mabrel.light import Light
from mabrel.render.camera import Card, card_at
from mabrel.source import LetteringStyle
from mabrel.steps import Region, StepKind, StepSettings, kind_of, settings_at
from mabrel.title import (
    Backdrop,
    DistantLight,
    Layer,
    Lettering,
    LetteringSource,
    Placement,
    Step,
    Title,
    value_at,
)

LIGHT_STAGES = ("shape", "relief", "light")


@dataclass(frozen=True)
class PlannedStep:
    """A step with its settings evaluated; `key` stands for its whole result."""

    id: str
    kind: StepKind
    settings: StepSettings
    strength: float
    key: str


@dataclass(frozen=True)
class PlannedLayer:
    """A layer evaluated at a time, ready to be rendered."""

    layer: Layer
    opacity: float
    face_opacity: float
    card: Card
    scale: float
    """Render pixels for a pixel of length in its settings."""
    origin: tuple[int, int]
    """Where the layer's centre lies in the picture: whole render pixels from the frame's
    centre. Turned cards keep 0 and are moved by their homography."""
    shift: tuple[float, float]
    """What is left of it, below the pixel."""
    lights: tuple[Light, ...]
    lettering: tuple[str, LetteringStyle] | None
    ground: str | None
    key: str
    steps: tuple[PlannedStep, ...]

    @property
    def tracks_added(self) -> bool:
        return self.face_opacity < 1


def plan_layer(
    title: Title,
    layer: Layer,
    *,
    time: float,
    scale: float,
    region: Region,
    until: str | None = None,
    before: str | None = None,
    stages: Sequence[str] | None = None,
) -> PlannedLayer:
    """Plan one layer at `time` seconds; `region` is the part of the frame that is rendered.

    `until` is the id of the last step that counts, `before` that of the first which doesn't,
    `stages` the only ones that do.
    """
    placement = layer.placement if isinstance(layer, Lettering) else Placement()
    card = card_at(placement, title.camera, time)
    unit = scale * (card.magnification if isinstance(layer, Lettering) else 1.0)
    origin, shift = _place(card, scale)
    lights = card.lights([evaluated(light, time) for light in title.lights])
    face_opacity = value_at(layer.face_opacity, time) if isinstance(layer, Lettering) else 1.0
    lettering, ground = None, None
    if isinstance(layer, Lettering):
        lettering = (layer.source.text, _style(layer.source, time, unit))
    elif isinstance(layer, Backdrop):
        ground = value_at(layer.source.colour, time)
    source = {
        "kind": layer.kind,
        "lettering": lettering and [lettering[0], asdict(lettering[1])],
        "ground": ground,
        "shift": shift if lettering else None,
        "region": None if lettering else region,
        "frame": [title.frame.width, title.frame.height, scale],
        "added": face_opacity < 1,
    }
    key = _key(source)
    return PlannedLayer(
        layer=layer,
        opacity=value_at(layer.opacity, time),
        face_opacity=face_opacity,
        card=card,
        scale=unit,
        origin=origin,
        shift=shift,
        lights=lights,
        lettering=lettering,
        ground=ground,
        key=key,
        steps=_steps(_part(layer.build, until, before, stages), key, time, unit, lights, card),
    )


def _place(card: Card, scale: float) -> tuple[tuple[int, int], tuple[float, float]]:
    if card.turned:
        return (0, 0), (0.0, 0.0)
    x, y = (axis * scale for axis in card.centre)
    whole = math.floor(x + 0.5), math.floor(y + 0.5)
    return whole, (round(x - whole[0], 6), round(y - whole[1], 6))


def evaluated(light: DistantLight, time: float) -> Light:
    colour, alpha = rgb_and_alpha(value_at(light.colour, time))
    return Light(
        value_at(light.azimuth, time),
        value_at(light.elevation, time),
        colour,
        value_at(light.strength, time) * alpha,
    )


def _style(source: LetteringSource, time: float, unit: float) -> LetteringStyle:
    return LetteringStyle(
        source.font,
        source.style,
        value_at(source.size, time) * unit,
        value_at(source.letter_spacing, time) * unit,
        value_at(source.line_spacing, time),
        source.align,
    )


def _part(
    build: Sequence[Step], until: str | None, before: str | None, stages: Sequence[str] | None
) -> list[Step]:
    ids = [step.id for step in build]
    end = len(build)
    if until in ids:
        end = ids.index(until) + 1
    if before in ids:
        end = min(end, ids.index(before))
    part = [step for step in build[:end] if step.on]
    return [step for step in part if stages is None or kind_of(step.step).stage in stages]


def _steps(
    build: Sequence[Step],
    key: str,
    time: float,
    unit: float,
    lights: tuple[Light, ...],
    card: Card,
) -> tuple[PlannedStep, ...]:
    """The steps evaluated; each one's key holds all that its result depends on."""
    planned = []
    for step in build:
        kind = kind_of(step.step)
        strength = value_at(step.strength, time)
        if strength <= 0:
            continue
        settings = settings_at(step, time)
        seen: dict[str, Any] = {
            "after": key,
            "step": kind.name,
            "settings": settings.model_dump(mode="json"),
            "strength": strength,
            "scale": unit,
            "viewer": card.viewer_distance,
        }
        if kind.lit:
            seen["lights"] = [asdict(light) for light in lights]
        key = _key(seen)
        planned.append(PlannedStep(step.id, kind, settings, strength, key))
    return tuple(planned)


def _key(seen: dict[str, Any]) -> str:
    return hashlib.sha256(json.dumps(seen, sort_keys=True).encode()).hexdigest()
