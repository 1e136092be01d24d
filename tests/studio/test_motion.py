"""Time in the studio: arrivals, new steps and layers, readings, pictures at a time."""

import json

import pytest
from django.test import Client

from studio.titles.models import Arrival

pytestmark = pytest.mark.django_db(transaction=True)
SMALL = {"text": "AB", "finish": "enamel", "width": 160, "height": 90}


@pytest.fixture
def document(client: Client) -> dict:
    made = client.post("/api/titles", SMALL, content_type="application/json").json()
    return client.get(f"/api/titles/{made['id']}").json()["document"]


def post(client: Client, path: str, **body):
    return client.post(f"/api{path}", json.dumps(body), content_type="application/json")


def word(document: dict) -> dict:
    return next(layer for layer in document["layers"] if layer["kind"] == "lettering")


def arriving(client: Client, document: dict, name: str = "swells-up", **more) -> dict:
    how = {"layer": word(document)["id"], "arrival": name} | more
    return post(client, "/look/arrival", document=document, **how).json()


def test_the_catalogue_tells_of_all_models(client: Client) -> None:
    told = client.get("/api/catalogue").json()
    scale = next(each for each in told["models"]["placement"] if each["name"] == "scale")
    assert scale["kind"] == "fraction"
    assert scale["usual"] == [0, 3]
    assert scale["moves"]
    assert told["frames"]["largest_area"] == 40_000_000
    assert 24000 / 1001 in told["rates"]


def test_steps_and_layers_are_added_by_the_engine(client: Client, document: dict) -> None:
    layer = word(document)["id"]
    step = {"layer": layer, "step": "relief.bevel", "at": 0}
    added = post(client, "/look/step", document=document, **step).json()
    assert word(added)["build"][0]["step"] == "relief.bevel"
    floor = post(client, "/look/layer", document=document, kind="floor").json()
    assert any(each["kind"] == "floor" for each in floor["layers"])
    for wrong in ({"step": "no.such"}, {"layer": "nowhere"}, {"at": -1}):
        assert post(client, "/look/step", document=document, **step | wrong).status_code == 422
    assert post(client, "/look/layer", document=document, kind="door").status_code == 422


def test_an_arrival_is_laid_and_refused_where_it_can_not_be(client: Client, document: dict) -> None:
    moving = arriving(client, document, at=0.5, length=2.0)
    assert [peg["at"] for peg in word(moving)["placement"]["scale"]["pegs"]] == [0.5, 2.5]
    layer = word(document)["id"]
    for wrong in (
        {"arrival": "nothing"},
        {"layer": "nowhere"},
        {"length": 0},
        {"at": -1},
        {"length": 1e9},
    ):
        ask = {"document": document, "layer": layer, "arrival": "swells-up"} | wrong
        answer = post(client, "/look/arrival", **ask)
        assert answer.status_code == 422, wrong
        assert answer.json()["message"]


def test_ones_own_arrivals_are_kept_given_taken_renamed_and_dropped(
    client: Client, document: dict
) -> None:
    shipped = client.get("/api/arrivals").json()
    assert {each["way"] for each in shipped} == {"arrival", "departure"}
    moving = arriving(client, document)
    keep = {"layer": word(document)["id"], "label": "Mine", "start": 0, "end": 1.2}
    made = post(client, "/arrivals", document=moving, **keep)
    assert made.status_code == 201, made.content
    assert made.json()["name"] == "mine"
    given = client.get("/api/arrivals/mine/file")
    assert "mine.arrival.json" in given["Content-Disposition"]
    content = json.loads(given.content)
    renamed = client.patch("/api/arrivals/mine", {"label": "Ours"}, content_type="application/json")
    assert renamed.json()["label"] == "Ours"
    assert client.delete("/api/arrivals/mine").status_code == 204
    assert Arrival.objects.count() == 0
    again = client.post("/api/arrivals/import", content, content_type="application/json")
    assert again.status_code == 201
    assert word(arriving(client, document, "mine"))["placement"]["scale"]["pegs"]
    content["name"] = "swells-up"
    refused = client.post("/api/arrivals/import", content, content_type="application/json")
    assert refused.status_code == 422
    assert "ships" in refused.json()["message"]
    for way in ({"label": "   "}, {"label": "Fades"}, {"start": 3, "end": 2}, {"layer": "no"}):
        assert post(client, "/arrivals", document=moving, **keep | way).status_code == 422


def test_broken_arrivals_are_refused_and_nothing_is_kept(client: Client) -> None:
    for broken in ({}, {"name": "a"}, {"name": "a", "label": "A", "length": 1, "motions": [{}]}):
        answer = client.post("/api/arrivals/import", broken, content_type="application/json")
        assert answer.status_code == 422
    assert Arrival.objects.count() == 0


def test_an_arrival_is_shown_on_the_title(client: Client, document: dict) -> None:
    ask = {"session": "s", "document": document, "layer": word(document)["id"], "frames": 4}
    film = post(client, "/arrivals/film", arrival="swells-up", width=64, height=36, **ask)
    assert film["Content-Type"] == "image/png"
    for wrong in ({"arrival": "x"}, {"frames": 999}, {"width": 9999}):
        how = {"arrival": "swells-up"} | wrong
        assert post(client, "/arrivals/film", **ask | how).status_code == 422


def test_readings_of_time_are_given_and_looks_are_of_the_time_asked_for(
    client: Client, document: dict
) -> None:
    moving = arriving(client, document)
    moving["frame"] |= {"duration": 0.4}
    said = post(client, "/readings/motion", session="s", document=moving).json()
    assert {"standing", "pace"} & {each["gauge"] for each in said}
    assert all("time" in each and "place" in each for each in said)
    ask = {"session": "s", "document": moving, "layer": word(moving)["id"]}
    at = {"at": 45, "samples": 64}
    sections = [post(client, "/section", **ask, **at, time=t).json()["height"] for t in (0, 0.39)]
    assert all(height is None for height in sections[0])
    assert any(height is not None for height in sections[1])
    assert post(client, "/section", **ask, **at, time=-1).status_code == 422
