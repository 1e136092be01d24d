"""Layers: light on them, their strength, fill, washes and cards."""

import numpy as np
import pytest

from mabrel import parse_title, render
from tests.engine.trial_titles import ALL, step, titled


def test_light_sides_and_shadow_follow_the_key_light() -> None:
    def shadow_place(azimuth: float) -> np.ndarray:
        title = titled(
            [step("ground.drop_shadow", blur=0, offset=20)], lights=[{"azimuth": azimuth}]
        )

        def middle(tap: str, channel: int) -> np.ndarray:
            y, x = np.nonzero(render(title, tap=tap).pixels[..., channel] > 0.3)
            return np.array([x.mean(), y.mean()])

        return middle("behind", 3) - middle("matte", 0)

    assert shadow_place(180) == pytest.approx([20, 0], abs=0.7)
    assert shadow_place(270) == pytest.approx([0, 20], abs=0.7)

    def side_tone(azimuth: float) -> float:
        title = titled([step("depth.extrude", angle=90, fade=0)], lights=[{"azimuth": azimuth}])
        pixels = render(title, tap="behind").pixels
        return float(pixels[..., :3].sum() / pixels[..., 3].sum())

    assert side_tone(90) > 1.5 * side_tone(270)  # the side faces down


def test_strength_mixes_a_step_with_its_input() -> None:
    def face(strength: float) -> np.ndarray:
        paint = step("surface.flat", colour="#ffffff") | {"strength": strength}
        return render(titled([paint]), tap="face").pixels

    half = (face(0) + face(1)) / 2
    assert face(0.5) == pytest.approx(half, abs=1e-5)


def test_face_opacity_fades_the_fill_and_keeps_what_steps_added() -> None:
    build = [step("relief.inflate"), step("light.shade")]
    faded = render(titled(build, lettering={"face_opacity": 0})).pixels
    plain = render(titled([], lettering={"face_opacity": 0})).pixels
    assert plain[..., 3].max() == 0
    assert faded[..., 3].max() > 0.5


def test_two_bevels_with_their_own_lights_on_one_layer() -> None:
    twice = [
        step("relief.bevel", width=4),
        step("light.shade", light="own", azimuth=0),
        step("relief.bevel", width=12),
        step("light.shade", light="own", azimuth=180),
    ]
    once = render(titled(twice[:2])).pixels
    both = render(titled(twice)).pixels
    assert np.abs(both - once).max() > 0.2


def test_a_wash_treats_what_lies_beneath_and_a_matte_limits_it() -> None:
    wash = {"kind": "wash", "build": [step("surface.flat", colour="#ff0000")]}
    base = titled().model_dump(mode="json")
    everywhere = parse_title(base | {"layers": [{"kind": "backdrop"}, *base["layers"], wash]})
    assert render(everywhere).pixels[..., 0].min() == pytest.approx(1)
    limited = wash | {"matte_from": "word"}
    only = parse_title(base | {"layers": [{"kind": "backdrop"}, *base["layers"], limited]})
    pixels = render(only).pixels
    matte = render(titled(), tap="matte").pixels[..., 0]
    assert pixels[..., 1][matte == 1].max() == pytest.approx(0, abs=1e-6)
    assert pixels[..., 1][matte == 0].min() > 0.5


def test_a_card_that_is_turned_and_turned_back_stays_where_it_is() -> None:
    straight = render(titled(ALL[:4])).pixels
    # So little a turn goes through the homography, and moves nothing by a tenth of a pixel.
    nearly = render(titled(ALL[:4], lettering={"placement": {"turn_z": 0.02}})).pixels
    assert not np.array_equal(nearly, straight)
    assert np.abs(nearly - straight).max() < 0.12
    assert np.abs(nearly - straight).mean() < 0.002
    whole = render(titled(ALL[:4], lettering={"placement": {"turn_z": 360}})).pixels
    assert np.array_equal(whole, straight)
    tilted = render(titled(ALL[:4], lettering={"placement": {"turn_y": 50}})).pixels
    ink = lambda p: np.ptp(np.nonzero(p[..., 3].max(axis=0) > 0.5)[0])  # noqa: E731
    assert ink(tilted) == pytest.approx(ink(straight) * np.cos(np.radians(50)), rel=0.06)


def test_nearer_cards_are_larger_and_stay_sharp() -> None:
    near = render(titled(size=40, lettering={"placement": {"z": 1000}})).pixels
    large = render(titled(size=80)).pixels
    assert np.abs(near - large).mean() < 1e-3
