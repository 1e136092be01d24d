"""Files and titles that are acknowledged stay; what fails leaves nothing behind."""

import json
import shutil
import threading
from collections import namedtuple
from pathlib import Path

import pytest
from django.db import connection

from mabrel import new_title
from studio import passing
from studio.exports.names import file_stems
from studio.library import files
from studio.titles.models import Title
from tests.studio.attacks import zip_of
from tests.studio.conftest import Api, body, keep, parsed
from tests.studio.test_uploads import DISC, png

Usage = namedtuple("Usage", "total used free")
OTHER, THIRD = DISC.replace(b"25", b"12"), DISC.replace(b"25", b"7")


def picture(name: str) -> dict:
    return {"kind": "picture", "source": {"picture": name, "height": 90}}


@pytest.mark.django_db(transaction=True)
def test_uploads_of_one_name_at_the_same_time_are_all_kept(library: Path) -> None:
    contents = [png(level=level) for level in range(40)]
    ready = threading.Barrier(len(contents))
    answers = []

    def send(content: bytes) -> None:
        ready.wait(20)
        answers.append((Api().upload("/library", "plate.png", content), content))
        connection.close()

    threads = [threading.Thread(target=send, args=(content,)) for content in contents]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    assert len(answers) == len(contents)
    for answer, content in answers:
        assert answer.status_code == 201, answer.content
        assert (library / answer.json()["name"]).read_bytes() == content


@pytest.mark.parametrize(
    "name", ["./disc.svg", "x/../disc.svg", "disc.svg/", "//disc.svg", "disc.svg\0", "disc%2esvg"]
)
def test_a_file_is_not_deleted_by_another_name(api: Api, library: Path, name: str) -> None:
    (library / "disc.svg").write_bytes(DISC)
    keep(new_title("X", picture="disc.svg", frame=(320, 180), home=library))
    answer = api._client.delete("/api/library", query_params={"name": name})
    assert answer.status_code == 422
    assert (library / "disc.svg").exists()


def test_what_a_removed_title_or_a_mark_uses_is_used(api: Api, library: Path) -> None:
    for name in ("disc.svg", "ring.svg"):
        (library / name).write_bytes(DISC)
    title = keep(new_title("X", picture="disc.svg", frame=(320, 180), home=library))
    shown = json.loads(title.document)
    shown["layers"][-1]["source"]["picture"] = "ring.svg"
    assert api.post(f"/titles/{title.id}/marks", {"name": "ring", "document": shown})
    title.remove()
    for name, user in (("disc.svg", "Disc (removed)"), ("ring.svg", "the mark Disc: ring")):
        refused = api.send("DELETE", f"/library?name={name}")
        assert refused.status_code == 422
        assert user in refused.json()["message"]
    uses = {each["name"]: each["used_by"] for each in api.get("/library").json()}
    assert [use["where"] for use in uses["disc.svg"] + uses["ring.svg"]] == ["removed", "mark"]
    api.post(f"/titles/{title.id}/restore")
    assert api.get(f"/titles/{title.id}/strip").status_code == 200


def test_replaced_everywhere_means_in_removed_titles_and_marks_too(api: Api, library: Path) -> None:
    title = keep(new_title("X", frame=(320, 180)))
    (library / "disc.svg").write_bytes(DISC)
    shown = {"mabrel": 1, "name": "X", "layers": [picture("disc.svg")]}
    api.post(f"/titles/{title.id}/marks", {"name": "disc", "document": shown})
    api.send("PUT", f"/titles/{title.id}", {"version": 1, "document": shown})
    title.remove()
    api.upload("/library", "plate.png", png())
    assert api.post("/library/replace", {"name": "disc.svg", "by": "plate.png"}).status_code == 200
    assert api.send("DELETE", "/library?name=disc.svg").status_code == 204
    api.post(f"/titles/{title.id}/restore")
    mark = api.get(f"/titles/{title.id}/marks").json()[0]["id"]
    for document in (
        api.get(f"/titles/{title.id}").json()["document"],
        api.get(f"/titles/{title.id}/marks/{mark}").json(),
    ):
        assert document["layers"][0]["source"]["picture"] == "plate.png"


def test_taking_back_leaves_a_title_whose_file_is_gone(api: Api, library: Path) -> None:
    (library / "disc.svg").write_bytes(DISC)
    title = keep(new_title("X", picture="disc.svg", frame=(320, 180), home=library))
    api.upload("/library", "plate.png", png())
    changed = api.post("/library/replace", {"name": "disc.svg", "by": "plate.png"}).json()
    api.send("DELETE", "/library?name=disc.svg")
    assert api.post("/titles/take-back", {"changed": changed}).json() == {"left": ["Disc"]}
    title.refresh_from_db()
    assert title.files == ["plate.png"]


def bundle(*names: str, **contents: bytes) -> bytes:
    layers = [picture(name) for name in names]
    document = json.dumps({"mabrel": 1, "name": "Two", "layers": layers}).encode()
    return zip_of(document, **contents)


def test_names_that_meet_those_of_other_files_are_told_apart(api: Api, library: Path) -> None:
    (library / "logo.png").write_bytes(png(level=1))
    first, second = png(level=50), png(level=90)
    sent = bundle("logo.png", "logo-2.png", **{"logo.png": first, "logo-2.png": second})
    made = api.upload("/titles/import", "two.mabrel", sent)
    assert made.status_code == 201
    shown = [layer.source.picture for layer in parsed(Title.objects.get()).layers]
    assert [(library / name).read_bytes() for name in shown] == [first, second]


def test_a_bundle_that_fails_leaves_no_file(
    api: Api, library: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    whole = bundle("a.png", "b.png", **{"a.png": png(), "b.png": png(level=9)})
    broken = bundle("a.png", "b.png", **{"a.png": png(), "b.png": b"Dear diary"})
    assert api.upload("/titles/import", "x.mabrel", broken).status_code == 422
    assert list(library.iterdir()) == []

    def full(checked: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(Title, "keep", full)
    assert api.upload("/titles/import", "x.mabrel", whole).status_code == 503
    assert list(library.iterdir()) == []
    assert list(passing.passing_place().parent.iterdir()) == []


def test_a_bundle_that_fails_takes_no_file_that_was_there_before(
    api: Api, library: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (library / "a.png").write_bytes(png())

    def full(checked: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(Title, "keep", full)
    sent = bundle("a.png", "b.png", **{"a.png": png(), "b.png": png(level=9)})
    assert api.upload("/titles/import", "x.mabrel", sent).status_code == 503
    assert [path.name for path in library.iterdir()] == ["a.png"]


@pytest.mark.parametrize(
    ("titles", "names"),
    [
        (["a 3", "a", "a"], ["a 3", "a", "a 2"]),
        (["a", "a", "a 2"], ["a", "a 2", "a 2 2"]),
        (["A", "a", ""], ["A", "a 2", "title"]),
        (["a/b", "a:b", ".."], ["a-b", "a-b 2", "title"]),
    ],
)
def test_no_name_stands_twice_in_a_zip(titles: list[str], names: list[str]) -> None:
    assert list(file_stems(titles)) == names


def test_what_a_killed_studio_left_is_swept_at_the_next_start(
    library: Path, settings, tmp_path: Path
) -> None:
    (settings.PASSING_DIR / "half.zip").write_bytes(b"PK")
    (settings.PASSING_DIR / "folder").mkdir()
    (library / ".plate.png.abc").write_bytes(b"half")
    (library / "plate.png").write_bytes(png())
    passing.sweep()
    assert list(settings.PASSING_DIR.iterdir()) == []
    assert [path.name for path in library.iterdir()] == ["plate.png"]


def test_long_names_of_wide_letters_fit_a_file_system(api: Api, library: Path) -> None:
    answer = api.upload("/library", "漢" * 100 + ".png", png())
    again = api.upload("/library", "漢" * 100 + ".png", png(level=3))
    for each in (answer, again):
        assert each.status_code == 201
        assert len(each.json()["name"].encode()) < 255
    assert len(list(files.own_files())) == 2


def test_an_export_leaves_nothing_on_disk(api: Api, document: dict, settings) -> None:
    assert body(api.post("/export", {"document": document})).startswith(b"\x89PNG")
    broken = document | {"layers": [picture("gone.png")]}
    assert api.post("/export", {"document": broken}).status_code == 422
    assert list(settings.PASSING_DIR.iterdir()) == []


def test_a_disk_that_is_nearly_full_takes_titles_and_nothing_else(
    api: Api, document: dict, kept: Title, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(shutil, "disk_usage", lambda path: Usage(10**9, 10**9, 10 * 2**20))
    large = [
        api.upload("/library", "disc.svg", DISC),
        api.upload("/titles/import", "x.mabrel", zip_of(b"{}")),
        api.post("/exports/set", {"documents": [document], "order": {}}),
    ]
    for answer in large:
        assert answer.status_code == 503
        assert "256 MiB left" in answer.json()["message"]
    saved = {"version": kept.version, "document": document}
    assert api.send("PUT", f"/titles/{kept.id}", saved).status_code == 200
