"""Shadows of bodies, from lights all around."""

import importlib
from typing import Any

import cv2
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


def standing(
    cast: dict | None = None, contact: dict | None = None, inflated: float = 0.3, **more: Any
) -> Title:
    """A puffed up body with both of its shadows."""
    fallen = {"onto": "floor", "light": "own", "bearing": 110, "length": 1.5} | (cast or {})
    build = [
        {"step": "relief.inflate", "settings": {"height": inflated}},
        {"step": "light.shade"},
        {"step": "depth.extrude", "settings": {"towards": "back"} | more.get("deep", {})},
        {"step": "ground.contact", "settings": {"reach": 20} | (contact or {})},
        {"step": "ground.cast_shadow", "settings": fallen},
    ]
    word = {
        "kind": "lettering",
        "source": {"text": more.get("text", "HI"), "size": 110},
        "placement": {"turn_y": more.get("turn", -35), "y": -20},
        "build": build,
    }
    ground = {"kind": "backdrop", "source": {"colour": "#ffffff"}}
    frame = {"width": 480, "height": 270}
    camera = {"lift": more.get("lift", -500)}
    return parse_title({"mabrel": 1, "frame": frame, "camera": camera, "layers": [ground, word]})


CHANGES: list[dict] = [
    *({"cast": each} for each in ({"bearing": 140}, {"length": 0.7}, {"blur": 9}, {"softer": 1},
                                  {"opacity": 0.2}, {"fade": 0.1}, {"onto": "wall"},
                                  {"colour": "#a02020"}, {"light": "key"})),
    *({"contact": each} for each in ({"blur": 30}, {"reach": 90}, {"offset": 15},
                                     {"opacity": 0.1})),
    {"deep": {"length": 120}}, {"deep": {"taper": -12}}, {"text": "OX"}, {"turn": 20},
    {"lift": -300},
]  # fmt: skip


@pytest.mark.parametrize("change", CHANGES, ids=str)
def test_what_is_remembered_of_a_shadow_is_never_stale(change: dict) -> None:
    renderer = Renderer()
    before = renderer.render(standing()).pixels
    again = renderer.render(standing(**change)).pixels
    assert again == pytest.approx(Renderer().render(standing(**change)).pixels, abs=1e-6)
    assert np.abs(again - before).max() > 0.02


def test_shadows_of_a_body_are_made_once_for_its_shape(monkeypatch: pytest.MonkeyPatch) -> None:
    made: list[str] = []
    for module, name in (("cast_shadow", "_fallen"), ("contact", "_foot")):
        own = getattr(importlib.import_module(f"mabrel.steps.ground.{module}"), name)

        def noted(*given: Any, own: Any = own, name: str = name) -> Any:
            made.append(name)
            return own(*given)

        monkeypatch.setattr(f"mabrel.steps.ground.{module}.{name}", noted)
    renderer = Renderer()
    before = renderer.render(standing()).pixels
    assert sorted(made) == ["_fallen", "_foot"]
    again = renderer.render(standing(inflated=0.8)).pixels
    assert np.abs(again - before).max() > 0.05
    assert len(made) == 2


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


def leaning(towards: str, angle: float, *, flat: bool = False, turn: float = -35, **cast: Any):
    """A body that runs to a side or to a point, on a card, and its shadow on a white floor."""
    deep = {"towards": towards, "length": 0.001 if flat else 60, "angle": angle, "point": [0, 300]}
    fallen = {"onto": "floor", "light": "own", "length": 1.5, "fade": 0, "blur": 0.5, "softer": 0,
              "opacity": 1, "colour": "#000000", "bearing": 110} | cast  # fmt: skip
    word = {
        "kind": "lettering",
        "source": {"text": "HI", "size": 110},
        "placement": {"turn_y": turn, "y": -30},
        "build": [
            {"step": "surface.flat", "settings": {"colour": "#e0a040"}},
            {
                "step": "depth.extrude",
                "settings": deep | {"colour": "#b04060", "lit": 0, "fade": 0},
            },
            {"step": "ground.cast_shadow", "settings": fallen},
        ],
    }
    ground = {"kind": "backdrop", "source": {"colour": "#ffffff"}}
    frame = {"width": 480, "height": 330}
    camera = {"lift": -500}
    return parse_title({"mabrel": 1, "frame": frame, "camera": camera, "layers": [ground, word]})


def dark(title: Title) -> np.ndarray:
    return render(title).pixels[..., :3].max(axis=-1) < 0.5


@pytest.mark.parametrize(("towards", "angle"), [("direction", 60), ("direction", -60),
                                                ("direction", 0), ("point", 0)])  # fmt: skip
def test_a_body_that_runs_aside_throws_the_shadow_of_all_of_it(towards: str, angle: float) -> None:
    """Also where the light runs along its card, from where the card is a line."""
    for bearing in (20, 35, 50, 215):
        body = dark(leaning(towards, angle, bearing=bearing)).sum()
        alone = dark(leaning(towards, angle, bearing=bearing, flat=True)).sum()
        assert body > alone + 400, bearing
    steep = dark(leaning(towards, angle)).sum()
    assert steep > 1.2 * dark(leaning(towards, angle, flat=True)).sum()


SIDEWAYS = [("direction", 60), ("direction", -60), ("point", 0)]


@pytest.mark.parametrize(("towards", "angle"), SIDEWAYS)
def test_its_shadow_begins_where_it_stands(towards: str, angle: float) -> None:
    """Whether its face or the far end of its sides is lowest."""
    pixels = render(leaning(towards, angle, turn=0)).pixels
    ink = pixels[..., 0] - pixels[..., 2] > 0.15
    fallen = pixels[..., :3].max(axis=-1) < 0.3
    foot = np.flatnonzero(ink.any(axis=1))[-1]
    columns = ink[foot - 3 : foot + 1].any(axis=0)
    assert fallen[foot + 1 : foot + 4, columns].any(axis=0).mean() > 0.6


@pytest.mark.parametrize("towards", ["back", "direction", "point"])
def test_a_shadow_of_slices_is_even(towards: str) -> None:
    """Where the light runs along the card, they don't show as lines."""
    pixels = render(leaning(towards, 60, bearing=35, blur=1)).pixels
    ink = np.asarray(pixels[..., 0] - pixels[..., 2] > 0.1, np.uint8)
    shade = np.where(cv2.dilate(ink, np.ones((9, 9))) > 0, 0, 1 - pixels[..., 1])
    inside = cv2.erode(np.asarray(shade > 0.1, np.uint8), np.ones((5, 5))) > 0
    grain = np.abs(shade - cv2.blur(shade, (5, 5)))[inside]
    assert inside.sum() > 1000
    assert np.median(grain) < 0.02
