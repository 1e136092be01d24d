"""Relief steps: inflate, bevel, soft and rough relief, level."""

import numpy as np
import pytest

from tests.engine.shapes import centres
from tests.engine.steps.trial import RADIUS, from_edge, piece, run, scene


class TestInflate:
    def test_a_disc_becomes_a_half_sphere(self) -> None:
        done = run("relief.inflate")
        assert done.height.max() == pytest.approx(RADIUS, rel=0.01)

    def test_below_nought_it_dents(self) -> None:
        assert np.array_equal(
            run("relief.inflate", height=-1).height, -run("relief.inflate").height
        )

    def test_adds_to_the_relief_that_is_there(self) -> None:
        twice = run("relief.inflate", run("relief.inflate"))
        assert twice.height == pytest.approx(2 * run("relief.inflate").height)


class TestBevel:
    STRAIGHT = ((0.0, 0.0), (1.0, 1.0))

    def test_a_straight_profile_rises_evenly_over_its_width(self) -> None:
        done = run("relief.bevel", width=20, height=10, profile=[[0, 0], [1, 1]])
        depth = from_edge(done)
        truth = np.clip(depth / 20, 0, 1) * 10
        assert np.abs(done.height - truth)[depth > 1].max() < 0.05

    def test_nothing_rises_outside_the_letters(self) -> None:
        done = run("relief.bevel", width=30, height=30)
        assert done.height[done.matte == 0].max() == 0

    def test_a_profile_of_any_shape(self) -> None:
        steps = ((0.0, 0.0), (0.3, 0.5), (0.6, 0.5), (1.0, 1.0))
        done = run("relief.bevel", width=20, height=8, profile=steps)
        depth = from_edge(done)
        level = done.height[(depth > 7) & (depth < 11)]
        assert level == pytest.approx(np.full_like(level, 4), abs=0.05)

    def test_sunk_is_raised_upside_down(self) -> None:
        raised, sunk = (run("relief.bevel", direction=way).height for way in ("raised", "sunk"))
        assert np.array_equal(sunk, -raised)

    @pytest.mark.parametrize(
        ("how", "join"),
        [
            ("add", np.add),
            ("greater", np.maximum),
            ("lesser", np.minimum),
            ("replace", lambda before, rise: rise),
        ],
    )
    def test_joins_the_relief_that_is_there(self, how: str, join) -> None:
        before = run("relief.inflate", height=0.5)
        rise = run("relief.bevel").height
        done = run("relief.bevel", before, combine=how)
        assert done.height == pytest.approx(join(before.height, rise))

    def test_softening_rounds_its_creases(self) -> None:
        def sharpest(soften: float) -> float:
            done = run("relief.bevel", width=15, height=15, profile=[[0, 0], [1, 1]], soften=soften)
            row = done.height[60, 30:90]
            return float(np.abs(np.diff(row, 2)).max())

        assert sharpest(4) < 0.4 * sharpest(0)

    def test_no_stairs_on_a_slanted_edge(self) -> None:
        """Along a straight edge at an odd angle the bevel is the same everywhere."""
        x, y = centres((160, 160))
        turn = np.radians(17)
        along = (x - 80) * np.cos(turn) + (y - 80) * np.sin(turn)
        across = (y - 80) * np.cos(turn) - (x - 80) * np.sin(turn)
        matte = np.clip(0.5 - across, 0, 1).astype(np.float32)
        done = run("relief.bevel", piece(matte), width=12, height=12, profile=[[0, 0], [1, 1]])
        band = (np.abs(along) < 50) & (across > -11) & (across < -2)
        assert np.abs(done.height - np.clip(-across, 0, 12))[band].max() < 0.06

    def test_scales_with_the_render(self) -> None:
        half = run("relief.bevel", where=scene(scale=0.5), width=40, height=20)
        assert half.height == pytest.approx(run("relief.bevel", width=20, height=10).height)


class TestReliefSteps:
    def test_soft_relief_rises_from_the_edge_to_its_height(self) -> None:
        done = run("relief.soft", radius=8, height=30)
        assert done.height[60, 60] == pytest.approx(30, abs=0.5)
        assert done.height[done.matte < 0.01].max() < 6

    def test_rough_relief_goes_up_and_down_by_half_its_amount(self) -> None:
        done = run("relief.grain", amount=10)
        assert -5 <= done.height.min() < -1
        assert 1 < done.height.max() <= 5

    def test_level_makes_a_plateau(self) -> None:
        done = run("relief.level", run("relief.inflate"), ceiling=20, smooth=0)
        assert done.height.max() == pytest.approx(20)
        doubled = run("relief.level", run("relief.inflate"), scale=2, ceiling=4000, smooth=0)
        assert doubled.height.max() == pytest.approx(2 * RADIUS, rel=0.01)


class TestBevelSides:
    @pytest.mark.parametrize(("side", "beyond"), [("inside", 0), ("outside", 12), ("astride", 6)])
    def test_it_reaches_as_far_out_as_its_side_says(self, side: str, beyond: float) -> None:
        done = run("relief.bevel", side=side, width=12, height=6, profile=[[0, 0], [1, 1]])
        assert np.sqrt(done.matte.sum() / np.pi) == pytest.approx(RADIUS + beyond, abs=0.1)
        edge = from_edge(done) + beyond
        rising = (edge > 1) & (edge < 11)
        assert done.height[rising] == pytest.approx(edge[rising] / 2, abs=0.15)
        assert done.height[edge > 13] == pytest.approx(np.full((edge > 13).sum(), 6), abs=0.05)

    def test_outside_it_wears_the_colours_of_the_face(self) -> None:
        done = run("relief.bevel", side="outside", width=12)
        outside = (from_edge(done) < -2) & (from_edge(done) > -10)
        assert np.abs(done.face[outside][:, :3] - 0.5).max() < 1e-5

    def test_a_stepped_profile_has_treads(self) -> None:
        stairs = [[0, 0], [0.01, 0.5], [0.5, 0.5], [0.51, 1], [1, 1]]
        done = run("relief.bevel", width=20, height=10, profile=stairs)
        depth = from_edge(done)
        assert done.height[(depth > 2) & (depth < 9)] == pytest.approx(5, abs=0.05)
        assert done.height[(depth > 12) & (depth < 30)] == pytest.approx(10, abs=0.05)


class TestInflateMore:
    def test_pulled_tight_it_rises_sooner_to_the_same_top(self) -> None:
        loose, tight = run("relief.inflate"), run("relief.inflate", tightness=1)
        assert tight.height.max() == pytest.approx(loose.height.max(), rel=1e-3)
        near = (from_edge(loose) > 2) & (from_edge(loose) < 10)
        assert (tight.height[near] > loose.height[near] * 1.2).all()

    def test_a_plateau_flattens_the_top_without_a_crease(self) -> None:
        flat = run("relief.inflate", plateau=20)
        assert flat.height.max() == pytest.approx(20, abs=1.0)
        middle = from_edge(flat) > 25
        assert np.ptp(flat.height[middle]) < 0.6
        line = flat.height[60]
        assert np.abs(np.diff(line, 2))[24:-24].max() < 0.4


class TestEmboss:
    def test_the_surface_raises_itself(self) -> None:
        stripes = piece()
        stripes.face[:, ::16] = stripes.face[:, 1::16] = 1
        done = run("relief.emboss", stripes, source="surface", amount=10, soften=0)
        assert done.height[60, 32] == pytest.approx(5, abs=1e-3)
        assert done.height[60, 40] == pytest.approx(0, abs=1e-3)

    def test_a_picture_raises_it_and_below_nought_sinks_it(self) -> None:
        up = run("relief.emboss", picture="shipped/chart.png", amount=8)
        down = run("relief.emboss", picture="shipped/chart.png", amount=-8)
        assert np.ptp(up.height) > 1
        assert down.height == pytest.approx(-up.height)

    def test_without_a_picture_nothing_rises(self) -> None:
        assert np.abs(run("relief.emboss", picture="").height).max() < 1e-6
