"""Shading: a plane, a sphere, and light from behind."""

import math

import numpy as np
import pytest

from mabrel.field import normals
from mabrel.light import Light, Material, relative_shading, shade
from mabrel.light.shading import shade_normals
from tests.engine.shapes import centres


def plane(slope_x: float, slope_y: float) -> np.ndarray:
    x, y = centres((20, 24))
    return (slope_x * x + slope_y * y).astype(np.float32)


def half_sphere(radius: float, size: int) -> np.ndarray:
    x, y = centres((size, size))
    middle = (size - 1) / 2
    away = (x - middle) ** 2 + (y - middle) ** 2
    return np.sqrt(np.maximum(radius**2 - away, 0)).astype(np.float32)


@pytest.mark.parametrize("slope", [(0, 0), (0.5, 0), (-1, 2), (0.3, -0.3)])
@pytest.mark.parametrize("light", [Light(225, 45), Light(300, 40), Light(100, 80)])
def test_a_plane_is_lit_by_the_cosine(slope: tuple[float, float], light: Light) -> None:
    normal = np.array([-slope[0], -slope[1], 1.0])
    normal /= np.linalg.norm(normal)
    lit = shade(plane(*slope), [light], Material(diffuse=0.8, highlight=0.5, tightness=12))
    facing = max(float(normal @ np.array(light.direction)), 0.0)
    half = np.array(light.direction) + np.array([0, 0, 1])
    half /= np.linalg.norm(half)
    shine = 0.5 * max(float(normal @ half), 0.0) ** 12 if facing > 0 else 0.0
    assert lit.diffuse[10, 12] == pytest.approx([0.8 * facing] * 3, abs=1e-5)
    assert lit.highlight[10, 12] == pytest.approx([shine] * 3, abs=1e-5)


def test_a_sphere_is_brightest_where_its_normal_is_the_lights_direction() -> None:
    radius, size = 60, 141
    light = Light(225, 45)
    lit = shade(half_sphere(radius, size), [light], Material(highlight=0)).diffuse[..., 0]
    inside = half_sphere(radius, size) > 8
    y, x = np.unravel_index(np.where(inside, lit, 0).argmax(), lit.shape)
    reach = radius * math.cos(math.radians(45)) * math.cos(math.radians(45))
    assert (x - 70, y - 70) == pytest.approx((-reach, -reach), abs=3)


def test_a_sphere_is_lit_by_its_normals_all_over() -> None:
    radius, size = 60, 141
    height = half_sphere(radius, size)
    x, y = centres((size, size))
    light = Light(300, 35)
    direction = np.array(light.direction)
    truth = np.maximum(
        ((x - 70) * direction[0] + (y - 70) * direction[1] + height * direction[2]) / radius, 0
    )
    lit = shade(height, [light], Material(highlight=0)).diffuse[..., 0]
    safe = np.hypot(x - 70, y - 70) < 0.9 * radius
    assert np.abs(lit - truth)[safe].max() < 0.02


def test_a_light_behind_the_lettering_lights_nothing() -> None:
    lit = shade(half_sphere(20, 61), [Light(225, -10)])
    assert lit.diffuse.max() == 0
    assert lit.highlight.max() == 0
    assert relative_shading(normals(half_sphere(20, 61)), [Light(225, -10)], 20).tone.max() == 0


def test_lights_add_up_and_have_their_colours() -> None:
    red, blue = Light(0, 50, (1, 0, 0)), Light(180, 50, (0, 0, 1), 0.5)
    both = shade(plane(0.2, 0.1), [red, blue]).diffuse
    assert both[..., 0] == pytest.approx(shade(plane(0.2, 0.1), [red]).diffuse[..., 0])
    assert both[..., 2] == pytest.approx(shade(plane(0.2, 0.1), [blue]).diffuse[..., 2])
    assert both[..., 1].max() == 0


@pytest.mark.parametrize("elevation", [10, 30, 45, 60, 85, 90])
def test_a_flat_surface_keeps_its_tone_whatever_the_light(elevation: float) -> None:
    tone = relative_shading(normals(plane(0, 0)), [Light(40, elevation)], 20).tone
    assert tone == pytest.approx(np.full_like(tone, 0.5), abs=1e-5)


def test_tone_rises_smoothly_from_turned_away_to_facing_the_light() -> None:
    slopes = np.linspace(-3, 3, 400)
    light = [Light(0, 45)]
    tones = np.array(
        [relative_shading(normals(plane(-slope, 0)), light, 20).tone[10, 12] for slope in slopes]
    )
    facing = slopes < 1  # 45°: there the slope looks into the light
    rise = np.diff(tones)
    assert (rise[facing[1:]] >= 0).all()
    assert np.abs(np.diff(rise)).max() < 0.004  # no crease


def test_a_rim_is_lit_as_the_relief_is_and_not_as_the_cliff_beside_it() -> None:
    height = np.full((30, 40), 9.0, np.float32)
    inside = np.zeros((30, 40), np.float32)
    inside[8:22, 8:32] = 1
    flat = normals(height * inside, inside)
    assert flat[8:22, 8:32, 2] == pytest.approx(np.ones((14, 24)))
    cliff = normals(height * inside)
    assert cliff[15, 8, 2] < 0.5


@pytest.mark.parametrize("place", [None, (10.0, 5.0, 30.0)])
def test_what_is_even_looks_the_same_along_rows_and_along_columns(place: object) -> None:
    """Beside its like a pixel under distant lights is not worked out again."""
    height = np.zeros((40, 60), np.float32)
    height[10:30, 15:45] = np.linspace(0, 9, 20)[:, None]
    relief = normals(height)
    lights = [Light(200, 40, colour=(1, 0.6, 0.3), place=place), Light(20, 15)]  # type: ignore[arg-type]
    lit = shade_normals(relief, lights, Material(0.1, 1, 0.7, 12), height)
    for row in (5, 18, 35):
        for column in (0, 16, 30, 59):
            alone = shade_normals(
                np.ascontiguousarray(relief[row : row + 1, column : column + 1]), lights,
                Material(0.1, 1, 0.7, 12), height[row : row + 1, column : column + 1],
                (float(column), float(row)),
            )  # fmt: skip
            assert lit.diffuse[row, column] == pytest.approx(alone.diffuse[0, 0], abs=1e-6)
            assert lit.highlight[row, column] == pytest.approx(alone.highlight[0, 0], abs=1e-6)
