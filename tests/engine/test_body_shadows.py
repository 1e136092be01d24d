"""Shadows of bodies, from lights all around."""

import numpy as np
import pytest

from mabrel import Renderer, Title, parse_title, render


def shadowed(bearing: float, length: float = 90, **other: float) -> Title:
    """A body on a card that is turned by 35°, and its shadow on the floor before a white ground."""
    deep = {"step": "depth.extrude", "settings": {"towards": "back", "length": max(length, 0.001)}}
    settings = {"onto": "floor", "light": "own", "bearing": bearing, "length": 1.5, "fade": 0,
                "blur": 0.5, "softer": 0, "opacity": 1, "colour": "#000000"} | other  # fmt: skip
    word = {
        "kind": "lettering",
        "source": {"text": "HI", "size": 110},
        "placement": {"turn_y": -35, "y": -20},
        "build": [deep, {"step": "ground.cast_shadow", "settings": settings}],
    }
    ground = {"kind": "backdrop", "source": {"colour": "#ffffff"}}
    camera = {"lift": -500}
    frame = {"width": 480, "height": 270}
    title = {"mabrel": 1, "frame": frame, "camera": camera, "layers": [ground, word]}
    return parse_title(title)


def shadow(bearing: float, length: float = 90) -> np.ndarray:
    return (render(shadowed(bearing, length)).pixels[..., :3].max(axis=-1) < 0.4)[160:]


@pytest.mark.parametrize(
    "change", [{"bearing": 140}, {"length": 60}, {"blur": 9}, {"opacity": 0.4}, {"softer": 1}]
)
def test_what_is_remembered_of_a_shadow_is_never_stale(change: dict) -> None:
    renderer, settings = Renderer(), {"bearing": 110}
    renderer.render(shadowed(**settings))
    again = renderer.render(shadowed(**settings | change)).pixels
    assert again == pytest.approx(render(shadowed(**settings | change)).pixels, abs=1e-6)


@pytest.mark.parametrize("bearing", [20, 35, 50])
def test_a_light_along_the_card_throws_the_shadow_of_the_whole_body(bearing: float) -> None:
    """That of the flat letters alone is a line; a body's is as wide as it is deep."""
    flat, deep = shadow(bearing, 0).sum(), shadow(bearing).sum()
    assert deep > 400
    assert deep > 2 * flat


def test_it_changes_evenly_while_the_light_goes_round() -> None:
    areas = np.array([shadow(bearing).sum() for bearing in range(0, 75, 5)], float)
    beside = (areas[:-2] + areas[2:]) / 2
    assert (areas[1:-1] > 0.6 * beside).all()
    assert (areas[1:-1] < 1.6 * beside).all()
