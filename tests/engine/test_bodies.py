"""Bodies all around: from the front, the edge and the back."""

import importlib
import math
from typing import Any

import numpy as np
import pytest

from mabrel import Renderer, Title, parse_title
from mabrel.field.body import march

RENDERER = Renderer()
GOLD = {"step": "surface.flat", "settings": {"colour": "#c8a040"}}
FRAME = {"width": 480, "height": 270}


def turned(
    angle: float, axis: str = "turn_y", build=(GOLD,), text="HULK", **settings
) -> np.ndarray:
    deep = {"step": "depth.extrude", "settings": {"towards": "back", "length": 60} | settings}
    word = {
        "kind": "lettering",
        "source": {"text": text, "size": 130},
        "placement": {axis: angle},
        "build": [*build, deep],
    }
    return RENDERER.render(parse_title({"mabrel": 1, "frame": FRAME, "layers": [word]})).pixels


def test_from_its_edge_one_sees_the_side_alone() -> None:
    seen = turned(90, lit=0, fade=0, colour="#ff0000")
    there = seen[..., 3] > 0.99
    rows, columns = np.nonzero(there)
    assert columns.max() - columns.min() == pytest.approx(60 * 2000 / 1780, abs=8)
    assert seen[there][:, :3] == pytest.approx(np.tile([1, 0, 0], (there.sum(), 1)), abs=0.01)
    assert there[rows.min() + 3 : rows.max() - 2, columns.min() + 2 : columns.max() - 1].all()


@pytest.mark.parametrize(("axis", "angle"), [("turn_y", 180), ("turn_y", 150), ("turn_x", 180)])
def test_the_back_is_flat_and_of_its_own_colour(axis: str, angle: float) -> None:
    seen = turned(angle, axis, back_colour="#204060", lit=0)
    blue = np.abs(seen[..., :3] - np.array([0x20, 0x40, 0x60]) / 255).max(axis=-1) < 0.01
    front = turned(0, axis)[..., 3]
    assert (blue & (seen[..., 3] > 0.99)).sum() == pytest.approx(front.sum(), rel=0.25)


def test_the_face_shows_on_the_back_mirrored() -> None:
    """At half a turn the back, with the face on it, is the face's mirror image, smaller."""
    ramp = {"step": "surface.gradient", "settings": {"shape": "linear", "angle": 0}}
    front = turned(0, build=(ramp,), length=1, text="O")
    back = turned(180, build=(ramp,), length=1, text="O", back="face", lit=0)
    mirrored = front[:, ::-1]
    inside = (mirrored[..., 3] > 0.99) & (back[..., 3] > 0.99)
    assert inside.sum() > 0.9 * (front[..., 3] > 0.99).sum()
    assert np.abs(mirrored - back)[inside].mean() < 0.01


def test_nothing_jumps_while_it_turns_past_its_edge() -> None:
    """From the card to the picture and back: what it covers changes evenly."""
    covers = np.array([turned(a)[..., 3].sum() for a in np.arange(76, 105, 1.0)])
    steps = np.diff(covers) / covers.mean()
    assert np.abs(steps).max() < 0.08
    assert np.abs(np.diff(steps[:12])).max() < 0.02
    assert covers.min() > 0.4 * covers.max()


def test_sides_go_on_as_the_face() -> None:
    """A split face: sides have the colour of the half that they adjoin, at every depth."""
    split = {
        "step": "surface.gradient",
        "settings": {
            "shape": "linear",
            "angle": 90,
            "stops": [
                {"place": 0, "colour": "#ff0000"}, {"place": 0.5, "colour": "#ff0000"},
                {"place": 0.5, "colour": "#0000ff"}, {"place": 1, "colour": "#0000ff"},
            ],
        },
    }  # fmt: skip
    seen = turned(70, build=(split,), texture="face", textured=1, lit=0, text="I")
    there = seen[..., 3] > 0.99
    rows = np.nonzero(there.any(axis=1))[0]
    top, foot = rows[len(rows) // 5], rows[-len(rows) // 5]
    assert seen[top][there[top]][:, 0].min() > 0.95
    assert seen[foot][there[foot]][:, 2].min() > 0.95


@pytest.mark.parametrize("size", [24, 8])
@pytest.mark.parametrize("texture", ["picture", "streaks", "layers"])
def test_textures_on_sides_are_as_fine_rays_have_them(texture: str, size: float) -> None:
    """Against a picture made eight times as large and averaged, on the sides alone."""
    how = {"texture": texture, "picture": "shipped/planks.jpg", "textured": 1, "lit": 0}
    settings = {"angle": 20, "length": 40, "size": size} | how
    deep = {"step": "depth.extrude", "settings": settings}

    def titled(build: list) -> Title:
        word = {"kind": "lettering", "source": {"text": "Rg", "size": 90}, "build": build}
        frame = {"width": 200, "height": 120}
        return parse_title({"mabrel": 1, "frame": frame, "layers": [word]})

    seen = RENDERER.render(titled([GOLD, deep])).pixels
    fine = RENDERER.render(titled([GOLD, deep]), scale=8).pixels
    truth = fine.reshape(120, 8, 200, 8, 4).mean(axis=(1, 3))
    face = RENDERER.render(titled([GOLD])).pixels[..., 3]
    sides = (seen[..., 3] > 0.99) & (face < 0.01)
    assert sides.sum() > 2000
    assert np.abs(seen - truth)[sides][:, :3].mean() < 2 / 255


@pytest.mark.parametrize("placement", [{"y": -30}, {"y": -30, "turn_y": -25}])
def test_a_mirror_shows_the_undersides(placement: dict) -> None:
    """Looked at from above, one sees letters' tops, and in the floor what faces it."""
    paint = {"paint": "sides", "up": "#ff0000", "down": "#0000ff", "left": "#808080",
             "right": "#808080", "fade": 0, "lit": 0}  # fmt: skip
    deep = {"step": "depth.extrude", "settings": {"towards": "back", "length": 90} | paint}
    mirror = {"gone_at": 900, "fades_from": 800, "opacity": 1, "tinted": 0, "blur": 0, "softer": 0}
    word = {
        "kind": "lettering",
        "source": {"text": "HL", "size": 110},
        "placement": placement,
        "build": [GOLD, deep, {"step": "ground.reflection", "settings": mirror}],
    }
    title = {"mabrel": 1, "frame": FRAME, "camera": {"lift": -500}, "layers": [word]}
    seen = RENDERER.render(parse_title(title)).pixels
    red = (seen[..., 0] > 0.7) & (seen[..., 1] < 0.2)
    blue = (seen[..., 2] > 0.7) & (seen[..., 1] < 0.2)
    assert red.sum() > 100
    assert blue.sum() > 100
    assert np.nonzero(blue)[0].mean() > np.nonzero(red)[0].mean() + 40
    foot = np.nonzero(blue)[0].min()
    assert (red[foot + 10 :]).sum() < 0.05 * red.sum()


@pytest.mark.parametrize(
    ("change", "anew"),
    [
        ({"lit": 0.2}, False), ({"colour": "#2040c0"}, False), ({"fade": 0.9}, False),
        ({"length": 70}, True), ({"taper": 6}, True), ({"swell": 5}, True), ({"soften": 3}, True),
    ],
)  # fmt: skip
def test_from_elsewhere_only_another_shape_is_met_anew(
    change: dict, anew: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Most rays are followed once a shape; and what is remembered is never stale."""
    followed = []

    def marching(*given: Any, **how: Any) -> Any:
        followed.append(how["pixels"][0].shape)
        return march(*given, **how)

    monkeypatch.setattr("mabrel.steps.sides.drawing.march", marching)
    renderer, settings = Renderer(), {"length": 60, "colour": "#a06020"}

    def seen(by: Renderer, **changes: Any) -> np.ndarray:
        deep = {"step": "depth.extrude", "settings": {"towards": "back"} | settings | changes}
        word = {
            "kind": "lettering",
            "source": {"text": "HO", "size": 110},
            "placement": {"y": -30},
            "build": [GOLD, deep, {"step": "ground.reflection", "settings": {"opacity": 1}}],
        }
        frame = {"mabrel": 1, "frame": FRAME, "camera": {"lift": -400}, "layers": [word]}
        return by.render(parse_title(frame)).pixels

    seen(renderer)
    before = sum(math.prod(shape) for shape in followed)
    followed.clear()
    again = seen(renderer, **change)
    rays = sum(math.prod(shape) for shape in followed)
    assert rays > 0.8 * before if anew else rays < 0.2 * before
    assert again == pytest.approx(seen(Renderer(), **change), abs=1e-6)


WORN = {"texture": "face", "textured": 1}
MOVES: list[tuple[str, dict, dict]] = [
    ("relief", {}, {"build": {"step": "relief.inflate", "settings": {"height": 0.9}}}),
    ("face", {}, {"build": {"step": "surface.flat", "settings": {"colour": "#2050c0"}}}),
    ("face on sides", WORN, {"build": {"step": "surface.flat", "settings": {"colour": "#2050c0"}}}),
    ("light", {}, {"lights": [{"id": "key", "azimuth": 20, "elevation": 30}]}),
    ("coloured light", {}, {"lights": [{"id": "key", "colour": "#4060ff"}]}),
    ("lift", {"gloss": 0.8}, {"camera": {"lift": -150}}),
    ("turn", {"gloss": 0.8}, {"placement": {"turn_y": 55, "y": -30}}),
    ("edge", {}, {"placement": {"turn_y": 86, "y": -30}}),
    ("word", {}, {"source": {"text": "OX", "size": 110}}),
    ("size", {}, {"source": {"text": "HO", "size": 90}}),
]


@pytest.mark.parametrize(("extrude", "change"), [each[1:] for each in MOVES],
                         ids=[each[0] for each in MOVES])  # fmt: skip
def test_sides_are_made_once_for_a_shape_and_are_never_stale(
    extrude: dict, change: dict, monkeypatch: pytest.MonkeyPatch
) -> None:
    drawn = importlib.import_module("mabrel.steps.depth.extrude").drawn
    calls = []

    def counted(*given: Any) -> Any:
        calls.append(given)
        return drawn(*given)

    monkeypatch.setattr("mabrel.steps.depth.extrude.drawn", counted)
    settings = {"towards": "back", "length": 60, "colour": "#a06020"} | extrude
    build = [{"step": "relief.inflate"}, {"step": "light.shade"},
             {"step": "depth.extrude", "settings": settings},
             {"step": "ground.reflection", "settings": {"opacity": 1}}]  # fmt: skip
    start = {"source": {"text": "HO", "size": 110}, "placement": {"turn_y": 30, "y": -30}}

    def seen(by: Renderer, **changes: Any) -> np.ndarray:
        steps = [GOLD, *build]
        if own := changes.get("build"):
            steps = [own if each["step"] == own["step"] else each for each in steps]
        word = {"kind": "lettering"} | start | {"build": steps}
        word |= {name: changes[name] for name in start if name in changes}
        whole = {name: changes[name] for name in ("lights", "camera") if name in changes}
        title = {"mabrel": 1, "frame": FRAME, "layers": [word]} | whole
        return by.render(parse_title(title)).pixels

    renderer = Renderer()
    before = seen(renderer)
    calls.clear()
    again = seen(renderer, **change)
    only_the_face = "build" in change and not extrude
    assert (len(calls) == 0) == only_the_face
    assert again == pytest.approx(seen(Renderer(), **change), abs=1e-6)
    assert np.abs(again - before).max() > 0.02
