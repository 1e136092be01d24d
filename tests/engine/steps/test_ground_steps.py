"""Shadows on floor and wall, contact, and what a floor mirrors."""

from dataclasses import replace

import numpy as np
import pytest

from mabrel.field.lowest import lowest
from mabrel.field.parts import letters, lines
from mabrel.field.varying_blur import varying_blur
from mabrel.light import Light
from mabrel.steps import Piece, Surroundings
from mabrel.steps.planes.projections import (
    floor_plane,
    mirrored,
    own_light,
    shadow_on,
    wall_plane,
)
from tests.engine.steps.trial import RADIUS, piece, run, scene

ABOVE = (0.0, -800.0, 2000.0)
"""A viewer who looks down on the floor."""


def seen(matrix: np.ndarray, x: float, y: float) -> np.ndarray:
    point = matrix @ [x, y, 1]
    return point[:2] / point[2]


def viewed(*lights: Light):
    around = Surroundings(lights=lights or (Light(),), viewer=ABOVE)
    return replace(scene(), around=around)


def through(place: np.ndarray) -> np.ndarray:
    """Where a place in the scene is seen on an unturned card."""
    eye = np.array(ABOVE)
    return (eye + (place - eye) * eye[2] / (eye[2] - place[2]))[:2]


class TestGeometry:
    def test_a_mirror_keeps_what_touches_it_and_turns_the_rest_over(self) -> None:
        matrix = viewed().seen @ mirrored(viewed(), 50)
        assert seen(matrix, 12, 50) == pytest.approx([12, 50])
        assert seen(matrix, -7, 20) == pytest.approx([-7, 80])
        leaning = viewed().seen @ mirrored(viewed(), 50, height=0.5, slant=1)
        assert seen(leaning, 0, 30) == pytest.approx([20, 60])

    def test_a_shadow_falls_where_the_ray_meets_the_floor(self) -> None:
        where = viewed()
        towards = np.array([-0.4, -0.8, -0.3])
        towards /= np.linalg.norm(towards)
        light = Light(
            float(np.degrees(np.arctan2(towards[1], towards[0]))),
            float(np.degrees(np.arcsin(towards[2]))),
        )
        matrix = where.seen @ shadow_on(floor_plane(where, 60), light)
        for x, y in ((0, 0), (30, -40)):
            far = (60 - y) / -towards[1]
            place = np.array([x, y, 0.0]) - towards * far
            assert seen(matrix, x, y) == pytest.approx(through(place))

    def test_a_point_light_throws_larger_shadows(self) -> None:
        where = viewed()
        lamp = Light(place=(0.0, 0.0, 300.0))
        matrix = where.seen @ shadow_on(wall_plane(where, 100), lamp)
        place = np.array([30.0, 0, 0]) + np.array([30.0, 0, -300.0]) * (100 / 300)
        assert seen(matrix, 30, 0) == pytest.approx(through(place))

    def test_a_light_below_the_floor_or_behind_the_wall_throws_none(self) -> None:
        where = viewed()
        assert shadow_on(floor_plane(where, 60), Light(90, 10)) is None
        assert shadow_on(wall_plane(where, 60), Light(0, -10)) is None

    def test_its_own_light_gives_the_bearing_and_the_length(self) -> None:
        where = viewed()
        matrix = where.seen @ shadow_on(floor_plane(where, 0), own_light(where, 90, 2.0))
        assert seen(matrix, 0, -10) == pytest.approx(through(np.array([0, 0, 20.0])))

    @pytest.mark.parametrize("edge", [0.2, 0.5, 0.9])
    def test_ink_reaches_between_pixels(self, edge: float) -> None:
        ink = np.zeros((10, 10), np.float32)
        ink[2:6, 3:7] = 1
        ink[6, 3:7] = edge
        assert lowest(ink, (-5, -5)) == pytest.approx(1 + edge)
        assert lowest(np.zeros((4, 4), np.float32), (0, 0)) is None


class TestCastShadow:
    def middle(self, done: Piece) -> np.ndarray:
        y, x = np.nonzero(done.behind[..., 3] > 0.2)
        return np.array([x.mean() + done.region.left, y.mean() + done.region.top])

    def test_on_a_wall_it_lies_away_from_the_light(self) -> None:
        settings = {"onto": "wall", "gap": 60, "blur": 0, "softer": 0}
        done = run("ground.cast_shadow", where=viewed(Light(180, 45)), **settings)
        place = through(np.array([60.0, 0, -60]))
        assert self.middle(done) == pytest.approx(place, abs=1.5)

    def test_on_the_floor_it_begins_where_the_letters_stand(self) -> None:
        settings = {
            "onto": "floor",
            "light": "own",
            "bearing": 90,
            "blur": 0,
            "softer": 0,
            "fade": 0,
        }
        done = run("ground.cast_shadow", where=viewed(), **settings)
        rows = np.nonzero(done.behind[..., 3].max(axis=1) > 0.3)[0] + done.region.top
        assert rows[0] == pytest.approx(RADIUS, abs=1.5)

    def test_a_streak_fades_on_its_way(self) -> None:
        settings = {
            "onto": "streak",
            "light": "own",
            "angle": 0,
            "reach": 100,
            "blur": 0,
            "softer": 0,
        }
        done = run("ground.cast_shadow", fade=1, opacity=1, **settings)
        row = done.behind[-done.region.top, :, 3]
        near, far = (row[int(RADIUS + x - done.region.left)] for x in (10, 90))
        assert near == pytest.approx(0.9, abs=0.06)
        assert far == pytest.approx(0.1, abs=0.06)

    def test_from_a_point_a_streak_widens(self) -> None:
        settings = {"onto": "streak", "light": "point", "point": [0, -120], "reach": 120, "fade": 0}
        done = run("ground.cast_shadow", blur=0, softer=0, **settings)
        widths = (done.behind[..., 3] > 0.3).sum(axis=1)
        assert widths.max() == pytest.approx(4 * RADIUS, rel=0.06)

    def test_with_nothing_to_fall_from_there_is_none(self) -> None:
        assert run("ground.cast_shadow", where=viewed(Light(90, 5)), onto="floor").behind is None


class TestContact:
    def test_it_is_darkest_where_the_letters_touch(self) -> None:
        done = run("ground.contact", where=viewed(), blur=4)
        dark = done.behind[..., 3]
        y, x = np.unravel_index(dark.argmax(), dark.shape)
        assert (x + done.region.left, y + done.region.top) == pytest.approx((0, RADIUS), abs=3)
        assert dark[: int(RADIUS - 25 - done.region.top)].max() < 0.02

    def test_a_viewer_low_over_the_floor_sees_it_all_the_same(self) -> None:
        low = replace(scene(), around=Surroundings(viewer=(0.0, RADIUS, 2000.0)))
        assert run("ground.contact", where=low).behind[..., 3].sum() > 20


PLAIN = {"blur": 0, "softer": 0, "opacity": 1, "tinted": 0, "fades_from": 500, "gone_at": 501}


class TestReflection:
    def test_it_begins_where_the_letters_end(self) -> None:
        done = run("ground.reflection", **PLAIN)
        column = done.behind[:, -done.region.left, 3]
        rows = np.nonzero(column > 0.5)[0] + done.region.top
        assert rows[0] == pytest.approx(RADIUS, abs=0.6)
        assert rows[-1] == pytest.approx(3 * RADIUS, abs=1.1)

    def test_it_fades_between_two_heights(self) -> None:
        done = run("ground.reflection", **(PLAIN | {"fades_from": 10, "gone_at": 50}))
        column = done.behind[:, -done.region.left, 3]
        at = [column[int(RADIUS + height - done.region.top)] for height in (5, 30, 55)]
        assert at == pytest.approx([1, 0.5, 0], abs=0.05)

    def test_it_grows_softer_with_the_height(self) -> None:
        done = run("ground.reflection", **(PLAIN | {"softer": 0.5}))

        def steepest(height: int) -> float:
            row = done.behind[int(RADIUS + height - done.region.top), :, 3]
            return float(np.abs(np.diff(row)).max())

        assert steepest(8) > 2 * steepest(60)

    def test_shadows_are_not_mirrored(self) -> None:
        shadowed = run("ground.drop_shadow", light="own", angle=0, offset=100, blur=0, opacity=1)
        done = run("ground.reflection", shadowed, show="alone", **PLAIN)
        plain = run("ground.reflection", show="alone", **PLAIN)
        assert done.behind[..., 3].sum() == pytest.approx(plain.behind[..., 3].sum(), rel=0.01)
        assert done.matte.max() == 0

    def test_each_letter_stands_on_a_floor_of_its_own(self) -> None:
        matte = np.zeros((120, 120), np.float32)
        matte[30:60, 20:50] = 1
        matte[30:80, 70:100] = 1
        done = run("ground.reflection", piece(matte), touches="letters", **PLAIN)
        left, right = (done.behind[:, x - done.region.left, 3] for x in (35 - 60, 85 - 60))
        tops = [np.nonzero(column > 0.5)[0][0] + done.region.top for column in (left, right)]
        assert tops == [60 - 60, 80 - 60]

    def test_a_wet_floor_breaks_it_up_and_a_dry_patch_hides_it(self) -> None:
        whole = run("ground.reflection", show="alone", **PLAIN).behind[..., 3]
        patchy = run("ground.reflection", show="alone", patches=0.6, size=20, **PLAIN)
        assert 0.1 * whole.sum() < patchy.behind[..., 3].sum() < 0.7 * whole.sum()
        wavy = run("ground.reflection", show="alone", ripples=12, size=20, **PLAIN)
        assert wavy.behind[..., 3].sum() == pytest.approx(whole.sum(), rel=0.2)
        assert (
            np.abs(np.diff(wavy.behind[..., 3], axis=0)).sum()
            > 1.3 * np.abs(np.diff(whole, axis=0)).sum()
        )


class TestParts:
    def test_letters_hang_together_and_keep_their_dots(self) -> None:
        ink = np.zeros((60, 100), np.float32)
        ink[20:50, 10:20] = 1  # a stem
        ink[5:12, 10:20] = 1  # its dot
        ink[20:50, 40:80] = 1
        found = letters(ink)
        assert [part.box for part in found] == [(10, 5, 20, 50), (40, 20, 80, 50)]
        assert (sum(part.inside for part in found) == 1).all()

    def test_lines_lie_over_one_another(self) -> None:
        ink = np.zeros((100, 100), np.float32)
        ink[10:40, 10:30] = ink[12:40, 50:70] = 1
        ink[60:90, 10:30] = 1
        assert [part.box for part in lines(ink)] == [(10, 10, 70, 40), (10, 60, 30, 90)]

    def test_nothing_has_no_parts(self) -> None:
        assert letters(np.zeros((9, 9), np.float32)) == []


def test_a_blur_may_differ_from_place_to_place() -> None:
    """A line blurred by σ has its peak at 1 / (σ √2π), each half by its own."""
    line = np.zeros((120, 60), np.float32)
    line[:, 30] = 1
    sigma = np.full((120, 60), 2.0, np.float32)
    sigma[60:] = 6
    soft = varying_blur(line, sigma)
    assert soft[20, 30] == pytest.approx(1 / (2 * np.sqrt(2 * np.pi)), rel=0.03)
    assert soft[100, 30] == pytest.approx(1 / (6 * np.sqrt(2 * np.pi)), rel=0.03)
