"""Light steps: shade, inner shadow and glow, gleam."""

import numpy as np
import pytest

from mabrel import render
from mabrel.light import Light
from mabrel.steps import Piece
from tests.engine.steps.trial import from_edge, inside, piece, run, scene
from tests.engine.trial_titles import step, titled


class TestShade:
    def shaded(self, **settings) -> Piece:
        return run("light.shade", run("relief.inflate"), **settings)

    def test_flat_parts_stay_as_they_are(self) -> None:
        done = run("light.shade", piece(grey=0.3))
        assert done.face[inside(done)][:, 0] == pytest.approx(np.full(inside(done).sum(), 0.3))

    def test_lighter_towards_the_light_and_darker_away(self) -> None:
        tones = self.shaded().face[..., 0]  # from the upper left
        assert tones[38, 38] > 0.8
        assert tones[82, 82] < 0.2

    def test_a_rim_light_adds_no_shade(self) -> None:
        done = self.shaded(shade_opacity=0)
        assert done.face[inside(done)][:, 0].min() >= 0.5 - 1e-6

    def test_shade_alone_adds_no_highlight(self) -> None:
        done = self.shaded(highlight_opacity=0)
        assert done.face[inside(done)][:, 0].max() <= 0.5 + 1e-6

    def test_its_own_light_leaves_the_rig_alone(self) -> None:
        own = {"light": "own", "azimuth": 45, "elevation": 45}
        first = run("light.shade", run("relief.inflate"), scene([Light(225)]), **own)
        second = run("light.shade", run("relief.inflate"), scene([Light(10)]), **own)
        assert np.array_equal(first.face, second.face)
        assert first.face[82, 82, 0] > 0.8

    def test_a_response_curve_makes_rings(self) -> None:
        rings = [[0, 0], [0.25, 1], [0.5, 0], [0.75, 1], [1, 0]]
        row = self.shaded(response=rings).face[60, 22:98, 0]
        turns = np.sum(np.diff(np.sign(np.diff(row))) != 0)
        assert turns >= 4

    def test_gloss_is_small_and_bright(self) -> None:
        plain, glossy = self.shaded(), self.shaded(gloss=1, tightness=80)
        more = glossy.face[..., 0] - plain.face[..., 0]
        assert more.max() > 0.15
        assert (more > 0.05).mean() < 0.1

    def test_colours_and_blend_modes_of_both(self) -> None:
        done = self.shaded(highlight_colour="#ff0000", shade_colour="#0000ff", shade_blend="normal")
        lit, dark = done.face[35, 35], done.face[85, 85]
        assert lit[0] > lit[2]
        assert dark[2] > 0.7 > dark[0]

    def test_coloured_lights_tint_the_highlight(self) -> None:
        warm = run("light.shade", run("relief.inflate"), scene([Light(225, 45, (1, 0.5, 0.2))]))
        red, green, blue, _ = warm.face[38, 38]
        assert red > green > blue

    def test_without_any_light_all_of_a_relief_is_in_the_shade(self) -> None:
        dark = run("light.shade", run("relief.inflate"), scene([]))
        assert dark.face[inside(dark)][:, 0].max() == 0


class TestInnerLight:
    def test_an_inner_shadow_falls_from_the_side_of_the_light(self) -> None:
        done = run(
            "light.inner_shadow", where=scene([Light(180, 45)]), offset=10, blur=3, opacity=1
        )
        row = done.face[60, :, 0]
        assert row[24] < 0.15
        assert row[90] == pytest.approx(0.5, abs=0.01)

    def test_an_inner_shadow_of_its_own_leaves_the_light_alone(self) -> None:
        ask = {"light": "own", "angle": 90, "offset": 12}
        first, second = (
            run("light.inner_shadow", where=scene([Light(turn)]), **ask) for turn in (0, 90)
        )
        assert np.array_equal(first.face, second.face)

    def test_an_inner_glow_fades_from_the_edge(self) -> None:
        done = run(
            "light.inner_glow", width=20, falloff=[[0, 1], [1, 0]], opacity=1, colour="#ffffff"
        )
        depth = from_edge(done)
        for inwards in (3, 10, 17):
            there = np.abs(depth - inwards) < 0.5
            share = 1 - inwards / 20
            assert done.face[there][:, 0].mean() == pytest.approx(0.5 + 0.5 * share, abs=0.02)
        assert done.face[60, 60, 0] == pytest.approx(0.5)

    def test_a_gleam_crosses_at_its_place_and_bends_with_the_relief(self) -> None:
        ask = {"angle": 0, "width": 10, "opacity": 1, "bend": 0}
        for place in (0.25, 0.75):
            row = run("light.gleam", place=place, **ask).face[60, :, 0]
            assert np.argmax(row) + 0.5 - 60 == pytest.approx((place - 0.5) * 80, abs=2)
        bent = run("light.gleam", run("relief.inflate"), place=0.25, **(ask | {"bend": 40}))
        straight = run("light.gleam", run("relief.inflate"), place=0.25, **ask)
        assert not np.allclose(bent.face, straight.face)


class TestPartsAndMaterial:
    def shaded(self, **settings) -> Piece:
        return run("light.shade", run("relief.inflate"), **settings)

    def test_highlights_and_shade_can_be_had_apart(self) -> None:
        both, bright, dark = (
            self.shaded(parts=parts).face[..., 0] for parts in ("both", "highlights", "shade")
        )
        assert bright.min() >= 0.5 - 1e-6
        assert dark.max() <= 0.5 + 1e-6
        lit = bright > 0.5 + 1e-4
        assert both[lit] == pytest.approx(bright[lit], abs=0.02)

    def test_highlights_of_metal_take_its_hue(self) -> None:
        copper = piece()
        copper.face[..., :3] = [0.7, 0.4, 0.2]
        relief = run("relief.inflate", copper)
        white, own = (
            run("light.shade", relief, metal=metal, gloss=1).face[34, 34] for metal in (0, 1)
        )
        assert white[2] > 0.75
        assert own[2] < 0.75 * own[0]

    def test_it_lights_what_one_step_added_to_the_relief(self) -> None:
        rim = step("relief.bevel", width=5) | {"id": "rim"}
        soft, shade = step("relief.soft"), step("light.shade")
        named = step("light.shade", relief="rim")
        alone = render(titled([rim, shade])).pixels
        assert render(titled([soft, rim, named])).pixels == pytest.approx(alone, abs=1e-4)
        off = soft | {"id": "soft", "on": False}
        flat = render(titled([off, rim, step("light.shade", relief="soft")])).pixels
        assert flat == pytest.approx(render(titled([])).pixels, abs=1e-5)

    def test_a_dark_edge_is_dark_on_all_sides(self) -> None:
        done = run("light.dark_edge", width=10, blend="normal", colour="#000000", opacity=1)
        rim = (from_edge(done) > 1) & (from_edge(done) < 2)
        assert done.face[rim][:, 0].max() < 0.2
        assert done.face[from_edge(done) > 11][:, 0] == pytest.approx(0.5)

    def test_surroundings_are_mirrored_where_the_relief_leans(self) -> None:
        flat = run("light.surroundings", blend="normal", opacity=1)
        face = flat.face[inside(flat)]
        assert np.ptp(face, axis=0).max() < 0.02  # a flat mirror shows one place
        round_ = run("light.surroundings", run("relief.inflate"), blend="normal", opacity=1)
        assert np.ptp(round_.face[inside(round_)], axis=0).max() > 0.4
