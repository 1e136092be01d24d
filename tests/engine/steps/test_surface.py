"""Surface steps: colour, gradient, stroke, made textures, bend."""

from dataclasses import replace

import numpy as np
import pytest

from mabrel import parse_title, render
from mabrel.source import Image
from mabrel.steps import Margin
from tests.engine.steps.trial import piece, run, scene
from tests.engine.trial_titles import step


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


class TestPicture:
    """A ramp from black (left) to white, 40 × 20 pixels, over the disc's box of 80 × 80."""

    def laid(self, **settings) -> np.ndarray:
        ramp = np.ones((20, 40, 4), np.float32)
        ramp[..., :3] = np.linspace(0, 1, 40)[None, :, None]
        where = replace(scene(), image=lambda name, size: Image(ramp))
        return run("surface.picture", None, where, picture="ramp", **settings).face

    def test_stretched_it_spans_the_lettering(self) -> None:
        row = self.laid(fit="stretch")[60, :, 0]
        assert row[21] == pytest.approx(0, abs=0.03)
        assert row[98] == pytest.approx(1, abs=0.03)
        assert row[60] == pytest.approx(0.5, abs=0.03)

    def test_covering_it_keeps_its_shape_and_fitting_leaves_room(self) -> None:
        cover = self.laid(fit="cover")[60, :, 0]  # 160 × 80: the middle half is seen
        assert cover[21] == pytest.approx(0.25, abs=0.03)
        assert cover[98] == pytest.approx(0.75, abs=0.03)
        fit = self.laid(fit="fit")[:, 60, 0]  # 80 × 40: bands above and below are left
        assert fit[45] == pytest.approx(fit[75], abs=0.02)
        assert self.laid(fit="fit")[30, 100, 0] == pytest.approx(0.5)
        assert self.laid(fit="fit")[60, 98, 0] == pytest.approx(1, abs=0.03)

    def test_tiles_repeat_and_mirrored_tiles_show_no_seam(self) -> None:
        tiles = self.laid(fit="tile", size=20)[60, 20:100, 0]
        assert tiles[:20] == pytest.approx(tiles[20:40], abs=1e-4)
        assert np.abs(np.diff(tiles)).max() > 0.3
        mirror = self.laid(fit="mirror", size=20)[60, 20:100, 0]
        assert np.abs(np.diff(mirror)).max() < 0.1
        assert mirror[:40] == pytest.approx(mirror[40:], abs=1e-4)

    def test_a_shifted_tile_wraps_around(self) -> None:
        plain = self.laid(fit="tile", size=20)
        assert self.laid(fit="tile", size=20, shift=[20, 0]) == pytest.approx(plain, abs=1e-4)
        moved = self.laid(fit="tile", size=20, shift=[7, 0])
        assert np.roll(plain, 7, axis=1)[60, 30:90] == pytest.approx(moved[60, 30:90], abs=1e-3)

    def test_it_turns_and_scales_about_the_middle(self) -> None:
        turned = self.laid(fit="stretch", turn=90)[:, 60, 0]
        assert turned[25] < 0.15
        assert turned[95] > 0.85
        larger = self.laid(fit="stretch", scale=2)[60, :, 0]
        assert larger[40] == pytest.approx(0.5 - 20 / 160, abs=0.03)

    def test_small_tiles_become_their_mean(self) -> None:
        tiny = self.laid(fit="tile", size=4, scale=0.3)[40:80, 40:80, 0]
        assert np.ptp(tiny) < 0.1

    def test_tint_saturation_blur_and_opacity(self) -> None:
        red = self.laid(fit="stretch", tint="#ff0000")[60, 90]
        assert red[0] > 0.8
        assert red[1] == red[2] == 0
        grey = self.laid(fit="stretch", tint="#ffffff", saturation=0)[60, 90]
        assert grey[0] == pytest.approx(grey[2])
        assert self.laid(opacity=0)[60, 60, 0] == pytest.approx(0.5)
        soft = self.laid(fit="tile", size=20, blur=6)[60, 30:90, 0]
        assert np.ptp(soft) < 0.6


CORNERS = [
    {"place": n / 3, "colour": colour}
    for n, colour in enumerate(("#ff0000", "#00ff00", "#0000ff", "#000000"))
]


class TestCorners:
    def test_each_corner_has_its_colour_and_the_middle_their_mean(self) -> None:
        face = run("surface.gradient", shape="corners", stops=CORNERS).face
        assert face[20, 20, :3] == pytest.approx([1, 0, 0], abs=0.03)
        assert face[20, 99, :3] == pytest.approx([0, 1, 0], abs=0.03)
        assert face[99, 99, :3] == pytest.approx([0, 0, 1], abs=0.03)
        assert face[99, 20, :3] == pytest.approx([0, 0, 0], abs=0.03)
        assert face[60, 60, :3] == pytest.approx([0.25] * 3, abs=0.02)


class TestMaterials:
    def made(self, pattern: str, **settings) -> np.ndarray:
        how = {"width": 60, "height": 20, "blend": "normal", "opacity": 1} | settings
        return run("surface.made", pattern=pattern, **how).face[..., 0]

    def test_wood_runs_along_its_grain(self) -> None:
        grain = self.made("wood", width=200, height=3)
        assert np.abs(np.diff(grain, axis=0)).mean() > 2 * np.abs(np.diff(grain, axis=1)).mean()

    def test_marble_is_light_with_dark_veins(self) -> None:
        stone = self.made("marble", width=50, height=50)
        assert np.median(stone) > 0.6
        assert np.percentile(stone, 1) < 0.5

    def test_blocky_cells_are_flat_with_antialiased_edges(self) -> None:
        cells = self.made("clouds", grid="blocky", width=10, height=10)
        steps = np.abs(np.diff(cells[60]))
        assert (steps < 1e-6).mean() > 0.75
        between = self.made("clouds", grid="blocky", width=10.5, height=10.5)[60]
        assert len(np.unique(np.round(between, 4))) > len(np.unique(np.round(cells[60], 4)))

    @pytest.mark.parametrize(
        "pattern", ["clouds", "veins", "wood", "marble", "plaster", "stripes", "checker", "dots"]
    )
    def test_over_a_phase_of_64_it_comes_round_and_never_jumps(self, pattern: str) -> None:
        start = self.made(pattern, phase=0)
        assert self.made(pattern, phase=64) == pytest.approx(start, abs=1e-3)
        if pattern not in ("stripes", "checker", "dots"):  # those are moved, edges and all
            before = self.made(pattern, phase=63.99)
            assert np.abs(before - start).mean() < 0.05

    @pytest.mark.parametrize("pattern", ["wood", "marble", "plaster"])
    def test_at_half_the_scale_it_is_the_same_material(self, pattern: str) -> None:
        def made(scale: float) -> np.ndarray:
            texture = step("surface.made", pattern=pattern, width=90, height=12, opacity=1,
                           blend="normal")  # fmt: skip
            ground = {"kind": "backdrop", "build": [texture]}
            frame = {"width": 320, "height": 200}
            title = parse_title({"mabrel": 1, "frame": frame, "layers": [ground]})
            return render(title, scale=scale).pixels

        mean = made(1).reshape(100, 2, 160, 2, 4).mean(axis=(1, 3))
        assert np.abs(mean - made(0.5)).mean() < 0.04
