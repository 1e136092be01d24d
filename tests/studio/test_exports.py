"""Exports: asked for, made by tasks, stopped, taken up again, fetched; and what goes wrong."""

import io
import json
import shutil
import time
import zipfile
from pathlib import Path
from uuid import uuid4

import av
import pytest
from django.core.management import call_command
from django.test import Client
from django_tasks_db.models import DBTaskResult

from mabrel.export.workers import Here
from studio.exports import models, tasks
from studio.exports.keeper import Keeper
from studio.exports.models import Export, ExportPreset, State
from studio.exports.tasks import make_export, take_up
from tests.studio.conftest import body

pytestmark = pytest.mark.django_db(transaction=True)
SMALL = {"text": "AB", "finish": "enamel", "width": 160, "height": 90}
CLIP = {"kind": "clip", "form": "ffv1", "end": 0.8}


@pytest.fixture(autouse=True)
def making(settings, tmp_path: Path, monkeypatch) -> None:
    """Pieces are made by this process, into a folder of the test's own."""
    settings.EXPORTS_DIR = tmp_path / "exports"
    monkeypatch.setattr("studio.engine.exporting.workers", Here)


@pytest.fixture
def document(client: Client) -> dict:
    made = client.post("/api/titles", SMALL, content_type="application/json").json()
    return client.get(f"/api/titles/{made['id']}").json()["document"]


def post(client: Client, path: str, **sent):
    return client.post(f"/api{path}", json.dumps(sent), content_type="application/json")


def asked(client: Client, document: dict, **order) -> dict:
    answer = post(client, "/exports", document=document, order=order)
    assert answer.status_code == 201, answer.content
    return answer.json()


def work() -> None:
    """What the process of exports does until nothing waits."""
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0)


def state(client: Client, export: dict) -> dict:
    return client.get(f"/api/exports/{export['id']}").json()


def test_a_clip_is_made_and_fetched(client: Client, document: dict, tmp_path: Path) -> None:
    export = asked(client, document, **CLIP)
    assert (export["state"], export["all"], export["done"]) == ("waiting", 20, 0)
    assert client.get(f"/api/exports/{export['id']}/file").status_code == 404
    work()
    done = state(client, export)
    assert (done["state"], done["done"], done["fault"]) == ("done", 20, "")
    content = body(client.get(f"/api/exports/{export['id']}/file"))
    assert len(content) == done["size"]
    path = tmp_path / "a.mkv"
    path.write_bytes(content)
    with av.open(str(path)) as file:
        assert len(list(file.decode(video=0))) == 20
    assert [each["id"] for each in client.get("/api/exports").json()] == [export["id"]]
    assert [each.name for each in Export.objects.get().folder.iterdir()] == ["result.mkv"]


@pytest.mark.parametrize(
    ("order", "ending", "media"),
    [
        ({"form": "tiff"}, ".tif", "image/tiff"),
        ({"kind": "layers", "form": "ora"}, ".ora", "image/openraster"),
        ({"kind": "frames", "form": "png", "end": 0.08}, ".zip", "application/zip"),
        ({"form": "exr", "passes": "apart"}, ".zip", "application/zip"),
    ],
)
def test_each_kind_has_its_file(client: Client, document, order, ending, media) -> None:
    export = asked(client, document, **order)
    work()
    answer = client.get(f"/api/exports/{export['id']}/file")
    assert answer.headers["Content-Type"] == media
    assert f"{export['name']}{ending}" in answer.headers["Content-Disposition"]
    content = body(answer)
    if media != "image/tiff":
        assert zipfile.ZipFile(io.BytesIO(content)).namelist()


def test_stopped_it_keeps_what_is_made_and_goes_on(client, document, monkeypatch) -> None:
    undisturbed = asked(client, document, **CLIP)
    work()
    export = asked(client, document, **CLIP)
    kept = Export.objects.get(pk=export["id"])
    real = tasks._set

    def stopping(which: Export, **values: object) -> None:
        real(which, **values)
        if values.get("done", 0) >= 8:
            post(client, f"/exports/{export['id']}/stop")

    monkeypatch.setattr(tasks, "_set", stopping)
    work()
    assert state(client, export)["state"] == "stopped"
    pieces = {path.name: path.stat().st_mtime_ns for path in kept.folder.glob("*.piece")}
    assert pieces
    monkeypatch.setattr(tasks, "_set", real)
    assert post(client, f"/exports/{export['id']}/again").json()["state"] == "waiting"
    work()
    assert state(client, export)["state"] == "done"
    files = [body(client.get(f"/api/exports/{each['id']}/file")) for each in (undisturbed, export)]
    assert files[0] == files[1]


def test_one_that_waits_is_stopped_at_once(client: Client, document: dict) -> None:
    export = asked(client, document, **CLIP)
    assert post(client, f"/exports/{export['id']}/stop").json()["state"] == "stopped"
    work()
    assert state(client, export)["state"] == "stopped"


def test_after_a_kill_it_is_taken_up(client: Client, document: dict) -> None:
    """What a killed process leaves: a state that says running, and pieces."""
    export = asked(client, document, **CLIP)
    Export.objects.update(state=State.RUNNING)
    DBTaskResult.objects.update(status="RUNNING")
    take_up()
    assert state(client, export)["state"] == "waiting"
    work()
    assert state(client, export)["state"] == "done"


def test_a_full_disk_is_told_and_can_be_gone_on_from(client, document, monkeypatch) -> None:
    export = asked(client, document, **CLIP)

    def full(path: Path, content: bytes) -> None:
        raise OSError(28, "No space left on device", str(path))

    with monkeypatch.context() as patched:
        patched.setattr("mabrel.export.making.write_atomically", full)
        work()
    failed = state(client, export)
    assert failed["state"] == "failed"
    assert "disk is full" in failed["fault"]
    post(client, f"/exports/{export['id']}/again")
    work()
    assert state(client, export)["state"] == "done"


def test_a_picture_that_is_gone_is_told_with_its_name(client, document, library: Path) -> None:
    picture = {"kind": "picture", "source": {"picture": "plate.png", "height": 50}}
    export = asked(client, document | {"layers": [picture]}, form="png")
    work()
    failed = state(client, export)
    assert failed["state"] == "failed"
    assert "plate.png" in failed["fault"]


@pytest.mark.parametrize(
    ("order", "place"),
    [
        ({"kind": "clip", "form": "gif"}, "order"),
        ({"kind": "clip", "form": "webm", "rate": "1/0"}, "order"),
        ({"kind": "clip", "form": "webm", "end": 86_400, "rate": "240"}, "end"),
        ({"scale": 9}, "order.scale"),
        ({"time": -1}, "order.time"),
        ({"passes": "together"}, "order"),
        ({"ground": "red"}, "order.ground"),
        ({"colour": 1}, "order.colour"),
    ],
)
def test_orders_that_can_not_be_are_refused(client: Client, document, order, place) -> None:
    for path, more in (("/exports", {}), ("/exports/estimate", {"session": "s"})):
        answer = post(client, path, document=document, order=order, **more)
        if place != "end" or path == "/exports":
            assert answer.status_code == 422
            assert answer.json()["place"] == place
    assert not Export.objects.exists()


def test_a_broken_document_is_refused_at_once(client: Client, document: dict) -> None:
    answer = post(client, "/exports", document=document | {"layers": 3}, order={})
    assert answer.status_code == 422
    assert answer.json()["place"] == "layers"


def test_what_is_not_there_is_said(client: Client) -> None:
    for method, path in (
        ("get", ""), ("get", "/file"), ("post", "/stop"), ("post", "/again"), ("delete", ""),
    ):  # fmt: skip
        address = f"/exports/{uuid4()}{path}"
        send = getattr(client, method)
        answer = post(client, address) if method == "post" else send(f"/api{address}")
        assert answer.status_code == 404
    assert client.delete("/api/exports/presets/99").status_code == 404
    assert client.delete(f"/api/exports/presets/{2**70}").status_code in (404, 422)


def test_one_that_is_made_is_not_deleted_and_one_that_has_ended_is(client, document) -> None:
    export = asked(client, document, form="png")
    assert client.delete(f"/api/exports/{export['id']}").status_code == 422
    work()
    folder = Export.objects.get().folder
    assert folder.exists()
    assert client.delete(f"/api/exports/{export['id']}").status_code == 204
    assert not folder.exists()
    assert client.get("/api/exports").json() == []


def test_a_file_that_somebody_took_away_is_missing_not_an_error(client, document) -> None:
    export = asked(client, document, form="png")
    work()
    shutil.rmtree(Export.objects.get().folder)
    assert client.get(f"/api/exports/{export['id']}/file").status_code == 404


def test_the_oldest_that_have_ended_give_way(client, document, monkeypatch) -> None:
    monkeypatch.setattr(models, "MOST", 2)
    first = asked(client, document, form="png")
    work()
    asked(client, document, form="png")
    asked(client, document, form="png")
    assert not Export.objects.filter(pk=first["id"]).exists()
    answer = post(client, "/exports", document=document, order={})
    assert answer.status_code == 503
    assert "on their way" in answer.json()["message"]


def test_presets_are_kept_replaced_and_deleted(client: Client) -> None:
    order = {"kind": "clip", "form": "apng", "scale": 0.5}
    kept = post(client, "/exports/presets", name="For the wall", order=order)
    assert kept.status_code == 201
    post(client, "/exports/presets", name="For the wall", order=order | {"scale": 1})
    forms = client.get("/api/exports/forms").json()
    assert [(each["name"], each["order"]["scale"]) for each in forms["own"]] == [
        ("For the wall", 1)
    ]
    assert {"over-a-shot", "for-print"} <= {each["name"] for each in forms["presets"]}
    assert all(each["says"] for each in forms["presets"])
    assert client.delete(f"/api/exports/presets/{forms['own'][0]['id']}").status_code == 204
    assert not ExportPreset.objects.exists()
    assert post(client, "/exports/presets", name="", order=order).status_code == 422


def test_an_estimate_is_tried_on_a_few_frames(client: Client, document: dict) -> None:
    order = {"kind": "clip", "form": "ffv1"}
    told = post(client, "/exports/estimate", document=document, order=order, session="s").json()
    assert told["frames"] == 125
    assert told["seconds"] > 0
    export = asked(client, document, **order)
    work()
    assert told["bytes"] == pytest.approx(state(client, export)["size"], rel=0.3)


def test_the_keeper_begins_a_process_anew_that_died(monkeypatch) -> None:
    monkeypatch.setattr("studio.exports.keeper._PAUSE", 0.1)
    monkeypatch.setenv("MABREL_STATE", str(Path("/nonexistent")))
    keeper = Keeper()
    keeper.start()
    try:
        seen: set[int] = set()
        for _ in range(400):
            if keeper.pid is not None:
                seen.add(keeper.pid)
            if len(seen) > 1:
                break
            time.sleep(0.1)
        assert len(seen) > 1  # it can't make its folder, so it dies at once
    finally:
        keeper.stop()


def test_a_task_for_an_export_that_is_gone_does_nothing() -> None:
    make_export.call(str(uuid4()))


def words(client: Client, document: dict, lines: str, **more) -> list[dict]:
    made = post(client, "/look/words", document=document, words=lines, **more).json()
    return [each["document"] for each in made]


def set_of(client: Client, documents: list[dict], **more) -> dict:
    answer = post(client, "/exports/set", documents=documents, **more)
    assert answer.status_code == 201, answer.content
    return answer.json()


def content_of(client: Client, export: dict) -> zipfile.ZipFile:
    content = body(client.get(f"/api/exports/{export['id']}/file"))
    return zipfile.ZipFile(io.BytesIO(content))


def test_a_set_comes_in_one_zip_with_a_sheet(client: Client, document: dict) -> None:
    documents = [*words(client, document, "SALT\nTAR"), document | {"name": "a/b"}, document]
    export = set_of(client, documents, order={"kind": "picture", "form": "webp"}, sheet=True)
    assert (export["all"], export["ending"], export["name"]) == (4, ".zip", "Salt and 3 more")
    work()
    assert state(client, export)["state"] == "done"
    with content_of(client, export) as archive:
        assert archive.namelist() == ["Salt.webp", "Tar.webp", "a-b.webp", "Ab.webp", "sheet.png"]
        assert archive.read("Salt.webp")[8:12] == b"WEBP"
    assert [each.name for each in Export.objects.get().folder.iterdir()] == ["result.zip"]


def test_frames_of_a_set_lie_in_a_folder_each(client: Client, document: dict) -> None:
    order = {"kind": "frames", "form": "png", "end": 0.08}
    export = set_of(client, words(client, document, "SALT\nTAR"), order=order)
    work()
    with content_of(client, export) as archive:
        assert archive.namelist() == [
            *("Salt/frame-0000.png", "Salt/frame-0001.png"),
            *("Tar/frame-0000.png", "Tar/frame-0001.png"),
        ]


def test_a_set_ends_where_a_title_fails_and_goes_on(client: Client, document: dict) -> None:
    broken = json.loads(json.dumps(document))
    broken["layers"][-1]["source"]["font"] = "gone.ttf"
    export = set_of(client, [document, broken], order=CLIP)
    work()
    failed = state(client, export)
    assert failed["state"] == "failed"
    assert failed["fault"] == "frame 0: there is no file 'gone.ttf', in Ab 2"
    kept = Export.objects.get().folder / "0000.made"
    kept.write_bytes(b"made before")  # it is not made again
    row = Export.objects.get()
    row.members[1][1] = row.members[0][1]
    row.save()
    post(client, f"/exports/{export['id']}/again")
    work()
    assert state(client, export)["state"] == "done"
    with content_of(client, export) as archive:
        assert archive.read("Ab.mkv") == b"made before"
        assert archive.getinfo("Ab 2.mkv").file_size > 1000


def test_words_of_one_size_stay_within_the_margin(client: Client, document: dict) -> None:
    def sizes(**more) -> list[float]:
        made = words(client, document, "A\nLIGHTHOUSE KEEPER", **more)
        return [each["layers"][-1]["source"]["size"] for each in made]

    own, one, wide = sizes(), sizes(one_size=True), sizes(one_size=True, margin=0.25)
    assert own[0] > own[1]
    assert one[0] == pytest.approx(one[1])
    assert one[1] <= own[1]
    assert wide[0] == pytest.approx(wide[1])
    assert wide[1] < one[0]
    narrow = sizes(margin=0.25)
    assert narrow[0] > narrow[1]
    assert narrow[1] < own[1]
    bad = post(client, "/look/words", document=document, words="A", margin=0.5)
    assert bad.status_code == 422
