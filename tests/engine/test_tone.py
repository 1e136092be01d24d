"""Gradients and curves."""

import numpy as np
import pytest

from mabrel.colour import (
    ColourStop,
    curve_table,
    from_code,
    gradient_map,
    gradient_table,
    to_oklab,
    with_hues,
)
from mabrel.colour.spaces import from_oklab, to_encoded, to_linear

BLACK, WHITE = (0.0, 0.0, 0.0, 1.0), (1.0, 1.0, 1.0, 1.0)
RAMP = np.linspace(0, 1, 201, dtype=np.float32)[None]


def test_two_stops_mix_evenly_and_a_midpoint_moves_the_even_mix() -> None:
    even = gradient_map(RAMP, [ColourStop(0, BLACK), ColourStop(1, WHITE)])[0, :, 0]
    assert even == pytest.approx(RAMP[0], abs=1e-3)
    early = gradient_map(RAMP, [ColourStop(0, BLACK, 0.25), ColourStop(1, WHITE)])[0, :, 0]
    assert early[50] == pytest.approx(0.5, abs=2e-3)


def test_slide_and_repeats_make_no_seam() -> None:
    stops = [ColourStop(0, BLACK), ColourStop(0.4, WHITE), ColourStop(1, (0.5, 0.5, 0.5, 1.0))]
    for slide in (0.0, 0.3, -1.7):
        for repeats in (1, 3):
            tones = gradient_map(RAMP, stops, slide=slide, repeats=repeats)[0, :, 0]
            assert np.abs(np.diff(tones)).max() < 0.05


def test_two_stops_at_one_place_make_a_hard_edge() -> None:
    stops = [ColourStop(0, BLACK), ColourStop(0.5, BLACK), ColourStop(0.5, WHITE)]
    tones = gradient_map(RAMP, stops)[0, :, 0]
    assert tones[95] == 0
    assert tones[105] == 1


def test_oklab_mixes_through_no_grey() -> None:
    blue, yellow = from_code("#0000ff"), from_code("#ffff00")
    middle = gradient_table([ColourStop(0, blue), ColourStop(1, yellow)], "oklab")[2048]
    lightness = to_oklab(middle[None, :3])[0, 0]
    ends = to_oklab(np.array([blue[:3], yellow[:3]], np.float32))[:, 0]
    assert lightness == pytest.approx(ends.mean(), abs=2e-3)


def test_colour_spaces_come_back() -> None:
    colours = np.random.default_rng(1).random((50, 3)).astype(np.float32)
    assert from_oklab(to_oklab(colours)) == pytest.approx(colours, abs=1e-4)
    assert to_encoded(to_linear(colours)) == pytest.approx(colours, abs=1e-5)
    assert to_linear(np.float32([0.5]))[0] == pytest.approx(0.21404, abs=1e-5)


def test_hues_turn_in_oklab_and_grow_no_stronger_than_asked() -> None:
    """On colours faint enough for every hue to have them."""
    chance = np.random.default_rng(5)
    light, hue = chance.uniform(0.4, 0.8, (2, 500)) * [[1], [8]]
    lab = np.stack([light, 0.02 * np.cos(hue), 0.02 * np.sin(hue)], axis=-1)
    alpha = chance.uniform(0.1, 1, (1, 500, 1)).astype(np.float32)
    picture = np.concatenate([from_oklab(lab)[None] * alpha, alpha], axis=-1)
    changed = with_hues(picture, np.radians(50), 1.5, 0.1, False)
    assert np.array_equal(changed[..., 3:], alpha)
    seen = to_oklab(changed[0, :, :3] / alpha[0])
    turned = np.stack(
        [0.03 * np.cos(hue + np.radians(50)), 0.03 * np.sin(hue + np.radians(50))], -1
    )
    assert seen[:, 0] == pytest.approx(light + 0.1, abs=1e-3)
    assert seen[:, 1:] == pytest.approx(turned, abs=1e-3)


def test_one_hue_swells_between_black_and_white() -> None:
    greys = np.repeat(np.float32([[0, 0.2, 0.5, 0.8, 1]])[..., None], 4, axis=-1)
    greys[..., 3] = 1
    lab = to_oklab(with_hues(greys, np.radians(145), 1, 0, True)[0, :, :3])
    chroma = np.hypot(lab[:, 1], lab[:, 2])
    assert chroma[[0, -1]].max() < 1e-3
    assert chroma[1:-1].min() > 0.03
    assert np.degrees(np.arctan2(lab[1:-1, 2], lab[1:-1, 1])) == pytest.approx(145, abs=1)


def test_a_curve_goes_through_its_points_and_never_overshoots() -> None:
    points = [(0.0, 0.0), (0.2, 0.9), (0.4, 0.1), (0.7, 0.1), (1.0, 1.0)]
    table = curve_table(points, 1001)
    for x, y in points:
        assert table[round(x * 1000)] == pytest.approx(y, abs=1e-5)
    assert table.min() >= 0
    assert table.max() <= 1
    assert table[400:700] == pytest.approx(np.full(300, 0.1), abs=1e-5)


@pytest.mark.parametrize("code", ["b4471f", "#b4471", "#12345g", "red", ""])
def test_what_is_no_colour_code_is_refused(code: str) -> None:
    with pytest.raises(ValueError, match="colour code"):
        from_code(code)
