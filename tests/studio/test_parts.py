"""What a layer breaks into, as the page asks for it."""

import pytest

from tests.studio.conftest import Api


def document(word: str = "IL", **settings) -> dict:
    build = [
        {"id": "bevel", "step": "relief.bevel", "settings": {"width": 4}},
        {"id": "sides", "step": "depth.extrude", "settings": {"length": 14}},
        {"id": "parts", "step": "surface.parts", "settings": settings},
    ]
    source = {"text": word, "font": "Archivo Black", "size": 80}
    layer = {"kind": "lettering", "id": "word", "source": source, "build": build}
    return {"mabrel": 1, "frame": {"width": 320, "height": 180}, "layers": [layer]}


def asked(api: Api, **more):
    ask = {"session": "x", "document": document(), "layer": "word", "step": "parts"} | more
    return api.post("/parts", ask)


def test_parts_come_with_letter_facing_and_outline(api: Api) -> None:
    answer = asked(api)
    assert answer.status_code == 200
    found = answer.json()
    assert found["lost"] == []
    parts = found["parts"]
    assert {each["kind"] for each in parts} == {"back", "side", "facet", "front"}
    assert {each["letter"] for each in parts} == {"I1", "L1"}
    assert len({each["name"] for each in parts}) == len(parts)
    for each in parts:
        assert each["path"].startswith("M")
        assert each["path"].endswith("Z")
        assert each["painted"] is None
        assert each["colours"] is None
        assert (each["facing"] is None) == (each["kind"] in ("back", "front"))


def test_paints_are_told_where_they_fall_and_which_find_nothing(api: Api) -> None:
    paints = [{"kind": "front", "letter": "L1"}, {"kind": "side", "letter": "O1"}]
    found = asked(api, document=document(paints={"parts": paints})).json()
    assert found["lost"] == [1]
    painted = [each["name"] for each in found["parts"] if each["painted"] == 0]
    assert painted == ["L1-front-1"]


def test_colours_are_those_of_the_picture(api: Api) -> None:
    paints = [{"kind": "front", "colour": "#00ff00", "shading": 0}]
    settings = {"paints": {"parts": paints}, "by": "none"}
    found = asked(api, document=document(**settings), coloured=True).json()
    fronts = [each for each in found["parts"] if each["kind"] == "front"]
    assert [each["colours"] for each in fronts] == [["#00ff00"]] * 2


def test_before_the_bevel_there_are_letters_alone(api: Api) -> None:
    parts = asked(api, step="bevel").json()["parts"]
    assert [each["kind"] for each in parts] == ["front", "front"]


@pytest.mark.parametrize(
    "more",
    [
        {"layer": "nobody"},
        {"step": None},
        {"time": -1},
        {"coloured": "perhaps"},
        {"document": document(paints={"parts": [{"kind": "roof"}]})},
        {"document": document(paints={"parts": [{}] * 2001})},
    ],
)
def test_what_can_not_be_answered_is_said(api: Api, more: dict) -> None:
    answer = asked(api, **more)
    assert answer.status_code == 422
    assert answer.json()["message"]


def test_a_layer_from_behind_says_so(api: Api) -> None:
    turned = document()
    turned["layers"][0]["placement"] = {"turn_y": 180}
    answer = asked(api, document=turned)
    assert answer.status_code == 422
    assert "from behind" in answer.json()["message"]
