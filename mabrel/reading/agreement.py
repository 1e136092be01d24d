"""Whether all shading and all shadows come from the same light."""

import math
from collections.abc import Iterator
from typing import NamedTuple

from mabrel.camera import light_at
from mabrel.light import Light
from mabrel.reading.said import Reading, joined, label_of
from mabrel.steps import kind_of, settings_at
from mabrel.title import Layer, Step, Title

FLOOR_SHADOW = "away from the light on the floor"
TOLERANCE = 25.0
"""Degrees by which two directions may differ before the eye sees two lights."""


class Own(NamedTuple):
    """The direction towards a step's own light, in degrees: in the picture's plane, or on the
    floor, from the right over what comes nearer."""

    azimuth: float
    on_floor: bool


class Lit(NamedTuple):
    """A step that is lit: `own` is None where it follows the title's lights."""

    layer: Layer
    step: Step
    own: Own | None


def light_readings(title: Title) -> list[Reading]:
    """Lights that light nothing, steps that don't agree with the key light, or that all do."""
    found = list(_behind(title))
    lit = list(lit_steps(title))
    if not lit:
        return found
    if not title.lights:
        text = f"There is no light: {joined(_names(lit))} {'are' if len(lit) > 1 else 'is'} unlit."
        return [Reading("light", text, True, lit[0].layer.id, lit[0].step.id)]
    key = light_at(title.lights[0], title, 0.0)
    apart = [each for each in lit if _differs(each, key)]
    found += [_said(each, key, title.lights[0].name) for each in apart]
    if not found and len(lit) > 1:
        name = title.lights[0].name or "one"
        text = f"{joined(_names(lit))} agree: their light is {name}."
        found.append(Reading("light", text, light=title.lights[0].id))
    return found


def _names(lit: list[Lit]) -> list[str]:
    names = list(dict.fromkeys(label_of(each.step) for each in lit))
    return [names[0], *(name.lower() for name in names[1:])]


def lit_steps(title: Title) -> Iterator[Lit]:
    """Every step of a visible layer that a light takes part in."""
    for layer in title.layers:
        for step in layer.build if layer.visible else ():
            if step.on and kind_of(step.step).lit:
                yield Lit(layer, step, _own_light(step))


def _own_light(step: Step) -> Own | None:
    """Where a step says that its own light stands. A rim light, highlights only, may differ."""
    settings = settings_at(step, 0.0)
    if getattr(settings, "parts", "") == "highlights":
        return None
    for name, field in type(settings).model_fields.items():
        extra = field.json_schema_extra
        if not isinstance(extra, dict) or "direction" not in extra:
            continue
        when = extra.get("when")
        if isinstance(when, dict) and any(
            getattr(settings, other) not in str(said).split("|") for other, said in when.items()
        ):
            continue
        angle = float(getattr(settings, name))
        on_floor = extra["direction"] == FLOOR_SHADOW
        return Own(angle if extra["direction"] == "towards the light" else angle + 180, on_floor)
    return None


def _differs(lit: Lit, key: Light) -> bool:
    return lit.own is not None and abs(_apart(lit.own.azimuth, _azimuth(lit.own, key))) > TOLERANCE


def _azimuth(own: Own, key: Light) -> float:
    """Of the key light, measured as a step's own is."""
    if not own.on_floor:
        return key.azimuth
    x, _, z = key.direction
    return math.degrees(math.atan2(z, x))


def _apart(a: float, b: float) -> float:
    return (a - b + 180) % 360 - 180


def _said(lit: Lit, key: Light, name: str) -> Reading:
    assert lit.own is not None
    off = abs(_apart(lit.own.azimuth, _azimuth(lit.own, key)))
    text = (
        f"{label_of(lit.step)} on {lit.layer.name or lit.layer.kind} is lit from "
        f"{lit.own.azimuth % 360:.0f}°, {off:.0f}° away from {name or 'the first light'}."
    )
    return Reading("light", text, True, lit.layer.id, lit.step.id)


def _behind(title: Title) -> Iterator[Reading]:
    for light in title.lights:
        if light_at(light, title, 0.0).elevation <= 0:
            text = f"{light.name or light.id} stands behind the lettering and lights nothing."
            yield Reading("light", text, True, light=light.id)
