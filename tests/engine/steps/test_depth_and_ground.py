"""Sides and shadows."""

import numpy as np
import pytest

from mabrel.light import Light
from mabrel.steps import Margin, kind_of
from tests.engine.steps.trial import RADIUS, piece, run, scene


class TestExtrude:
    def test_its_sides_fade_along_their_depth(self) -> None:
        settings = {"angle": 90, "length": 40, "colour": "#ffffff", "fade_colour": "#000000"}
        done = run("depth.extrude", fade=1, lit=0, **settings)
        x = -done.region.left
        bottom = RADIUS - done.region.top
        near, far = (done.behind[int(bottom + d), x, 0] for d in (4, 34))
        assert near == pytest.approx(0.9, abs=0.05)
        assert far == pytest.approx(0.15, abs=0.05)

    def test_towards_a_point_it_narrows(self) -> None:
        done = run("depth.extrude", towards="point", point=[0, 300], length=1000, fade=0)
        widths = (done.behind[..., 3] > 0.5).sum(axis=1)
        top, bottom = np.nonzero(widths)[0][[0, -1]]
        assert widths[top : (top + bottom) // 2].max() > 1.2 * widths[bottom - 12]

    def test_it_has_no_rim_on_the_side_it_leaves(self) -> None:
        done = run("depth.extrude", angle=90, length=30)
        x = -done.region.left
        upper = int(-RADIUS - done.region.top)
        assert done.behind[upper - 3 : upper - 1, x, 3].max() < 0.02

    def test_without_length_nothing_changes(self) -> None:
        before = piece()
        done = run("depth.extrude", before, length=0)
        assert done.behind is None

    def test_all_that_is_solid_throws_the_shadow(self) -> None:
        done = run("depth.extrude", angle=0, length=30)
        assert done.body.sum() == pytest.approx(done.matte.sum() + 30 * 2 * RADIUS, rel=0.02)


class TestDropShadow:
    def middle(self, **settings) -> np.ndarray:
        where = settings.pop("where", None)
        done = run("ground.drop_shadow", where=where, blur=3, opacity=1, **settings)
        y, x = np.nonzero(done.behind[..., 3] > 0.5)
        return np.array([x.mean() + done.region.left + 0.5, y.mean() + done.region.top + 0.5])

    def test_it_falls_away_from_the_key_light(self) -> None:
        place = self.middle(where=scene([Light(225, 45)]), offset=20)
        assert place == pytest.approx([14.1, 14.1], abs=0.4)

    def test_a_lower_light_throws_it_further(self) -> None:
        places = [self.middle(where=scene([Light(180, up)]), offset=10)[0] for up in (30, 60, 90)]
        assert places == pytest.approx([17.3, 5.8, 0], abs=0.4)

    def test_its_own_angle_leaves_the_light_alone(self) -> None:
        place = self.middle(where=scene([Light(0, 10)]), light="own", angle=90, offset=20)
        assert place == pytest.approx([0, 20], abs=0.4)

    def test_spread_grows_and_shrinks_it(self) -> None:
        def area(spread: float) -> float:
            settings = {"light": "own", "offset": 0, "blur": 0, "opacity": 1}
            done = run("ground.drop_shadow", spread=spread, **settings)
            return float(done.behind[..., 3].sum())

        assert area(10) == pytest.approx(np.pi * 50**2, rel=0.01)
        assert area(-10) == pytest.approx(np.pi * 30**2, rel=0.01)

    def test_a_second_one_lies_under_the_first_and_is_not_thrown_by_it(self) -> None:
        settings = {"light": "own", "angle": 0, "blur": 0, "opacity": 1, "offset": 90}
        first = run("ground.drop_shadow", colour="#ff0000", **settings)
        both = run("ground.drop_shadow", first, colour="#00ff00", **(settings | {"angle": 180}))
        green = (both.behind[..., 1] > 0.5).sum()
        assert green == pytest.approx(np.pi * RADIUS**2, rel=0.02)

    def test_the_margin_holds_all_of_it(self) -> None:
        kind = kind_of("ground.drop_shadow")
        given = kind.settings.model_validate({"offset": 30, "blur": 10, "light": "own", "angle": 0})
        margin = kind.room(piece(), given, scene())
        assert margin.right == margin.left + 30
        assert isinstance(margin, Margin)
