"""Plans: the key of a result changes with all that it depends on, and with nothing else."""

import importlib
from dataclasses import replace
from typing import Any

import pytest

from mabrel import Renderer
from mabrel.camera import Card
from mabrel.render import nodes_of
from mabrel.render.layer import LayerPlan
from mabrel.render.planner import Planner
from mabrel.render.view import Part, View
from mabrel.steps import Margin, kinds
from mabrel.title import Layer, Title, parse_title

builds = importlib.import_module("mabrel.render.builds")
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
    """Those of the source and the steps of the word, in their order."""
    nodes = list(nodes_of([Renderer().plan(document, **how)]))
    source = [node.key for node in nodes if node.kind == "source"][-1]
    return [source, *(node.key for node in nodes if node.kind == "step")]


def same(first: list[str], second: list[str]) -> list[bool]:
    return [a == b for a, b in zip(first, second, strict=True)]


def test_a_view_that_comes_up_twice_is_planned_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """The picture and the overview of a wash are one view, where the picture is that coarse."""
    planned: list[tuple] = []
    plan = Planner._planned

    def noted(self: Planner, view: View, layer: Layer, card: Card) -> LayerPlan:
        planned.append((layer.id, view, id(card) if layer.kind == "floor" else None))
        return plan(self, view, layer, card)

    monkeypatch.setattr(Planner, "_planned", noted)
    layers = [
        {"kind": "floor", "id": "quay", "level": 40, "build": [{"step": "surface.made"}]},
        {"kind": "lettering", "id": "word", "source": {"text": "Ab", "size": 40}},
        {"kind": "wash", "id": "lens", "build": [{"step": "lens.flare"}]},
    ]
    frame = {"width": 200, "height": 100}
    Renderer().plan(parse_title({"mabrel": 1, "frame": frame, "layers": layers}), scale=0.5)
    assert sum(layer == "quay" for layer, *_ in planned) > 1  # in bands
    assert len(planned) == len(set(planned))


def test_what_lies_beneath_a_wash_is_its_overview_where_that_is_as_fine() -> None:
    layers = [
        {"kind": "backdrop", "id": "back"},
        {"kind": "wash", "id": "lens", "build": [{"step": "lens.flare"}]},
    ]
    frame = {"width": 2000, "height": 1000}
    document = parse_title({"mabrel": 1, "frame": frame, "layers": layers})
    for scale, same_one in ((0.4, True), (0.6, False)):
        nodes = list(nodes_of([Renderer().plan(document, scale=scale)]))
        (overview,) = (node for node in nodes if node.kind == "overview")
        (wash,) = (node for node in nodes if node.kind == "wash")
        assert (overview.inputs[0] is wash.inputs[0]) == same_one


def test_a_renderer_knows_one_title_from_another() -> None:
    """What never changes in a title is read once; that of another one is not taken for it."""
    renderer = Renderer()
    documents = [title(build=[{"step": "tone.gradient_map", "settings": {"slide": slide}}]) for
                 slide in (0.0, 0.5)]  # fmt: skip
    for _ in range(2):
        for document in documents:
            again = Renderer().plan(document).key
            assert renderer.plan(document).key == renderer.plan(document).key == again


def test_a_setting_that_changes_is_read_at_each_time() -> None:
    moving = {"pegs": [{"at": 0, "value": 0.0}, {"at": 1, "value": 1.0}]}
    document = title(build=[{"step": "tone.gradient_map", "settings": {"slide": moving}}])
    renderer = Renderer()
    keys_then = [renderer.plan(document, time=time).key for time in (0, 0.5, 1, 0.5)]
    assert len(set(keys_then)) == 3
    assert keys_then[1] == keys_then[3]


@pytest.mark.parametrize(("placement", "times"), [({}, 1), ({"turn_y": 40}, 2)])
def test_a_step_is_asked_once_how_much_room_it_needs(
    monkeypatch: pytest.MonkeyPatch, placement: dict, times: int
) -> None:
    """And once more what it would need on a level card, where its own is turned."""
    asked: list[str] = []

    def counting(name: str) -> Any:
        kind = kinds()[name]

        def room(*of: Any) -> Margin:
            asked.append(name)
            return kind.room(*of)

        return replace(kind, room=room)

    monkeypatch.setattr(builds, "kind_of", counting)
    build = [*BUILD, {"step": "depth.extrude"}, {"step": "ground.reflection"}]
    Renderer().plan(title(build=build, word={"placement": placement}))
    found = {name: asked.count(name) for name in asked}
    assert found == {step["step"]: 1 for step in BUILD} | {
        "depth.extrude": times,
        "ground.reflection": times,
    }


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
    build = title().layers[0].build
    assert Part(until="shade").of(build) == build[:2]
    assert Part(before="shade").of(build) == build[:1]
    assert Part(stages=("relief", "light")).of(build) == build[:2]


def test_whole_pixels_move_the_piece_and_only_the_rest_is_drawn() -> None:
    here, there, between = (keys(title(word={"placement": {"x": x}})) for x in (0.25, 10.25, 10.5))
    assert here == there
    assert here[0] != between[0]
