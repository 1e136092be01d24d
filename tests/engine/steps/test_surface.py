"""Surface steps: colour, gradient, stroke, made textures, bend."""

import numpy as np
import pytest

from mabrel.steps import Margin
from tests.engine.steps.trial import piece, run, scene


class TestFlat:
    def test_paints_one_colour(self) -> None:
        done = run("surface.flat", colour="#336699")
        assert done.face[60, 60] == pytest.approx([0.2, 0.4, 0.6, 1])

    def test_opacity_and_alpha_multiply(self) -> None:
        done = run("surface.flat", colour="#ffffff80", opacity=0.5)
        assert done.face[60, 60, 0] == pytest.approx(0.5 + 0.5 * 0.5 * 128 / 255, abs=1e-3)

    def test_blends(self) -> None:
        done = run("surface.flat", colour="#808080", blend="multiply")
        assert done.face[60, 60, 0] == pytest.approx(0.5 * 128 / 255, abs=1e-3)


class TestGradient:
    def ends(self, **settings) -> np.ndarray:
        stops = [{"place": 0, "colour": "#000000"}, {"place": 1, "colour": "#ffffff"}]
        return run("surface.gradient", stops=stops, **settings).face[..., 0]

    def test_runs_from_edge_to_edge_of_the_ink(self) -> None:
        tones = self.ends(angle=0)
        assert tones[60, 21] == pytest.approx(1.5 / 80, abs=0.01)
        assert tones[60, 98] == pytest.approx(1 - 1.5 / 80, abs=0.01)
        assert tones[60, 60] == pytest.approx(0.5, abs=0.01)

    @pytest.mark.parametrize(("angle", "dark"), [(0, (60, 25)), (90, (25, 60)), (180, (60, 95))])
    def test_runs_in_its_direction(self, angle: float, dark: tuple[int, int]) -> None:
        tones = self.ends(angle=angle)
        assert tones[dark] < 0.1

    def test_radial_is_the_same_all_around(self) -> None:
        tones = self.ends(shape="radial")
        assert tones[60, 30] == pytest.approx(tones[30, 60], abs=0.01)
        assert tones[60, 60] < 0.02 < tones[60, 90]

    def test_size_and_centre_move_it(self) -> None:
        assert self.ends(shape="radial", size=0.5)[60, 90] > self.ends(shape="radial")[60, 90]
        assert self.ends(shape="radial", centre=[30, 0])[60, 90] < 0.02


class TestStroke:
    @pytest.mark.parametrize(
        ("side", "inner", "outer"), [("inside", 34, 40), ("centred", 37, 43), ("outside", 40, 46)]
    )
    def test_it_is_as_wide_as_it_says(self, side: str, inner: float, outer: float) -> None:
        done = run("surface.stroke", side=side, width=6, colour="#ffffff")
        face = (done.face[..., 0] > 0.75) & (done.matte > 0.5)
        behind = done.behind[..., 3] > 0.5 if done.behind is not None else np.zeros_like(face)
        area = (face | (behind & (done.matte <= 0.5))).sum()
        assert area == pytest.approx(np.pi * (outer**2 - inner**2), rel=0.03)

    def test_what_runs_outside_throws_a_shadow_too(self) -> None:
        done = run("surface.stroke", side="outside", width=10)
        assert done.solid.sum() == pytest.approx(np.pi * 50**2, rel=0.01)

    def test_without_width_nothing_changes(self) -> None:
        before = piece()
        assert np.array_equal(
            run("surface.stroke", before, width=0).matte.max(), before.matte.max()
        )


class TestMade:
    @pytest.mark.parametrize("pattern", ["clouds", "veins", "stripes", "checker", "dots"])
    @pytest.mark.parametrize("turn", [0, 33])
    def test_every_pattern_has_dark_and_light_parts(self, pattern: str, turn: float) -> None:
        ask = {"pattern": pattern, "width": 20, "height": 20, "turn": turn}
        tones = run("surface.made", opacity=1, blend="normal", **ask).face[..., 0]
        assert tones.min() < 0.35
        assert tones.max() > 0.6

    def test_it_stays_in_its_place_when_the_piece_grows(self) -> None:
        grown = piece().grown(Margin(9, 4, 2, 7))
        for pattern in ("clouds", "checker"):
            small = run("surface.made", pattern=pattern)
            large = run("surface.made", grown, pattern=pattern)
            assert large.face[4:-7, 9:-2] == pytest.approx(small.face, abs=1e-5)

    @pytest.mark.parametrize("pattern", ["clouds", "stripes", "checker", "dots"])
    def test_parts_finer_than_pixels_become_their_mean(self, pattern: str) -> None:
        ask = {"pattern": pattern, "width": 3, "height": 3, "opacity": 1, "blend": "normal"}
        fine = run("surface.made", where=scene(scale=0.17), **ask).face[..., 0]
        assert fine.std() < 0.12

    def test_streaks_are_clouds_drawn_out(self) -> None:
        done = run("surface.made", width=300, height=4, opacity=1, blend="normal").face[..., 0]
        along, across = np.abs(np.diff(done, axis=1)).mean(), np.abs(np.diff(done, axis=0)).mean()
        assert across > 8 * along

    def test_phase_moves_it_without_a_jump(self) -> None:
        frames = [run("surface.made", phase=p, opacity=1).face[..., 0] for p in (0, 0.02, 0.5)]
        assert np.abs(frames[1] - frames[0]).max() < 0.12
        assert np.abs(frames[2] - frames[0]).mean() > 0.02


class TestBendByRelief:
    def test_a_flat_relief_bends_nothing(self) -> None:
        before = run("surface.made", opacity=1)
        assert run("surface.bend", before).face == pytest.approx(before.face, abs=1e-5)

    def test_streaks_flow_around_the_relief_without_tearing(self) -> None:
        before = run("relief.inflate", run("surface.made", opacity=1, blend="normal"))
        after = run("surface.bend", before, amount=30)
        assert np.abs(after.face - before.face).mean() > 0.02
        jumps = np.abs(np.diff(after.face[..., 0], axis=1))[after.matte[:, 1:] > 0.99]
        assert np.percentile(jumps, 99) < 0.25
