"""Bad input by way of the API: one clear sentence, never a server error."""

import copy

import pytest

from tests.studio.conftest import Api


def broken(document: dict, change) -> dict:
    wrong = copy.deepcopy(document)
    change(wrong)
    return wrong


def in_first_step(name: str, value):
    def change(document: dict) -> None:
        document["layers"][-1]["build"][0]["settings"][name] = value

    return change


def in_source(name: str, value):
    def change(document: dict) -> None:
        document["layers"][-1]["source"][name] = value

    return change


def in_frame(width, height):
    def change(document: dict) -> None:
        document["frame"].update(width=width, height=height)

    return change


CASES = [
    (in_first_step("height", 99), "settings.height", "must be at most 4"),
    (in_first_step("height", "high"), "settings.height", "must be a number"),
    (in_first_step("depth", 1), "settings.depth", "is not a known field"),
    (lambda d: d["layers"][-1]["build"][0].update(step="moon.rise"), "build[0].step", "moon.rise"),
    (in_source("text", "A" * 10_000), "source.text", "at most 2000 characters"),
    (in_source("size", -3), "source.size", "must be at least 1"),
    (in_source("font", "Nope Sans"), "", "there is no font 'Nope Sans'"),
    (in_frame(-5, 10), "frame.width", "must be at least 1"),
    (in_frame(100_000, 100_000), "frame.width", "must be at most 16384"),
    (in_frame(16_000, 16_000), "frame", "at most 40 million pixels"),
    (lambda d: d.update(mabrel=9), "mabrel", "newer than this program"),
    (lambda d: d["layers"].append({"kind": "cloud"}), "layers[2]", "must be one of"),
]


@pytest.mark.parametrize(("change", "place", "rule"), CASES)
def test_a_broken_document_is_refused_everywhere(
    api: Api, document: dict, kept, change, place: str, rule: str
) -> None:
    wrong = broken(document, change)
    answers = [
        api.post("/preview", {"session": "s", "document": wrong}),
        api.post("/export", {"document": wrong}),
    ]
    if "font" not in rule:  # a font may be missing on the machine that a title is opened on
        save = {"version": 1, "document": wrong}
        answers.append(api.send("PUT", f"/titles/{kept.id}", save))
    for answer in answers:
        assert answer.status_code == 422, answer.content
        fault = answer.json()
        assert place in fault["place"]
        assert rule in fault["rule"]
        assert "\n" not in fault["message"]
    assert api.get(f"/titles/{kept.id}").json()["version"] == 1


@pytest.mark.parametrize(
    ("body", "said"),
    [
        (b"{", "line 1, column 1: is not valid JSON"),
        (b'{"session": NaN}', "line 1, column 13: is not valid JSON"),
        (b"[" * 50_000, "nested too deeply"),
        (b'{"a": "\xff"}', "UTF-8"),
        (b"", ""),
        (b"7", ""),
    ],
)
def test_what_is_no_request_is_refused(api: Api, body: bytes, said: str) -> None:
    answer = api.post("/preview", body)
    assert 400 <= answer.status_code < 500
    assert said in answer.json()["message"]


@pytest.mark.parametrize("path", ["/build-pictures", "/section", "/tones"])
def test_a_layer_that_is_not_there_is_named(api: Api, document: dict, path: str) -> None:
    ask = {"session": "s", "document": document, "layer": "nobody", "at": 1, "step": "x"}
    answer = api.post(path, ask)
    assert answer.status_code == 422
    assert "'nobody'" in answer.json()["message"]


@pytest.mark.parametrize(
    "new",
    [
        {"text": "A", "width": 100_000, "height": 100_000},
        {"text": "A", "width": -5},
        {"text": "A", "font": "Nope"},
        {"text": "A", "finish": "nope"},
        {"text": "A" * 10_000},
        {"text": None},
        {},
    ],
)
def test_a_title_that_cannot_be_made_is_not_made(api: Api, new: dict) -> None:
    answer = api.post("/titles", new)
    assert answer.status_code == 422
    assert answer.json()["message"]
    assert api.get("/titles").json() == []


def test_another_site_may_not_write(api: Api) -> None:
    answer = api.post("/titles", {"text": "A"}, origin="http://elsewhere.example")
    assert answer.status_code == 403
    assert api.post("/titles", {"text": "A"}, origin="http://testserver").status_code == 201


def test_addresses_that_are_not_there(api: Api) -> None:
    assert api.get("/nothing").status_code == 404
    assert api.get("/titles/7").status_code == 422
    assert api.get("/finishes/ship-brass/picture", session="s", width=9_999_999).status_code == 422
    huge = {"session": "s", "frame_width": 10**9, "text": "A"}
    assert api.get("/finishes/ship-brass/picture", **huge).status_code == 422


def test_look_acts_refuse_what_is_not_there(api: Api, document: dict) -> None:
    layer = document["layers"][-1]["id"]
    for path, ask in (
        ("/look/swap", {"layer": "nobody", "text": "A"}),
        ("/look/swap", {"layer": layer, "font": "Nope"}),
        ("/look/resize", {"layer": layer, "size": -1}),
        ("/look/resize", {"layer": layer, "size": 1e9}),
        ("/look/finish", {"layer": layer, "finish": "nope"}),
        ("/look/finish", {"layer": document["layers"][0]["id"], "finish": "enamel"}),
    ):
        answer = api.post(path, ask | {"document": document})
        assert answer.status_code == 422, (path, answer.content)


def test_a_full_disk_is_told_and_nothing_is_acknowledged(
    api: Api, document: dict, kept, monkeypatch: pytest.MonkeyPatch
) -> None:
    from django.db import OperationalError

    from studio.titles.models import Title

    def full(self: Title) -> None:
        raise OperationalError("database or disk is full")

    monkeypatch.setattr(Title, "_remember", full)
    answer = api.send("PUT", f"/titles/{kept.id}", {"version": 1, "document": document})
    assert answer.status_code == 503
    assert "disk is full" in answer.json()["message"]
    assert api.get(f"/titles/{kept.id}").json()["version"] == 1
