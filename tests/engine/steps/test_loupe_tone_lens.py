"""Tone and lens steps where they are looked at closely."""

import numpy as np
import pytest

from mabrel import parse_title, render
from mabrel.colour import from_oklab, to_oklab, with_hues
from mabrel.field.ripples import Ripples, rippled
from mabrel.steps.lens_light.brightest import highest_spots


def rendered(build: list, **layer: object) -> np.ndarray:
    lettering = {"kind": "lettering", "source": {"text": "CLEAT", "size": 120}, "build": build}
    title = {"mabrel": 1, "frame": {"width": 480, "height": 270}, "layers": [lettering | layer]}
    return render(parse_title(title)).pixels


BRIGHT = [
    {"step": "surface.flat", "settings": {"colour": "#e8ecef"}},
    {"step": "relief.inflate"},
    {"step": "light.shade", "settings": {"gloss": 1}},
]


class TestHighestSpots:
    def test_a_wide_even_part_gives_one_spot_of_the_largest_size(self) -> None:
        light = np.zeros((120, 160, 3), np.float32)
        light[30:90, 40:120] = 1
        spots = highest_spots(light, largest=12, apart=200)
        rows, columns = np.nonzero(spots > 0.5)
        assert (rows.mean(), columns.mean()) == pytest.approx((59.5, 79.5), abs=2)
        assert spots.sum() == pytest.approx(np.pi * 36, rel=0.1)

    def test_none_is_nearer_than_that_to_another(self) -> None:
        light = np.random.default_rng(1).random((200, 200, 3)).astype(np.float32)
        spots = highest_spots(light, largest=1, apart=25)
        y, x = np.nonzero(spots > 0.9)
        away = np.hypot(x[:, None] - x, y[:, None] - y) + 1000 * np.eye(len(x))
        assert len(x) > 10
        assert away.min() >= 25

    def test_nothing_bright_gives_nothing(self) -> None:
        assert highest_spots(np.zeros((9, 9, 3), np.float32), largest=3, apart=9).max() == 0


def test_glints_on_wide_bright_metal_are_crosses_not_curtains() -> None:
    """Beyond the letters, most places stay free of light: arms are narrow."""
    plain = rendered(BRIGHT)
    lit = rendered([*BRIGHT, {"step": "lens.glints", "settings": {"length": 60, "apart": 60}}])
    beside = plain[..., 3] == 0
    light = lit[..., :3].max(axis=-1)[beside]
    assert light.max() > 0.1
    assert (light > 0.1).mean() < 0.08


def test_sparkles_are_seen_on_bright_metal() -> None:
    white = [{"step": "surface.flat", "settings": {"colour": "#ffffff"}}]
    lit = rendered([*white, {"step": "lens.sparkles", "settings": {"threshold": 0.2}}])
    inside = rendered(white)[..., 3] == 1
    seen = lit[..., 1][inside]
    assert seen.max() >= 1
    assert seen.min() < 0.75  # a dark ring around the star's white
    assert rendered([*white, {"step": "lens.sparkles"}])[..., 3].max() == pytest.approx(1, abs=1e-5)


@pytest.mark.parametrize("hue", range(0, 360, 30))
def test_dark_colours_keep_their_hue_at_high_saturation(hue: float) -> None:
    greys = np.linspace(0.02, 0.3, 40, dtype=np.float32)
    lab = to_oklab(np.stack([greys] * 3, -1))
    faint, turn = 0.02 * lab[..., 0], np.radians(hue)
    lab[..., 1], lab[..., 2] = faint * np.cos(turn), faint * np.sin(turn)
    picture = np.ones((1, 40, 4), np.float32)
    picture[0, :, :3] = from_oklab(lab)
    strong = with_hues(picture, 0, 1000, 0, False)[0, :, :3]
    assert strong.min() > -1e-3
    back = to_oklab(np.clip(strong, 0, 1))
    assert np.hypot(back[..., 1], back[..., 2]).min() > 3 * faint.min()
    turned = np.degrees(np.arctan2(back[..., 2], back[..., 1]))
    assert np.abs((turned - hue + 180) % 360 - 180).max() < 1.5
    assert np.abs(back[..., 0] - lab[..., 0]).max() < 0.01


class TestChannels:
    def coloured(self, **settings: object) -> np.ndarray:
        build = [
            {"step": "surface.flat", "settings": {"colour": "#204080"}},
            {"step": "tone.channels", "settings": settings},
        ]
        seen = rendered(build)
        return seen[seen[..., 3] == 1][0][:3] * 255

    def test_two_are_swapped(self) -> None:
        assert self.coloured(order="bgr") == pytest.approx([0x80, 0x40, 0x20], abs=0.1)

    def test_each_is_mixed_from_all_three(self) -> None:
        mixed = self.coloured(mode="mix", red_red=0.5, red_blue=0.5, blue_blue=0, blue_green=1)
        assert mixed == pytest.approx([0x50, 0x40, 0x40], abs=0.1)

    def test_half_of_it(self) -> None:
        assert self.coloured(order="bgr", opacity=0.5) == pytest.approx([0x50, 0x40, 0x50], abs=0.1)


class TestWetFloor:
    def test_ripples_run_and_come_round(self) -> None:
        picture = np.random.default_rng(2).random((60, 80, 4)).astype(np.float32)

        def at(phase: float) -> np.ndarray:
            return rippled(picture, (0, 0), 6.0, Ripples(30.0, 1, phase, 4))

        assert np.abs(at(0.0) - at(0.5)).max() > 0.1
        assert np.abs(at(0.0) - at(0.01)).mean() < 0.02
        assert at(4.0) == pytest.approx(at(0.0), abs=1e-4)

    def test_holes_grow_with_the_distance(self) -> None:
        wet = {"gone_at": 1000, "fades_from": 900, "opacity": 1, "show": "alone", "softer": 0}
        mirror = {"step": "ground.reflection", "settings": wet}
        thin = {"step": "ground.reflection", "settings": wet | {"thinning": 1, "size": 12}}
        whole, holed = (rendered([*BRIGHT, each])[..., 3] for each in (mirror, thin))
        rows = np.nonzero(whole.max(axis=1) > 0.5)[0]
        left = holed[rows].sum(axis=1) / whole[rows].sum(axis=1)
        third = len(rows) // 3
        assert left[:third].mean() > left[-third:].mean() + 0.02
