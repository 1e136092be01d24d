"""Titles on the shelf: kept, saved with a version, removed and restored."""

import json

import pytest
from django.db import connection

from mabrel import new_title
from studio.engine.jobs.documents import checked
from studio.titles.models import REVISIONS_KEPT, Stale, Title
from tests.studio.conftest import Api, keep, parsed


def test_a_new_title_is_made_kept_and_listed(api: Api) -> None:
    made = api.post("/titles", {"text": "KELP", "finish": "enamel", "width": 640, "height": 360})
    assert made.status_code == 201
    [listed] = api.get("/titles").json()
    assert (listed["id"], listed["name"], listed["width"]) == (made.json()["id"], "Kelp", 640)


def test_a_save_counts_up_and_a_stale_one_is_told_what_is_there(api: Api, kept: Title) -> None:
    mine, theirs = json.loads(kept.document), json.loads(kept.document)
    theirs["name"], mine["name"] = "Theirs", "Mine"
    first = api.send("PUT", f"/titles/{kept.id}", {"version": 1, "document": theirs})
    assert (first.status_code, first.json()) == (200, {"version": 2})
    second = api.send("PUT", f"/titles/{kept.id}", {"version": 1, "document": mine})
    assert second.status_code == 409
    assert second.json()["version"] == 2
    assert second.json()["document"]["name"] == "Theirs"
    again = api.send("PUT", f"/titles/{kept.id}", {"version": 2, "document": mine})
    assert again.json() == {"version": 3}
    assert api.get(f"/titles/{kept.id}").json()["document"]["name"] == "Mine"


def test_every_save_is_a_revision_and_the_oldest_go(kept: Title) -> None:
    document = checked(parsed(kept))
    for version in range(1, REVISIONS_KEPT + 6):
        kept.save_version(version, document)
    versions = list(kept.revisions.order_by("version").values_list("version", flat=True))
    assert len(versions) == REVISIONS_KEPT
    assert versions[-1] == kept.version == REVISIONS_KEPT + 6


def test_a_revision_can_be_read(api: Api, kept: Title) -> None:
    changed = checked(parsed(kept).model_copy(update={"name": "Later"}))
    kept.save_version(1, changed)
    listed = api.get(f"/titles/{kept.id}/revisions").json()
    assert [entry["version"] for entry in listed] == [2, 1]
    assert api.get(f"/titles/{kept.id}/revisions/1").json()["name"] == "Kelp"


def test_nothing_is_saved_where_the_save_fails(
    kept: Title, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(self: Title) -> None:
        raise OSError("disk full")

    monkeypatch.setattr(Title, "_remember", full)
    with pytest.raises(OSError, match="disk full"):
        kept.save_version(1, checked(parsed(kept).model_copy(update={"name": "Half"})))
    assert Title.objects.get(pk=kept.pk).name == "Kelp"
    assert Title.objects.get(pk=kept.pk).version == 1


def test_a_stale_save_raises_with_the_current_state(kept: Title) -> None:
    kept.save_version(1, checked(parsed(kept)))
    with pytest.raises(Stale) as caught:
        Title.objects.get(pk=kept.pk).save_version(1, checked(parsed(kept)))
    assert caught.value.current.version == 2


def test_duplicate_remove_and_restore(api: Api, kept: Title) -> None:
    copied = api.post(f"/titles/{kept.id}/duplicate")
    assert copied.json()["name"] == "Kelp copy"
    assert api.send("DELETE", f"/titles/{kept.id}").status_code == 204
    assert [title["name"] for title in api.get("/titles").json()] == ["Kelp copy"]
    assert api.get(f"/titles/{kept.id}").status_code == 404
    assert api.post(f"/titles/{kept.id}/restore").status_code == 200
    assert len(api.get("/titles").json()) == 2


def test_another_word_font_size_and_finish_for_a_document(api: Api, document: dict) -> None:
    layer = document["layers"][-1]["id"]
    ask = {"document": document, "layer": layer}
    swapped = api.post("/look/swap", ask | {"text": "RUST", "font": "Anton"}).json()
    assert swapped["layers"][-1]["source"]["text"] == "RUST"
    assert swapped["layers"][-1]["source"]["font"] == "Anton"
    resized = api.post("/look/resize", ask | {"size": 50}).json()
    assert resized["layers"][-1]["source"]["size"] == pytest.approx(50)
    enamel = api.post(
        "/look/finish", {"document": document, "layers": [layer], "finish": "enamel"}
    ).json()
    assert enamel["layers"][-1]["build"][0]["step"] == "surface.gradient"


def test_a_finish_of_ones_own_is_kept_listed_used_and_dropped(api: Api, document: dict) -> None:
    ask = {"document": document, "layer": document["layers"][-1]["id"], "label": "Old Bronze"}
    assert api.post("/finishes", ask).json()["name"] == "old-bronze"
    listed = {each["name"]: each["own"] for each in api.get("/finishes").json()}
    assert listed["old-bronze"]
    assert not listed["ship-brass"]
    assert sum(listed.values()) == 1
    made = api.post("/titles", {"text": "A", "finish": "old-bronze"})
    assert made.status_code == 201
    assert api.send("DELETE", "/finishes/old-bronze").status_code == 204
    assert api.post("/titles", {"text": "A", "finish": "old-bronze"}).status_code == 422
    refused = api.post("/finishes", ask | {"label": "Ship Brass"})
    assert "ships with Mabrel" in refused.json()["message"]


def test_the_database_keeps_what_it_acknowledged(db: None) -> None:
    with connection.cursor() as cursor:
        for pragma, wanted in (("foreign_keys", 1), ("synchronous", 2)):
            cursor.execute(f"PRAGMA {pragma}")
            assert cursor.fetchone()[0] == wanted
    options = connection.settings_dict["OPTIONS"]
    assert options["transaction_mode"] == "IMMEDIATE"
    assert "journal_mode=WAL" in options["init_command"]


def test_the_demo_titles_are_loaded_once(db: None) -> None:
    from django.core.management import call_command

    call_command("load_demo")
    count = Title.objects.count()
    call_command("load_demo")
    assert Title.objects.count() == count >= 2


def test_a_kept_title_is_checked() -> None:
    wrong = new_title("A").model_dump(mode="json")
    wrong["layers"][-1]["build"][0]["settings"]["height"] = 99
    from mabrel import TitleError, parse_title

    with pytest.raises(TitleError, match="at most 4"):
        keep(parse_title(wrong))
