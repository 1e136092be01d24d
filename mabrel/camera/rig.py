"""The rig at a time: lights evaluated, turned as one, and as the camera has them before it."""

from dataclasses import replace

import numpy as np

from mabrel.camera.card import swung
from mabrel.colour import rgb_and_alpha
from mabrel.light import Light
from mabrel.title import (
    DistantLight,
    Floor,
    Layer,
    Placed,
    PointLight,
    SpotLight,
    Title,
    TitleLight,
    value_at,
)


def lights_at(title: Title, layer: Layer, time: float) -> list[Light]:
    """The lights as the camera has them before it; for a backdrop they stay as they are."""
    lights = [light_at(each, title, time) for each in title.lights]
    if not isinstance(layer, Placed | Floor):
        return lights
    swing = swung(title.camera, time)
    level = np.allclose(swing, np.eye(3))
    return lights if level else [light.turned(swing) for light in lights]


def light_at(light: TitleLight, title: Title, time: float) -> Light:
    """A light at a time, after the rig was turned, and raised by what lifts its key light over
    the layer. Places are in frame pixels from the centre."""
    rig = title.rig
    turn, raised = value_at(rig.turn, time), value_at(rig.raised, time)
    own = _before_rig(light, title, time)
    if raised == 0 or light is title.lights[0]:
        return own.rigged(turn, raised, own.azimuth)
    return own.rigged(turn, raised, _before_rig(title.lights[0], title, time).azimuth)


def _before_rig(light: TitleLight, title: Title, time: float) -> Light:
    colour, alpha = rgb_and_alpha(value_at(light.colour, time))
    strength = value_at(light.strength, time) * alpha * value_at(title.rig.strength, time)
    if isinstance(light, DistantLight):
        plain = Light(
            value_at(light.azimuth, time), value_at(light.elevation, time), colour, strength
        )
    else:
        plain = _placed(light, time, colour, strength)
    return replace(plain, name=light.id)


def _placed(
    light: PointLight | SpotLight, time: float, colour: tuple[float, float, float], strength: float
) -> Light:
    place = (value_at(light.x, time), value_at(light.y, time), value_at(light.z, time))
    if isinstance(light, PointLight):
        return Light(colour=colour, strength=strength, place=place)
    return Light(
        colour=colour,
        strength=strength,
        place=place,
        aim=(value_at(light.to_x, time), value_at(light.to_y, time), value_at(light.to_z, time)),
        cone=value_at(light.cone, time),
        gathered=value_at(light.tightness, time),
    )
