"""Sets of titles, series, marks, finishes on many, and bundles."""

import io
import json
import zipfile
from pathlib import Path

import pytest

from mabrel import new_title
from mabrel.compose import finish_named
from studio.titles.models import Finish, Title
from tests.studio.conftest import Api, body, keep, parsed
from tests.studio.test_uploads import DISC, png


def words(api: Api, document: dict, text: str):
    return api.post("/look/words", {"document": document, "words": text})


def text_of(document: dict) -> str:
    word = next(each for each in document["layers"] if each["kind"] == "lettering")
    return word["source"]["text"]


def test_lines_make_a_set_that_keeps_the_look(api: Api, document: dict) -> None:
    made = words(api, document, "RUST\n\nSALT\\nWATER\r\nHello, world\n").json()
    assert [each["name"] for each in made] == ["Rust", "Salt water", "Hello, world"]
    assert [text_of(each["document"]) for each in made] == ["RUST", "SALT\nWATER", "Hello, world"]
    steps = [[step["step"] for step in each["document"]["layers"][-1]["build"]] for each in made]
    assert steps[0] == steps[1] == steps[2] != []


@pytest.mark.parametrize("mark", [",", ";", "\t"])
def test_a_table_names_its_columns(api: Api, document: dict, mark: str) -> None:
    table = f'Name{mark}Word\nFirst card{mark}"RUST"\n{mark}SALT'
    made = words(api, document, table).json()
    assert [(each["name"], text_of(each["document"])) for each in made] == [
        ("First card", "RUST"),
        ("Salt", "SALT"),
    ]


def test_columns_may_be_layers(api: Api, document: dict) -> None:
    second = document["layers"][-1] | {"id": "sub", "name": "Sub", "build": []}
    document["layers"].append(second)
    made = words(api, document, "KELP,Sub\nRUST,part one").json()
    found = [each["source"]["text"] for each in made[0]["document"]["layers"][-2:]]
    assert found == ["RUST", "part one"]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("  \n", "there is no word"),
        ("\n".join("WORD" for _ in range(201)), "at most 200"),
        ("Name,Word\na,b,c", "row 2: has 3 cells"),
    ],
)
def test_a_list_that_can_not_be_used_is_refused(
    api: Api, document: dict, text: str, said: str
) -> None:
    answer = words(api, document, text)
    assert answer.status_code == 422
    assert said in answer.json()["message"]


def test_one_bad_row_spoils_no_other(api: Api, document: dict) -> None:
    made = words(api, document, "RUST\n" + "X" * 2001).json()
    assert made[0]["document"] is not None
    assert made[1]["document"] is None
    assert made[1]["fault"]


def test_a_set_goes_on_the_shelf_as_one_series_or_not_at_all(api: Api, document: dict) -> None:
    made = [each["document"] for each in words(api, document, "RUST\nSALT").json()]
    kept = api.post("/titles/set", {"documents": made, "series": " The Skerry Line "})
    assert kept.status_code == 201
    assert {each["series"] for each in api.get("/titles").json()} == {"The Skerry Line"}
    made[1]["layers"][-1]["build"][0]["step"] = "tone.nothing"
    refused = api.post("/titles/set", {"documents": made})
    assert refused.status_code == 422
    assert Title.objects.count() == 2


def test_a_title_is_put_in_a_series_and_its_copy_stays_there(api: Api, kept: Title) -> None:
    assert api.send("PUT", f"/titles/{kept.id}/series", {"series": "Ferry"}).status_code == 200
    copy = api.post(f"/titles/{kept.id}/duplicate").json()
    assert copy["series"] == "Ferry"


def test_marks_are_set_read_renamed_and_deleted(api: Api, kept: Title, document: dict) -> None:
    document["name"] = "As it was"
    mark = api.post(f"/titles/{kept.id}/marks", {"name": "Warm", "document": document}).json()
    path = f"/titles/{kept.id}/marks/{mark['id']}"
    assert api.get(path).json()["name"] == "As it was"
    assert api.send("PATCH", path, {"name": "Warmer"}).json()["name"] == "Warmer"
    assert [each["name"] for each in api.get(f"/titles/{kept.id}/marks").json()] == ["Warmer"]
    assert api.send("DELETE", path).status_code == 204
    assert api.get(path).status_code == 404


def test_a_mark_of_another_title_is_not_found(api: Api, kept: Title, document: dict) -> None:
    mark = api.post(f"/titles/{kept.id}/marks", {"name": "Warm", "document": document}).json()
    other = keep(new_title("RUST", frame=(320, 180)))
    assert api.get(f"/titles/{other.id}/marks/{mark['id']}").status_code == 404


def test_a_finish_goes_on_several_layers(api: Api, document: dict) -> None:
    document["layers"].append(document["layers"][-1] | {"id": "second", "build": []})
    ids = [layer["id"] for layer in document["layers"][-2:]]
    body = {"document": document, "layers": ids, "finish": "enamel"}
    builds = [each["build"] for each in api.post("/look/finish", body).json()["layers"][-2:]]
    kinds = [[step["step"] for step in build] for build in builds]
    assert kinds[0] == kinds[1] == [step.step for step in finish_named("enamel").build]


def test_a_finish_goes_on_many_titles_and_is_taken_back(api: Api, kept: Title) -> None:
    other = keep(new_title("RUST", frame=(320, 180)))
    before = [step.step for step in parsed(kept).layers[-1].build]
    asked = {"titles": [str(kept.id), str(other.id)]}
    changed = api.post("/finishes/enamel/titles", asked).json()
    assert len(changed) == 2
    kept.refresh_from_db()
    assert [step.step for step in parsed(kept).layers[-1].build] != before
    api.post("/titles/take-back", {"changed": changed})
    kept.refresh_from_db()
    assert [step.step for step in parsed(kept).layers[-1].build] == before


def test_where_one_title_can_not_take_a_finish_none_does(api: Api, kept: Title) -> None:
    empty = parsed(kept).model_copy(update={"layers": [], "name": "Empty"})
    other = keep(empty)
    asked = {"titles": [str(kept.id), str(other.id)]}
    assert api.post("/finishes/enamel/titles", asked).status_code == 422
    kept.refresh_from_db()
    assert kept.version == 1


def test_a_finish_is_exported_imported_and_renamed(api: Api, document: dict) -> None:
    layer = document["layers"][-1]["id"]
    api.post("/finishes", {"document": document, "layer": layer, "label": "Night brass"})
    exported = api.get("/finishes/night-brass/file")
    assert exported["Content-Disposition"].endswith("night-brass.finish.json")
    api.send("DELETE", "/finishes/night-brass")
    assert api.post("/finishes/import", json.loads(exported.content)).status_code == 201
    renamed = api.send("PATCH", "/finishes/night-brass", {"label": "Dusk brass"})
    assert renamed.json()["label"] == "Dusk brass"
    own = Finish.objects.get()
    assert own.label == json.loads(own.document)["label"] == "Dusk brass"
    assert api.send("PATCH", "/finishes/ship-brass", {"label": "Mine"}).status_code == 422


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"name": "ship-brass"}, "ships with Mabrel"),
        ({"build": [{"step": "tone.nothing"}]}, "tone.nothing"),
        ({"letter_height": 0}, "letter_height"),
    ],
)
def test_a_broken_finish_is_not_imported(api: Api, change: dict, said: str) -> None:
    finish = {"name": "mine", "label": "Mine", "letter_height": 100, "build": []} | change
    answer = api.post("/finishes/import", finish)
    assert answer.status_code == 422
    assert said in answer.json()["message"]
    assert Finish.objects.count() == 0


def test_a_title_travels_with_its_files(api: Api, library: Path) -> None:
    (library / "disc.svg").write_bytes(DISC)
    title = keep(new_title("X", picture="disc.svg", frame=(320, 180), home=library))
    packed = api.get(f"/titles/{title.id}/file")
    assert packed["Content-Disposition"].endswith("Disc.mabrel")
    (library / "disc.svg").write_bytes(DISC.replace(b"25", b"12"))  # another one by now
    made = api.upload("/titles/import", "disc.mabrel", body(packed))
    assert made.status_code == 201
    kept = Title.objects.get(pk=made.json()["id"])
    assert parsed(kept).layers[-1].source.picture == "disc-2.svg"
    assert (library / "disc-2.svg").read_bytes() == DISC


def packed(**members: bytes) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as archive:
        for name, content in members.items():
            archive.writestr(name.replace("__", "/"), content)
    return file.getvalue()


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"Dear diary", "no .mabrel file"),
        (packed(notes=b"x"), "has no title.json"),
        (packed(**{"title.json": b"{"}), "not valid JSON"),
        (packed(**{"title.json": b'{"mabrel": 1}', "files/../../x.png": png()}), "no name"),
        (
            packed(**{"title.json": b'{"mabrel": 1, "layers": [{"kind": "picture", "source":'
                      b' {"picture": "gone.png"}}]}'}),
            "is not in the file",
        ),
    ],
)  # fmt: skip
def test_a_broken_bundle_is_refused_and_leaves_nothing(
    api: Api, library: Path, content: bytes, said: str
) -> None:
    answer = api.upload("/titles/import", "x.mabrel", content)
    assert answer.status_code == 422
    assert said in answer.json()["message"]
    assert Title.objects.count() == 0
    assert list(library.iterdir()) == []
