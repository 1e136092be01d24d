"""Lights at places, spots, the rig turned as one, and the world mirrored."""

import math

import numpy as np
import pytest

from mabrel import Renderer, parse_title, render
from mabrel.camera import light_at
from mabrel.field import normals
from mabrel.light import Light, Material, Relief, mirrored, relative_shading, shade, world_of
from tests.engine.trial_titles import step, titled

FLAT = np.zeros((81, 81), np.float32)
ORIGIN = (-40.0, -40.0)  # so that the middle pixel's centre is (0, 0)
MATTE = Material(diffuse=1, highlight=0)


def lit(light: Light, height: np.ndarray = FLAT, material: Material = MATTE) -> np.ndarray:
    return shade(height, [light], material, ORIGIN).diffuse[..., 0]


class TestPointLight:
    @pytest.mark.parametrize("place", [(0, 0, 30), (20, -10, 15), (-60, 0, 50)])
    def test_it_shines_from_its_place(self, place: tuple[float, float, float]) -> None:
        """N·L with L = (light − surface) / |light − surface| (Filter Effects 1)."""
        seen = lit(Light(place=place))
        y, x = np.mgrid[-40:41, -40:41].astype(float)
        towards = np.stack([place[0] - x, place[1] - y, np.full_like(x, place[2])], axis=-1)
        expected = towards[..., 2] / np.linalg.norm(towards, axis=-1)
        assert seen == pytest.approx(expected, abs=1e-5)

    def test_a_raised_surface_is_nearer_to_it(self) -> None:
        raised = np.full_like(FLAT, 20)
        assert lit(Light(place=(30, 0, 25)), raised)[40, 40] < lit(Light(place=(30, 0, 25)))[40, 40]

    def test_below_the_surface_it_lights_nothing(self) -> None:
        assert lit(Light(place=(0, 0, -5))).max() == 0

    def test_far_away_it_is_a_distant_light(self) -> None:
        distant = Light(225, 40)
        place = tuple(1e6 * part for part in distant.direction)
        hill = np.random.default_rng(1).normal(0, 0.3, FLAT.shape).astype(np.float32).cumsum(axis=1)
        assert lit(Light(place=place), hill) == pytest.approx(lit(distant, hill), abs=1e-3)

    def test_seen_from_the_layer_it_has_a_direction(self) -> None:
        light = Light(place=(0, -10, 10))
        assert (light.azimuth, light.elevation) == pytest.approx((-90, 45))


class TestSpot:
    def test_nothing_outside_its_cone(self) -> None:
        """Inside, N·L · (−L·S)^specularExponent (Filter Effects 1, feSpotLight)."""
        spot = Light(place=(0, 0, 40), aim=(0, 0, 0), cone=30, gathered=3)
        seen = lit(spot)
        y, x = np.mgrid[-40:41, -40:41].astype(float)
        cosine = 40 / np.sqrt(x * x + y * y + 1600)
        inside = cosine > math.cos(math.radians(29))
        assert seen[inside] == pytest.approx((cosine * cosine**3)[inside], abs=1e-4)
        assert seen[cosine < math.cos(math.radians(31))].max() == 0

    def test_it_is_aimed(self) -> None:
        seen = lit(Light(place=(0, 0, 40), aim=(25, 0, 0), cone=15))
        y, x = np.nonzero(seen > 0)
        assert x.mean() - 40 == pytest.approx(25, abs=3)
        assert y.mean() - 40 == pytest.approx(0, abs=0.5)

    def test_its_edge_is_soft_over_about_a_degree(self) -> None:
        row = lit(Light(place=(0, 0, 40), aim=(0, 0, 0), cone=30))[40]
        steps = np.abs(np.diff(row))
        assert steps.max() < 0.9


class TestRig:
    def test_it_turns_every_light_about_the_viewers_axis(self) -> None:
        assert Light(10, 40).rigged(30, 0, 0).direction == pytest.approx(Light(40, 40).direction)
        turned = Light(place=(10, 0, 5), aim=(1, 0, 0)).rigged(90, 0, 0)
        assert turned.place == pytest.approx((0, 10, 5))
        assert turned.aim == pytest.approx((0, 1, 0))

    def test_raised_it_goes_round_to_behind_and_lights_nothing(self) -> None:
        front = Light(270, 45)  # above, towards the viewer
        behind = front.rigged(0, 180, 270)
        assert behind.direction[2] == pytest.approx(-front.direction[2])
        assert lit(behind).max() == 0

    @pytest.mark.parametrize("azimuth", [0, 60, 135, 225, 300])
    def test_raise_lifts_the_key_light_over_the_word_whatever_its_azimuth(
        self, azimuth: float
    ) -> None:
        lifted = Light(azimuth, 20).rigged(40, 30, azimuth)
        assert lifted.elevation == pytest.approx(50)
        assert math.cos(math.radians(lifted.azimuth - azimuth - 40)) == pytest.approx(1)
        build = [step("relief.inflate"), step("light.shade")]
        low = titled(build, lights=[{"azimuth": azimuth, "elevation": 20}], rig={"raised": 30})
        high = titled(build, lights=[{"azimuth": azimuth, "elevation": 50}])
        assert render(low).pixels == pytest.approx(render(high).pixels, abs=1e-4)

    def test_the_angles_between_the_lights_stay(self) -> None:
        lights = [Light(225, 45), Light(20, 30), Light(100, 10)]
        turned = [light.rigged(77, 33, 225) for light in lights]

        def apart(pair: list[Light]) -> list[float]:
            return [float(np.dot(a.direction, b.direction)) for a in pair for b in pair]

        assert apart(turned) == pytest.approx(apart(lights), abs=1e-9)

    def test_a_title_turns_its_rig(self) -> None:
        build = [step("relief.inflate"), step("light.shade")]
        by_light = titled(build, lights=[{"azimuth": 295, "elevation": 45}])
        by_rig = titled(build, lights=[{"azimuth": 225, "elevation": 45}], rig={"turn": 70})
        assert render(by_rig).pixels == pytest.approx(render(by_light).pixels, abs=1e-5)

    def test_its_strength_counts_for_all(self) -> None:
        title = titled([], lights=[{"strength": 0.5}], rig={"strength": 3})
        assert light_at(title.lights[0], title, 0).strength == pytest.approx(1.5)


class TestTitles:
    def shaded(self, light: dict, **lettering) -> np.ndarray:
        build = [step("relief.inflate"), step("light.shade")]
        return render(titled(build, lights=[light], lettering=lettering)).pixels

    def test_a_point_light_follows_no_layer(self) -> None:
        """A layer moved under it is lit from another side."""
        light = {"kind": "point", "x": 0, "y": -60, "z": 60}
        here = self.shaded(light, placement={"x": -40})
        there = self.shaded(light, placement={"x": 40})
        assert np.abs(np.roll(here, 80, axis=1) - there).max() > 0.1

    def test_on_a_turned_card_it_stands_where_it_stood(self) -> None:
        """A card turned about the viewer's axis by a quarter is lit as an upright one is by a
        light that was turned back."""
        light = Light(place=(50.0, 0.0, 40.0))
        quarter = np.array([[0.0, -1, 0], [1, 0, 0], [0, 0, 1]])
        seen = light.seen_from(quarter, (0.0, 0.0, 0.0), 2.0)
        assert seen.place == pytest.approx((0, -25, 20))

    def test_the_same_picture_at_twice_the_scale(self) -> None:
        build = [step("relief.inflate"), step("light.shade")]
        title = titled(build, lights=[{"kind": "spot", "x": -60, "y": -40, "z": 90, "cone": 30}])
        small = render(title, scale=1).pixels
        large = render(title, scale=2).pixels
        halved = large.reshape(small.shape[0], 2, small.shape[1], 2, 4).mean(axis=(1, 3))
        assert np.abs(halved - small).mean() < 0.01

    def test_one_light_of_several(self) -> None:
        lights = [{"id": "key"}, {"id": "rim", "azimuth": 45, "colour": "#ff0000"}]
        build = [step("relief.inflate"), step("light.shade", light="one", which="rim")]
        only = titled([build[0], step("light.shade")], lights=[lights[1]])
        assert np.array_equal(render(titled(build, lights=lights)).pixels, render(only).pixels)


def test_ambient_light_lightens_the_shade_alone_and_flat_parts_stay() -> None:
    x = np.linspace(-3, 3, 81, dtype=np.float32)
    hill = np.tile(20 * np.exp(-x * x), (81, 1)).astype(np.float32)
    normal = normals(hill)
    light = [Light(180, 40)]
    plain = relative_shading(normal, light, 20).tone
    soft = relative_shading(normal, light, 20, ambient=0.3).tone
    assert soft.max() == plain.max()
    assert 0.5 - soft.min() == pytest.approx((0.5 - plain.min()) / 1.6, abs=1e-5)
    dull = relative_shading(normal, light, 20, diffuse=0.5).tone
    assert dull - 0.5 == pytest.approx((plain - 0.5) / 2, abs=1e-5)
    flat = relative_shading(normals(FLAT), light, 20, ambient=0.3).tone
    assert flat == pytest.approx(np.full_like(flat, 0.5), abs=1e-3)


def test_relative_shading_of_a_point_light_is_brighter_near_it() -> None:
    ground = Relief(FLAT, ORIGIN)
    tone = relative_shading(normals(FLAT), [Light(place=(20, 0, 25))], 20, relief=ground).tone
    assert tone[40, 60] == tone[40].max()
    assert tone[40, 0] < 0.45


class TestSurroundings:
    PANORAMA = np.zeros((64, 128, 4), np.float32)
    PANORAMA[..., 3] = 1
    PANORAMA[:32, :, 2] = 1  # blue above
    PANORAMA[:, :, 0] = np.linspace(0, 1, 128)  # redder to the right

    def seen(self, normal: tuple[float, float, float], **how) -> np.ndarray:
        field = np.array(normal, np.float32) / np.linalg.norm(normal)
        settings = {"turn": 0.0, "axes": np.eye(3)} | how
        world = world_of(self.PANORAMA, settings.pop("blur", 0.0))
        return mirrored(np.tile(field, (4, 4, 1)).astype(np.float32), world, **settings)[0, 0]

    def test_a_flat_mirror_shows_what_is_behind_the_viewer(self) -> None:
        assert self.seen((0, 0, 1))[0] == pytest.approx(0.5, abs=0.02)

    def test_what_leans_up_shows_the_sky_and_what_leans_down_the_sea(self) -> None:
        assert self.seen((0, -0.5, 1))[2] > 0.95
        assert self.seen((0, 0.5, 1))[2] < 0.05

    def test_what_leans_right_shows_what_is_to_the_right(self) -> None:
        """Leaning by 22.5° it mirrors what lies at 45°."""
        lean = (math.tan(math.radians(22.5)), 0, 1)
        assert self.seen(lean)[0] == pytest.approx(0.5 + 45 / 360, abs=0.02)

    def test_it_turns_about_the_upright_axis(self) -> None:
        assert self.seen((0, 0, 1), turn=90.0)[0] == pytest.approx(0.75, abs=0.02)

    def test_blur_is_roughness(self) -> None:
        edge = (0, -0.03, 1)
        assert 0.2 < self.seen(edge, blur=0.5)[2] < self.seen(edge)[2]

    def test_a_turned_card_mirrors_the_frames_world(self) -> None:
        turn = math.radians(-22.5)
        axes = np.array(
            [[math.cos(turn), 0, math.sin(turn)], [0, 1, 0], [-math.sin(turn), 0, math.cos(turn)]]
        )
        # The mirrored direction turns with the card: as far as the card itself.
        assert self.seen((0, 0, 1), axes=axes)[0] == pytest.approx(0.5 - 22.5 / 360, abs=0.02)


def test_the_document_of_a_light_without_a_kind_is_a_distant_one() -> None:
    lights = [{"azimuth": 3}, {"kind": "spot", "id": "s"}, {"kind": "point", "id": "p"}]
    kinds = [light.kind for light in parse_title({"mabrel": 1, "lights": lights}).lights]
    assert kinds == ["distant", "spot", "point"]


def test_a_world_is_blurred_once_and_never_stale() -> None:
    """As long as its picture is kept: whatever is turned, but not another roughness."""
    renderer = Renderer()
    build = [{"step": "relief.inflate"}, {"step": "light.surroundings", "settings": {}}]

    def seen(by: Renderer, **settings: float) -> np.ndarray:
        build[1] = {"step": "light.surroundings", "settings": settings}
        word = {"kind": "lettering", "source": {"text": "O", "size": 90}, "build": build}
        frame = {"width": 160, "height": 120}
        return by.render(parse_title({"mabrel": 1, "frame": frame, "layers": [word]})).pixels

    for settings in ({"blur": 0.06}, {"blur": 0.06, "turn": 70}, {"blur": 0.9}, {"blur": 0.0}):
        fresh = seen(Renderer(), **settings)
        assert seen(renderer, **settings) == pytest.approx(fresh, abs=1e-6)
        assert seen(renderer, **settings, strength=0.7) != pytest.approx(fresh, abs=0.02)
