"""What models tell of themselves, and what the page's own tests are held to."""

from pathlib import Path

import pytest

from mabrel.steps import catalogue
from mabrel.title.told import MODELS, told_models
from tools.front_fixtures import FOLDER, fixtures


@pytest.mark.parametrize("name", ["told.json", "values.json"])
def test_the_pages_fixtures_are_what_the_engine_says(name: str) -> None:
    """`make fixtures` writes them."""
    assert (Path(FOLDER) / name).read_text() == fixtures()[name]


def all_settings():
    for name, settings in told_models().items():
        yield from ((name, each) for each in settings)


@pytest.mark.parametrize(("model", "setting"), list(all_settings()))
def test_every_setting_says_what_a_page_needs(model: str, setting) -> None:
    assert setting.label
    assert setting.help.endswith(".")
    assert setting.kind
    if setting.kind in ("length", "angle", "fraction", "number", "count"):
        assert setting.low is not None
        assert setting.high is not None
        low, high = setting.usual or (setting.low, setting.high)
        assert setting.low <= low < high <= setting.high
    if setting.kind == "choice":
        assert setting.default in setting.choices


def test_every_number_colour_and_point_of_a_title_may_move() -> None:
    still = {
        (name, each.name)
        for name, each in all_settings()
        if each.kind in ("length", "angle", "fraction", "number", "colour", "point", "points")
        and not each.moves
    }
    # How letters take turns, how the shutter opens, how a clip runs, what was seen in a shot: no
    # values at a time. What parts are painted with moves as a whole: all paints are one setting.
    assert still == {
        *(("brush", name) for name in ("colour", "second", "angle", "size", "shading")),
        *{("in_turn", "delay"), ("blur", "angle"), ("play", "speed"), ("play", "rate")},
        *{("shot_light", "azimuth"), ("shot_light", "elevation")},
    }
    assert all(
        each["moves"] == (each["kind"] not in ("image", "step", "light"))
        for entry in catalogue()
        for each in entry["settings"]
    )


def test_groups_name_settings_that_are_there() -> None:
    for model in MODELS.values():
        for names in getattr(model, "GROUPS", {}).values():
            assert set(names) <= set(model.model_fields)
    for entry in catalogue():
        groups = {each["group"] for each in entry["settings"]}
        assert "" in groups, f"{entry['step']} shows nothing unfolded"
