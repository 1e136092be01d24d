"""The page, what guards it, and two saves at once."""

import threading
from pathlib import Path

import pytest
from django.db import connection
from django.test import Client, override_settings

from mabrel import new_title
from studio.engine.jobs.documents import checked
from studio.titles.models import Stale, Title
from tests.studio.conftest import keep, parsed


@pytest.fixture
def built(tmp_path: Path):
    (tmp_path / "index.html").write_text("<title>Mabrel</title>")
    with override_settings(FRONT_DIR=tmp_path):
        yield Client()


@pytest.mark.parametrize("path", ["/", "/bench/5", "/anything/else"])
def test_every_view_is_the_one_page(built: Client, path: str) -> None:
    answer = built.get(path)
    assert answer.status_code == 200
    assert b"Mabrel" in answer.content
    assert answer["Cache-Control"] == "no-cache"


def test_the_page_may_load_nothing_from_elsewhere(built: Client) -> None:
    policy = built.get("/")["Content-Security-Policy"]
    assert policy.startswith("default-src 'self';")
    assert "http" not in policy
    assert "unsafe-eval" not in policy


def test_before_the_front_end_is_built_the_page_says_so(tmp_path: Path) -> None:
    with override_settings(FRONT_DIR=tmp_path):
        answer = Client().get("/")
    assert answer.status_code == 503
    assert b"make setup" in answer.content


@pytest.mark.parametrize(
    ("origin", "method", "passes"),
    [
        ("http://testserver", "post", True),
        (None, "post", True),
        ("http://elsewhere.example", "post", False),
        ("http://testserver:99", "delete", False),
        ("null", "put", False),
        ("http://elsewhere.example", "get", False),
    ],
)
def test_only_the_studios_own_pages_may_change_anything(
    db: None, origin: str | None, method: str, passes: bool
) -> None:
    headers = {"origin": origin} if origin else {}
    answer = getattr(Client(), method)("/api/nothing", headers=headers)
    assert (answer.status_code != 403) == passes


@pytest.mark.parametrize("path", ["/", "/index.html", "/api/titles", "/api/catalogue"])
def test_hosts_that_are_not_this_machine_are_refused(db: None, built: Client, path: str) -> None:
    answer = built.get(path, headers={"host": "mabrel.example"})
    assert answer.status_code == 400
    assert b"not reached under that name" in answer.content


@pytest.mark.django_db(transaction=True)
def test_of_two_saves_at_once_one_wins_and_the_other_is_told() -> None:
    title = keep(new_title("TWIN", frame=(160, 90)))
    ready = threading.Barrier(2)
    outcomes: list[str] = []

    def save(name: str) -> None:
        document = checked(parsed(title).model_copy(update={"name": name}))
        mine = Title.objects.get(pk=title.pk)
        ready.wait(10)
        try:
            mine.save_version(1, document)
            outcomes.append(name)
        except Stale as stale:
            outcomes.append(f"told of {stale.current.name}")
        finally:
            connection.close()

    threads = [threading.Thread(target=save, args=(name,)) for name in ("first", "second")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    kept = Title.objects.get(pk=title.pk)
    assert kept.version == 2
    assert sorted(outcomes) == sorted([kept.name, f"told of {kept.name}"])
    assert kept.revisions.count() == 2
