"""Plans: the key of a result changes with all that it depends on, and with nothing else."""

import pytest

from mabrel.render.plan import Planner
from mabrel.source import library_at
from mabrel.steps import Region
from mabrel.title import Title, parse_title

REGION = Region(-100, -50, 200, 100)
BUILD = [
    {"step": "relief.inflate", "id": "inflate"},
    {"step": "light.shade", "id": "shade"},
    {"step": "tone.gradient_map", "id": "map"},
]


def title(**changes) -> Title:
    word = {
        "kind": "lettering",
        "id": "word",
        "source": {"text": "Ab", "size": 40} | changes.pop("source", {}),
        "build": changes.pop("build", BUILD),
    } | changes.pop("word", {})
    frame = {"width": 200, "height": 100}
    return parse_title({"mabrel": 1, "frame": frame, "layers": [word]} | changes)


def keys(document: Title, **how) -> list[str]:
    where = {"time": 0.0, "scale": 1.0, "region": REGION} | how
    planned = Planner(document, library_at(None), **where).layer(document.layers[0])
    return [planned.key, *(step.key for step in planned.steps)]


def same(first: list[str], second: list[str]) -> list[bool]:
    return [a == b for a, b in zip(first, second, strict=True)]


def test_the_same_title_has_the_same_keys() -> None:
    assert keys(title()) == keys(title())


def test_a_setting_changes_its_step_and_those_after_it() -> None:
    changed = [BUILD[0], BUILD[1] | {"settings": {"gloss": 0.5}}, BUILD[2]]
    assert same(keys(title()), keys(title(build=changed))) == [True, True, False, False]


def test_a_light_changes_the_steps_that_it_lights_and_those_after_them() -> None:
    turned = title(lights=[{"azimuth": 10}])
    assert same(keys(title()), keys(turned)) == [True, True, False, False]


@pytest.mark.parametrize(
    "changes",
    [
        {"source": {"text": "Ac"}},
        {"source": {"size": 41}},
        {"source": {"font": "Anton"}},
        {"source": {"letter_spacing": 1}},
        {"word": {"placement": {"scale": 1.1}}},
        {"word": {"placement": {"x": 0.3}}},
        {"word": {"face_opacity": 0.5}},
    ],
)
def test_the_source_changes_everything(changes: dict) -> None:
    assert not any(same(keys(title()), keys(title(**changes))))


@pytest.mark.parametrize(
    "changes",
    [
        {"word": {"name": "Other"}},
        {"word": {"opacity": 0.4}},
        {"word": {"blend": "multiply"}},
        {"word": {"placement": {"x": 12, "y": -7}}},
        {"name": "Another title"},
    ],
)
def test_what_comes_after_the_build_changes_nothing_in_it(changes: dict) -> None:
    assert keys(title()) == keys(title(**changes))


def test_scale_and_time_count_where_they_matter() -> None:
    assert not any(same(keys(title()), keys(title(), scale=0.5)))
    assert keys(title()) == keys(title(), time=2.0)
    slide = {"settings": {"slide": {"pegs": [{"at": 0, "value": 0}, {"at": 1, "value": 1}]}}}
    moving = title(build=[*BUILD[:2], BUILD[2] | slide])
    assert same(keys(moving), keys(moving, time=0.5)) == [True, True, True, False]


def test_steps_that_are_off_or_have_no_strength_are_not_planned() -> None:
    for changes in ({"on": False}, {"strength": 0}):
        without = title(build=[BUILD[0], BUILD[1] | changes, BUILD[2]])
        assert keys(without) == keys(title(build=[BUILD[0], BUILD[2]]))


def test_a_build_is_cut_until_and_before_a_step_and_to_its_stages() -> None:
    assert keys(title(), until="shade") == keys(title())[:3]
    assert keys(title(), before="shade") == keys(title())[:2]
    assert keys(title(), stages=("relief", "light")) == keys(title())[:3]


def test_whole_pixels_move_the_piece_and_only_the_rest_is_drawn() -> None:
    document = title(word={"placement": {"x": 10.25, "y": -3.5}})
    planner = Planner(document, library_at(None), time=0, scale=1, region=REGION)
    planned = planner.layer(document.layers[0])
    assert planned.origin == (10, -3)
    assert planned.shift == (0.25, -0.5)
