"""The grids in which cells are painted, as the page asks for them."""

import pytest

from tests.studio.conftest import Api

FONT = "Press Start 2P"


def document(**settings) -> dict:
    build = [
        {"id": "cells", "step": "surface.cells", "settings": settings},
        {"id": "shade", "step": "light.shade"},
    ]
    source = {"text": "IL", "font": FONT, "size": 80}
    word = {"kind": "lettering", "id": "word", "source": source, "build": build}
    return {"mabrel": 1, "frame": {"width": 320, "height": 180}, "layers": [word]}


def asked(api: Api, **more):
    ask = {"session": "x", "document": document(), "layer": "word", "step": "cells"} | more
    return api.post("/cells", ask)


@pytest.mark.parametrize("divided", [1, 4])
def test_each_letter_has_a_grid_with_its_ink(api: Api, divided: int) -> None:
    answer = asked(api, divided=divided)
    assert answer.status_code == 200
    found = answer.json()
    assert found["divided"] == divided
    grids = found["grids"]
    assert [each["letter"] for each in grids] == ["I", "L"]
    for grid in grids:
        assert grid["across"] == pytest.approx(10)
        assert len(grid["ink"]) == grid["rows"] * divided
        assert {len(row) for row in grid["ink"]} == {grid["columns"] * divided}
        assert grid["ink"][-1] == "#" * grid["columns"] * divided  # the foot of both
        assert grid["painted"] is None


def test_painted_letters_are_told_where_they_lie_now(api: Api) -> None:
    hand = {"words": "LA", "inks": [{"colour": "#fff"}], "letters": [{"letter": 0, "rows": ["a"]}]}
    grids = asked(api, document=document(painted=hand)).json()["grids"]
    assert [each["painted"] for each in grids] == [None, 0]


def test_a_step_without_cells_has_no_grids(api: Api) -> None:
    assert asked(api, step="shade").json()["grids"] == []
    assert asked(api, step="nothing").json()["grids"] == []


@pytest.mark.parametrize(
    "more", [{"layer": "nobody"}, {"divided": 3}, {"divided": 1e9}, {"step": None}, {"time": -1}]
)
def test_what_can_not_be_answered_is_said(api: Api, more: dict) -> None:
    answer = asked(api, **more)
    assert answer.status_code == 422
    assert answer.json()["message"]
