"""What was sent to stop the studio gets a clear answer, and changes nothing."""

from pathlib import Path

import pytest

from studio.titles.models import Title
from tests.studio.attacks import Attack, all_attacks, noise_png, word
from tests.studio.conftest import Api

ATTACKS = all_attacks()


def sent(api: Api, attack: Attack):
    if attack.upload:
        return api.upload(attack.path, attack.upload, attack.body)
    return api.send(attack.method, attack.path, attack.body)


@pytest.mark.parametrize("attack", ATTACKS, ids=[each.name for each in ATTACKS])
def test_an_attack_is_answered_in_words(api: Api, library: Path, attack: Attack) -> None:
    answer = sent(api, attack)
    assert answer.status_code in attack.allowed, answer.content[:300]
    if answer.status_code >= 400:
        said = answer.json()["message"]
        assert said
        assert "\n" not in said
        assert "Traceback" not in said
        assert str(library) not in said
        assert list(library.iterdir()) == []
    assert not Title.objects.exists()


@pytest.mark.parametrize("seed", [1, 4, 6])
def test_a_photo_of_grain_is_a_shape_like_any_other(api: Api, seed: int) -> None:
    assert api.upload("/library", "grain.png", noise_png(seed)).status_code == 201
    source = {"picture": "grain.png", "height": 500, "matte": "brightness"}
    layer = {"kind": "picture", "id": "grain", "source": source,
             "build": [{"step": "relief.bevel"}, {"step": "light.shade"}]}  # fmt: skip
    document = {"mabrel": 1, "frame": {"width": 640, "height": 640}, "layers": [layer]}
    assert api.post("/preview", {"session": "x", "document": document}).status_code == 200


def test_what_can_not_be_rendered_can_still_be_saved_and_opened(api: Api, kept: Title) -> None:
    for text in ("A\u2066B", "\u0590", "א\u2069b"):
        document = {"mabrel": 1, "name": text, "layers": [word(text)]}
        version = api.get(f"/titles/{kept.id}").json()["version"]
        save = {"version": version, "document": document}
        assert api.send("PUT", f"/titles/{kept.id}", save).status_code == 200
        assert api.get(f"/titles/{kept.id}").json()["document"]["name"] == text
        assert api.get(f"/titles/{kept.id}/strip").status_code == 200


def test_a_stored_title_or_finish_that_no_longer_passes_breaks_no_list(
    api: Api, kept: Title, document: dict
) -> None:
    finish = {"name": "mine", "label": "Mine", "letter_height": 100, "build": []}
    assert api.post("/finishes/import", finish).status_code == 201
    from studio.titles.models import Finish

    Title.objects.filter(pk=kept.pk).update(document='{"mabrel": 1, "layers": "gone"}')
    Finish.objects.update(document='{"mabrel_finish": 1}')
    assert [each["name"] for each in api.get("/titles").json()] == ["Kelp"]
    assert "mine" in [each["name"] for each in api.get("/finishes").json()]
    assert api.get("/library").status_code == 200
    opened = api.get(f"/titles/{kept.id}")
    assert opened.status_code == 422
    assert opened.json()["place"] == "layers"
    used = api.post("/look/finish", {"document": document, "layers": ["layer-2"], "finish": "mine"})
    assert used.status_code == 422


def test_a_fault_of_ours_is_logged_whole_and_told_by_a_number(
    api: Api, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def broken() -> list:
        raise RuntimeError("the secret of the house")

    monkeypatch.setattr("studio.titles.finish_api.all_finishes", broken)
    answer = api.get("/finishes")
    assert answer.status_code == 500
    said = answer.json()["message"]
    assert "secret" not in said
    number = said.rsplit(" ", 1)[1].rstrip(".")
    assert number in caplog.text
    assert "RuntimeError: the secret of the house" in caplog.text
