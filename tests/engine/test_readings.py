"""Readings: strips, the section, tones."""

import numpy as np
import pytest

from mabrel import Renderer, new_title, parse_title, render
from mabrel.reading import closeup_window, cut, strip_window, tones_before
from mabrel.title import Title


@pytest.fixture(scope="module")
def title() -> Title:
    return new_title("FOGHORN", frame=(640, 360))


def word(title: Title):
    return next(layer for layer in title.layers if layer.kind == "lettering")


@pytest.mark.parametrize("aspect", [1.0, 3.5, 8.0])
def test_a_strip_holds_all_lettering_at_its_aspect(title: Title, aspect: float) -> None:
    window = strip_window(title, aspect)
    assert window.width / window.height == pytest.approx(aspect)
    matte = render(title, tap="matte", window=window).pixels[..., 0]
    border = np.concatenate([matte[0], matte[-1], matte[:, 0], matte[:, -1]])
    assert border.max() == 0
    assert matte.max() == 1


def test_a_strip_follows_where_the_lettering_is_placed(title: Title) -> None:
    document = title.model_dump(mode="json")
    document["layers"][-1]["placement"]["x"] = 100
    moved = strip_window(parse_title(document), 3.5)
    assert moved.left == pytest.approx(strip_window(title, 3.5).left + 100)


def test_a_strip_without_lettering_is_the_middle_of_the_frame() -> None:
    empty = parse_title({"mabrel": 1, "frame": {"width": 400, "height": 100}})
    window = strip_window(empty, 2.0)
    assert (window.width, window.height) == (200, 100)
    assert window.left == 100


def test_a_closeup_is_nearer_than_a_strip(title: Title) -> None:
    near = closeup_window(title, word(title).id, 1.8)
    assert near.width < strip_window(title, 1.8).width
    ground = title.layers[0].id
    assert closeup_window(title, ground, 1.8) == strip_window(title, 1.8)
    with pytest.raises(KeyError):
        closeup_window(title, "nobody", 1.8)


def test_a_section_is_the_height_field_along_the_line(title: Title) -> None:
    renderer = Renderer()
    section = cut(renderer, title, word(title).id, at=180, samples=640)
    fields = renderer.fields(title, word(title).id)
    row = fields.height[180]
    inside = fields.matte[180] > 0.5
    assert np.isnan(section.height[~inside]).all()
    assert section.height[inside] == pytest.approx(row[inside], abs=0.6)
    picture = renderer.render(title).pixels[180, :, :3]
    assert np.abs(section.colours - np.clip(picture, 0, 1)).mean() < 0.02


def test_heights_are_in_frame_pixels_at_every_sampling(title: Title) -> None:
    tops = [
        np.nanmax(cut(Renderer(), title, word(title).id, at=180, samples=count).height)
        for count in (320, 1280)
    ]
    assert tops[0] == pytest.approx(tops[1], rel=0.05)


@pytest.mark.parametrize("at", [-50, 0, 359.9, 1000])
def test_a_cut_outside_the_frame_is_held_at_its_edge(title: Title, at: float) -> None:
    section = cut(Renderer(), title, word(title).id, at=at, samples=100)
    assert np.isnan(section.height).all()


def test_tones_are_what_the_step_is_given(title: Title) -> None:
    renderer = Renderer()
    step = next(step for step in word(title).build if step.step == "tone.gradient_map")
    tones = tones_before(renderer, title, word(title).id, step.id, scale=0.5)
    given = renderer.fields(title, word(title).id, scale=0.5, before=step.id)
    y, x = np.argwhere(given.matte > 0.9)[500]
    assert tones.places[y, x] / 254 == pytest.approx(float(given.face[y, x, 0]), abs=0.01)
    assert tones.histogram.sum() == pytest.approx(1, abs=1e-5)
    assert (tones.places[given.matte <= 0.5] == 255).all()
