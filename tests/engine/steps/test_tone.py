"""Tone steps: on a face of one colour, each is a formula."""

import numpy as np
import pytest

from tests.engine.steps.trial import piece, run


class TestGradientMap:
    STOPS = ({"place": 0, "colour": "#ff0000"}, {"place": 1, "colour": "#0000ff"})

    def test_brightness_becomes_colour(self) -> None:
        for grey in (0.0, 0.25, 1.0):
            done = run("tone.gradient_map", piece(grey=grey), stops=self.STOPS)
            assert done.face[60, 60] == pytest.approx([1 - grey, 0, grey, 1], abs=1e-3)

    def test_opacity_keeps_a_share_of_what_was(self) -> None:
        done = run("tone.gradient_map", piece(grey=0.25), stops=self.STOPS, opacity=0.5)
        assert done.face[60, 60] == pytest.approx([0.5, 0.125, 0.25, 1], abs=1e-3)

    def test_it_goes_by_brightness_and_not_by_one_channel(self) -> None:
        green = run("surface.flat", colour="#00ff00")
        done = run("tone.gradient_map", green, stops=self.STOPS)
        assert done.face[60, 60, 2] == pytest.approx(0.7152, abs=1e-3)


class TestToneSteps:
    """On a face of one colour, each is a formula."""

    def toned(self, name: str, colour: str = "#4080c0", **settings) -> np.ndarray:
        return run(name, run("surface.flat", colour=colour), **settings).face[60, 60, :3]

    def test_curves_bend_all_channels_and_then_one(self) -> None:
        done = self.toned("tone.curves", master=[[0, 1], [1, 0]], red=[[0, 0], [1, 0.5]])
        assert done == pytest.approx([0.5 * 191 / 255, 127 / 255, 63 / 255], abs=2e-3)

    def test_levels_stretch_between_black_and_white(self) -> None:
        done = self.toned("tone.levels", black=0.25, white=0.75, lowest=0.1, highest=0.9)
        assert done == pytest.approx([0.1 + 0.8 * 0.002, 0.5, 0.9], abs=5e-3)
        assert self.toned("tone.levels", black=0, white=1, gamma=2)[1] == pytest.approx(
            (128 / 255) ** 0.5, abs=1e-3
        )

    def test_levels_with_black_above_white_turn_tones_over(self) -> None:
        assert self.toned("tone.levels", black=1, white=0)[0] == pytest.approx(191 / 255, abs=1e-3)

    def test_brightness_adds_and_contrast_spreads_about_grey(self) -> None:
        assert self.toned("tone.brightness", brightness=0.1, contrast=0)[0] == pytest.approx(
            64 / 255 + 0.1, abs=1e-3
        )
        assert self.toned("tone.brightness", contrast=1)[0] == pytest.approx(
            2 * (64 / 255) - 0.5, abs=1e-3
        )

    def test_a_full_turn_of_the_hue_changes_nothing(self) -> None:
        done = self.toned("tone.hue", hue=360)
        assert done == pytest.approx([64 / 255, 128 / 255, 192 / 255], abs=2e-3)

    def test_without_saturation_it_is_grey(self) -> None:
        done = self.toned("tone.hue", hue=0, saturation=0)
        assert np.ptp(done) < 2e-3

    def test_colourise_gives_all_colours_one_hue(self) -> None:
        ask = {"mode": "colourise", "hue": 30}
        first, second = (self.toned("tone.hue", code, **ask) for code in ("#4080c0", "#50c040"))
        assert np.argmax(first) == np.argmax(second) == 0

    def test_duotone_runs_from_dark_to_light(self) -> None:
        ask = {"dark": "#100000", "light": "#00ff00"}
        assert self.toned("tone.duotone", "#000000", **ask) == pytest.approx([16 / 255, 0, 0])
        assert self.toned("tone.duotone", "#ffffff", **ask) == pytest.approx([0, 1, 0], abs=1e-6)

    def test_inverting_twice_gives_back_what_was(self) -> None:
        once = run("tone.invert", run("surface.flat", colour="#4080c0"))
        assert once.face[60, 60, 0] == pytest.approx(1 - 64 / 255)
        assert run("tone.invert", once).face[60, 60, 0] == pytest.approx(64 / 255)

    def test_desaturated_keeps_its_brightness(self) -> None:
        grey = 0.2126 * 64 / 255 + 0.7152 * 128 / 255 + 0.0722 * 192 / 255
        assert self.toned("tone.desaturate") == pytest.approx([grey] * 3, abs=1e-5)
        half = self.toned("tone.desaturate", amount=0.5)
        assert half[0] == pytest.approx((64 / 255 + grey) / 2, abs=1e-5)

    def test_sharpening_leaves_flat_parts_and_lifts_edges(self) -> None:
        assert self.toned("tone.sharpen") == pytest.approx(
            [64 / 255, 128 / 255, 192 / 255], abs=1e-4
        )
        before = run("surface.made", pattern="stripes", width=12, opacity=1, blend="normal")
        after = run("tone.sharpen", before, radius=3)
        assert np.ptp(after.face[60, 40:80, 0]) > np.ptp(before.face[60, 40:80, 0]) + 0.1


SPOTS = [{"x": 0, "y": 0.5, "colour": "#ff0000"}, {"x": 1, "y": 0.5, "colour": "#0000ff"}]


class TestColourSpots:
    def spots(self, **settings) -> np.ndarray:
        how = {"spots": SPOTS, "blend": "normal", "opacity": 1, "mix": "srgb"} | settings
        return run("tone.colour_spots", **how).face[60]

    def test_at_its_place_a_spot_has_its_colour_and_half_way_they_mix(self) -> None:
        row = self.spots(reach=0.1)
        assert row[20, :3] == pytest.approx([1, 0, 0], abs=0.01)
        assert row[100, :3] == pytest.approx([0, 0, 1], abs=0.01)
        assert row[60, :3] == pytest.approx([0.5, 0, 0.5], abs=0.04)

    def test_sharper_they_have_clear_borders(self) -> None:
        soft, sharp = (self.spots(sharpness=s)[:, 0] for s in (1, 10))
        assert np.abs(np.diff(sharp)).max() > 3 * np.abs(np.diff(soft)).max()

    def test_mixed_in_oklab_they_keep_their_lightness(self) -> None:
        yellow = [SPOTS[1], {"x": 0, "y": 0.5, "colour": "#ffff00"}]
        lab, rgb = (self.spots(spots=yellow, mix=mix)[60, :3] for mix in ("oklab", "srgb"))
        assert rgb == pytest.approx([0.5, 0.5, 0.5], abs=0.04)
        assert np.abs(lab - rgb).max() > 0.05


def test_an_alpha_curve_hardens_a_soft_edge_and_leaves_the_colour() -> None:
    soft = run("shape.edge", grow=0, radius=0)
    hard = run("tone.curves", soft, alpha=[[0, 0], [0.45, 0], [0.55, 1], [1, 1]])
    assert ((hard.matte > 0.1) & (hard.matte < 0.9)).sum() < 0.4 * (
        (soft.matte > 0.1) & (soft.matte < 0.9)
    ).sum()
    half = run("tone.curves", alpha=[[0, 0], [1, 0.5]])
    assert half.matte.max() == pytest.approx(0.5)
