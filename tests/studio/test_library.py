"""Titles that name pictures and fonts of the studio's library."""

from pathlib import Path

import pytest
from django.core.management import call_command

from studio.titles.models import Title
from tests.studio.conftest import Api, parsed

DISC = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">'
    '<circle cx="50" cy="50" r="40"/></svg>'
)


@pytest.fixture
def emblem(document: dict, library: Path) -> dict:
    """The document with the word replaced by a picture of the library."""
    (library / "disc.svg").write_text(DISC)
    word = document["layers"][-1]
    picture = {
        "kind": "picture",
        "id": "emblem",
        "source": {"picture": "disc.svg", "height": 90},
        "build": word["build"],
    }
    return document | {"layers": [*document["layers"][:-1], picture]}


def asked(document: dict, **more) -> dict:
    return {"session": "s", "document": document, "scale": 0.5} | more


def test_a_picture_of_the_library_is_rendered(api: Api, emblem: dict) -> None:
    answer = api.post("/preview", asked(emblem, tap="matte"))
    assert answer.status_code == 200
    pixels = b"".join(answer) if answer.streaming else answer.content
    assert max(pixels[::4]) == 255


@pytest.mark.parametrize(
    ("name", "said"),
    [
        ("gone.png", "there is no file 'gone.png'"),
        ("../mabrel.sqlite3", "must lie beside"),
        ("/etc/passwd", "must lie beside"),
        ("broken.svg", "picture 'broken.svg' is not well-formed"),
        ("notes.png", "picture 'notes.png' is no PNG"),
    ],
)
@pytest.mark.parametrize("path", ["/preview", "/export", "/build-pictures"])
def test_a_picture_that_can_not_be_used_is_one_clear_sentence(
    api: Api, emblem: dict, library: Path, path: str, name: str, said: str
) -> None:
    (library / "broken.svg").write_text(DISC[:-9])
    (library / "notes.png").write_text("Dear diary")
    emblem["layers"][-1]["source"]["picture"] = name
    body = {"document": emblem} if path == "/export" else asked(emblem, layer="emblem")
    if path == "/build-pictures":
        body.pop("scale")
    answer = api.post(path, body)
    assert answer.status_code == 422
    assert said in answer.json()["message"]
    assert "\n" not in answer.json()["message"]


def test_a_broken_font_of_the_library_is_one_clear_sentence(
    api: Api, document: dict, library: Path
) -> None:
    (library / "own.ttf").write_bytes(b"\0\1\0\0" + bytes(50))
    document["layers"][-1]["source"]["font"] = "own.ttf"
    answer = api.post("/preview", asked(document))
    assert answer.status_code == 422
    assert "'own.ttf' is damaged" in answer.json()["message"]


def test_references_that_lead_nowhere_are_refused_with_their_place(
    api: Api, document: dict
) -> None:
    document["layers"].append({"kind": "copy", "source": {"layer": "nobody"}})
    answer = api.post("/preview", asked(document))
    assert answer.status_code == 422
    assert answer.json()["place"] == "layers[2].source.layer"


def test_the_catalogue_lists_what_ships_and_what_is_in_the_library(
    api: Api, emblem: dict, library: Path
) -> None:
    (library / "own.ttf").write_bytes(b"x")
    pictures = api.get("/catalogue").json()["pictures"]
    assert "shipped/harbour.hdr" in pictures
    assert "disc.svg" in pictures
    assert "own.ttf" not in pictures


def test_a_word_becomes_a_picture_and_its_layers_alone_are_shown(api: Api, emblem: dict) -> None:
    copy = {"kind": "copy", "id": "copy", "source": {"layer": "emblem"}, "build": []}
    emblem["layers"].append(copy)
    answer = api.post("/build-pictures", {"session": "s", "document": emblem, "layer": "emblem"})
    assert answer.status_code == 200
    assert [each["step"] for each in answer.json()["layers"]][-2:] == ["emblem", "copy"]


def test_a_look_that_shows_another_layer_is_no_finish(api: Api, document: dict) -> None:
    word = document["layers"][-1]
    shows = {
        "step": "surface.picture",
        "settings": {"picture": f"layer:{document['layers'][0]['id']}"},
    }
    word["build"] = [shows]
    body = {"label": "Mirror", "document": document, "layer": word["id"]}
    answer = api.post("/finishes", body)
    assert answer.status_code == 422
    assert "another layer" in answer.json()["message"]


def test_the_demo_brings_its_pictures(db: None, library: Path) -> None:
    call_command("load_demo")
    assert (library / "gull.svg").exists()
    gull = parsed(Title.objects.get(name="Gull"))
    assert gull.layers[-1].source.picture == "gull.svg"


def test_a_word_is_swapped_for_a_picture_of_the_library(
    api: Api, document: dict, library: Path
) -> None:
    (library / "disc.svg").write_text(DISC)
    word = document["layers"][-1]["id"]
    answer = api.post("/look/swap", {"document": document, "layer": word, "picture": "disc.svg"})
    assert answer.status_code == 200
    layer = answer.json()["layers"][-1]
    assert (layer["kind"], layer["id"], layer["source"]["picture"]) == ("picture", word, "disc.svg")
    back = api.post("/look/swap", {"document": answer.json(), "layer": word, "text": "RUST"})
    assert back.json()["layers"][-1]["source"]["text"] == "RUST"
    ground = document["layers"][0]["id"]
    refused = api.post("/look/swap", {"document": document, "layer": ground, "picture": "disc.svg"})
    assert refused.status_code == 422
    assert ground in refused.json()["message"]


def test_a_finish_goes_on_a_picture(api: Api, emblem: dict) -> None:
    body = {"document": emblem, "layers": ["emblem"], "finish": "enamel"}
    answer = api.post("/look/finish", body)
    assert answer.status_code == 200
    kept = api.post("/finishes", {"document": emblem, "layer": "emblem", "label": "Disc look"})
    assert kept.status_code == 201
