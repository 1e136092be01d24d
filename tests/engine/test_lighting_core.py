"""One lighting for faces and sides, held against its formula."""

import math

import numpy as np
import pytest

from mabrel.field.body import SIDE, Rays, Seen, march
from mabrel.light import Light, Material, Relief, relative_shading, shade_normals
from mabrel.light.table import light_table
from mabrel.steps.sides.paint import Facing, Lit, lit_up
from mabrel.steps.sides.way import Way
from tests.engine.shapes import centres

SIZE, RADIUS = 161, 70
MIDDLE = SIZE / 2
POINT = Light(place=(-60, -90, 80), colour=(1, 1, 1))
SPOT = Light(place=(20, -40, 160), aim=(0, 0, 40), cone=30, gathered=2)
RIGS = {
    "point": [POINT],
    "spot": [SPOT],
    "two": [Light(200, 35, (1, 0.3, 0.2)), Light(30, 50, (0.2, 0.4, 1), 0.7)],
    "low": [Light(225, 3)],
}


def received(normal: np.ndarray, place: np.ndarray, light: Light, wrap: float, stands: bool):
    """The formula, in NumPy and apart from the engine's: (H, W) of received light, (H, W, 3) L."""
    to = np.broadcast_to(np.array(light.direction), place.shape)
    sent = np.ones(place.shape[:2])
    if light.place is not None:
        to = np.array(light.place) - place
        to = to / np.linalg.norm(to, axis=-1, keepdims=True)
    if light.aim is not None:
        axis = np.subtract(light.aim, light.place)
        along = -(to @ (axis / np.linalg.norm(axis)))
        edge = np.clip((along - math.cos(math.radians(light.cone))) / 0.016 + 0.5, 0, 1)
        sent = edge * np.maximum(along, 0) ** light.gathered
    if stands:
        up = np.clip(to[..., 2] / 0.3 + 0.5, 0, 1)
        sent = sent * (up * up * (3 - 2 * up)) ** 2
    cosine = ((normal * to).sum(-1) + wrap) / (1 + wrap)
    soft = np.clip(cosine + 0.06, 0, 0.12) ** 2 / 0.24
    return sent * np.where(cosine > 0.06, cosine, soft), to


def half_sphere() -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Normals and places of a half sphere, and where it is."""
    x, y = centres((SIZE, SIZE))
    x, y = x + 0.5 - MIDDLE, y + 0.5 - MIDDLE
    inside = np.hypot(x, y) < RADIUS - 1
    z = np.sqrt(np.maximum(RADIUS**2 - x * x - y * y, 0))
    place = np.stack([x, y, z], -1)
    normal = np.where(inside[..., None], place / RADIUS, [0, 0, 1])
    return normal.astype(np.float32), place, inside


def tone_of(light: np.ndarray, lights: list[Light], level: float, flat: float, shoulder: float):
    """The exposure that is documented, apart from the engine's."""
    strengths = sum(each.strength for each in lights)
    gain = 1 / max(flat / level, 1) ** shoulder
    bias = (2 * level - 1) / (1 - level)

    def straight(e):
        e = np.asarray(e) * gain
        return np.where(e < 1, e / (bias * (1 - np.minimum(e, 1)) + 1), 1 + (1 + bias) * (e - 1))

    knee, tone = 1 - shoulder / 2, straight(light)
    bent, white = shoulder / 2, max(float(straight(strengths)), 1)
    u, w = (tone - knee) / bent, (white - knee) / bent
    return np.where(tone <= knee, tone, knee + bent * u * (1 + u / w**2) / (1 + u))


@pytest.mark.parametrize("rig", RIGS)
def test_a_half_sphere_is_lit_by_the_formula(rig: str) -> None:
    lights = RIGS[rig]
    normal, place, inside = half_sphere()
    height, origin = place[..., 2].astype(np.float32), (0.5 - MIDDLE, 0.5 - MIDDLE)
    seen = shade_normals(normal, lights, Material(0, 1, 1, 18), height, origin)
    diffuse, shine = np.zeros((SIZE, SIZE, 3)), np.zeros((SIZE, SIZE, 3))
    for light in lights:
        share, to = received(normal, place, light, 0, True)
        half = to + np.array([0, 0, 1])
        half /= np.linalg.norm(half, axis=-1, keepdims=True)
        facing = np.clip((normal * to).sum(-1) / 0.06, 0, 1)
        sent, _ = received(to, place, light, 0, True)  # a surface that faces the light
        mirrored = (
            sent * facing**2 * (3 - 2 * facing) * np.clip((normal * half).sum(-1), 0, 1) ** 18
        )
        diffuse += share[..., None] * np.array(light.colour) * light.strength
        shine += mirrored[..., None] * np.array(light.colour) * light.strength
    assert np.abs(seen.diffuse - diffuse)[inside].max() < 1 / 255
    assert np.abs(seen.highlight - shine)[inside].max() < 1 / 255


@pytest.mark.parametrize("rig", ["point", "two"])
def test_a_relief_gets_the_tone_of_the_formula(rig: str) -> None:
    lights = RIGS[rig]
    normal, place, inside = half_sphere()
    relief = Relief(place[..., 2].astype(np.float32), (0.5 - MIDDLE, 0.5 - MIDDLE))
    seen = relative_shading(normal, lights, 20, shoulder=0.75, relief=relief)
    light = sum(each.strength * received(normal, place, each, 0, True)[0] for each in lights)
    flat = sum(each.strength * each.direction[2] for each in lights)
    tone = tone_of(light, lights, lights[0].direction[2], flat, 0.75)
    assert np.abs(seen.tone - tone)[inside].max() < 1 / 255


def cylinder(length: float) -> tuple[Seen, np.ndarray, np.ndarray]:
    """A disc pushed straight down, and the pixels' places from its centre."""
    x, y = centres((SIZE + 80, SIZE))
    x, y = x + 0.5 - MIDDLE, y + 0.5 - MIDDLE
    distance = (np.hypot(x, y) - RADIUS).astype(np.float32)
    # Places count from the disc's centre, which lies half a pixel beside a corner of the array.
    rays = Way((0.0, 1.0), length).rays(length)
    rays.start[0, 2] = rays.start[1, 2] = 0.0
    seen = march(
        distance, distance, (0, 0), length=length, profile=np.zeros(2, np.float32),
        rays=Rays(rays.start, rays.way), pixels=(x + MIDDLE, y + MIDDLE),
    )  # fmt: skip
    seen.place[..., :2] -= np.float32(MIDDLE)
    return seen, x, y


def lighted(seen: Seen, grey: float, lit: Lit) -> np.ndarray:
    colour = np.full((seen.what.size, 4), grey, np.float32)
    colour[:, 3] = 1
    colour[seen.what.ravel() != SIDE] = 0
    facing = Facing(seen.depth.ravel(), seen.normal.reshape(-1, 2), seen.place.reshape(-1, 3))
    lit_up(colour, facing, np.zeros(64, np.float32), lit)
    return colour[:, :3].reshape(*seen.what.shape, 3)


@pytest.mark.parametrize("rig", RIGS)
def test_the_sides_of_a_cylinder_are_lit_by_the_formula(rig: str) -> None:
    lights, length = RIGS[rig], 60.0
    seen, px, py = cylinder(length)
    response = np.linspace(0, 1, 256, dtype=np.float32)
    lit = Lit(tuple(lights), 0.6, 1.0, 0.75, response, 0.0, 20, 0.0, (0.0, 0.0, 1.0))
    shown = lighted(seen, 128 / 255, lit)
    cx, cy = px, py
    across = np.clip(cx / RADIUS, -1, 1)
    down = np.sqrt(1 - across**2)
    deep = (cy - down * RADIUS) / length
    normal = np.stack([across, down, np.zeros_like(across)], -1)
    place = np.stack([px, py - deep * length, -deep * length], -1)
    total, tint = np.zeros(cx.shape), np.zeros((*cx.shape, 3))
    for light in lights:
        share = received(normal, place, light, 1, False)[0] * light.strength
        total += share
        tint += share[..., None] * np.array(light.colour)
    flat = sum(each.strength * 0.5 * _sent(each) for each in lights)
    tone = tone_of(total, lights, 0.5, flat, 0.75)
    tinted = 1 + 0.6 * (tint / np.maximum(total, 1e-6)[..., None] - 1)
    truth = 128 / 255 * (1 + 0.6 * (2 * tone - 1))[..., None] * tinted
    safe = (deep > 0.06) & (deep < 0.94) & (np.abs(cx) < 0.9 * RADIUS) & (total > 0.01)
    assert safe.sum() > 4000
    assert np.abs(shown - truth)[safe].max() < 1 / 255


def _sent(light: Light) -> float:
    """The share of a light that is sent to the layer's centre."""
    none = np.zeros((1, 1, 3))
    towards = np.array(light.direction)[None, None]
    return float(received(towards, none, light, 0, False)[0][0, 0])


def test_coloured_lights_leave_coloured_highlights_on_sides() -> None:
    seen, _, _ = cylinder(30)
    response = np.linspace(0, 1, 256, dtype=np.float32)
    for channel, colour in enumerate([(1, 0, 0), (0, 1, 0), (0, 0, 1)]):
        rig = (Light(90, 30, colour),)
        lit = Lit(rig, 0.0, 1.0, 0.75, response, 1.0, 8, 0.0, (0.0, 900.0, 300.0))
        shown = lighted(seen, 0.0, lit)
        assert shown[..., channel].max() > 0.3
        assert shown.sum(axis=-1).max() == pytest.approx(shown[..., channel].max())


def test_two_lights_bend_but_do_not_burn_out() -> None:
    normal, _, inside = half_sphere()
    pair = [Light(225, 45), Light(45, 45)]
    burnt = relative_shading(normal, pair, 20, shoulder=0).tone[inside]
    bent = relative_shading(normal, pair, 20).tone[inside]
    assert (burnt > 0.999).mean() > 0.4
    assert (bent > 0.999).mean() < 0.001
    alone = relative_shading(normal, pair[:1], 20).tone[inside]
    plain = relative_shading(normal, pair[:1], 20, shoulder=0).tone[inside]
    assert plain == pytest.approx(alone, abs=1e-6)


@pytest.mark.parametrize("azimuth", [0, 225])
def test_a_light_goes_down_behind_evenly(azimuth: float) -> None:
    """No jump from degree to degree, wherever a relief faces, and nothing is left at −10°."""
    normal, _, inside = half_sphere()
    tones = np.array([
        relative_shading(normal, [Light(azimuth, up)], 20).tone[inside] for up in range(8, -11, -1)
    ])  # fmt: skip
    assert np.abs(np.diff(tones, axis=0)).max() < 0.2
    assert (np.diff(tones.mean(axis=1)) <= 1e-6).all()
    assert tones[-1].max() == 0


def test_the_terminator_has_no_crease() -> None:
    grazing = np.radians(np.linspace(10, 30, 401))
    normal = np.stack([np.sin(grazing), np.zeros_like(grazing), np.cos(grazing)], -1)[None]
    lit = shade_normals(normal.astype(np.float32), [Light(180, 20)], Material(0, 1, 0, 1))
    steps = np.diff(lit.diffuse[0, :, 0], 2)
    assert lit.diffuse[0, 0, 0] > 0.1
    assert lit.diffuse[0, -1, 0] == 0
    assert np.abs(steps).max() < 0.1 * np.radians(20 / 400)  # a corner would give all of it


def test_a_table_is_made_once_for_the_same_lights_and_viewer() -> None:
    table = light_table([POINT, SPOT])
    assert light_table((Light(place=POINT.place, colour=POINT.colour), SPOT)) is table
    assert light_table([SPOT, POINT]) is not table
    aside = light_table([POINT, SPOT], (0.6, 0.0, 0.8))
    assert np.allclose(aside.viewer, (0.6, 0, 0.8))
    assert np.allclose(table.viewer, (0, 0, 1))
