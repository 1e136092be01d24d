"""A studio that others can reach asks who they are."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from django.conf import settings as now
from django.contrib.auth import get_user_model
from django.test import Client

ROOT = Path(__file__).parents[2]
PASSWORD = "tide-table-1871"


def in_a_studio_for_others(tmp_path: Path, *command: str, given: str = "") -> tuple[int, str]:
    """Run a command in a new studio whose host is not this machine; its code and what it said."""
    environment = os.environ | {
        "MABREL_STATE": str(tmp_path),
        "MABREL_HOSTS": "studio.example",
        "MABREL_WARM": "0",
    }
    done = subprocess.run(
        [sys.executable, *command],
        cwd=ROOT,
        env=environment,
        input=given,
        capture_output=True,
        text=True,
        timeout=120,
        check=False,
    )
    return done.returncode, done.stdout + done.stderr


def test_it_refuses_to_start_without_an_account_and_says_what_to_do(tmp_path: Path) -> None:
    assert in_a_studio_for_others(tmp_path, "manage.py", "migrate", "-v0")[0] == 0
    code, said = in_a_studio_for_others(tmp_path, "-m", "studio", "--port", "1")
    assert code == 2
    assert "manage.py add_account NAME" in said
    assert "Traceback" not in said


def test_the_first_account_is_made_by_a_command_that_knows_bad_passwords(tmp_path: Path) -> None:
    in_a_studio_for_others(tmp_path, "manage.py", "migrate", "-v0")
    add = ("manage.py", "add_account", "ferry", "--password-stdin")
    code, said = in_a_studio_for_others(tmp_path, *add, given="password\n")
    assert code != 0
    assert "too common" in said
    code, said = in_a_studio_for_others(tmp_path, *add, given=PASSWORD + "\n")
    assert (code, said.strip()) == (0, "ferry can log in.")
    assert in_a_studio_for_others(tmp_path, *add, given=PASSWORD + "!\n")[0] == 0


def test_django_finds_nothing_to_say_against_its_settings(tmp_path: Path) -> None:
    check = ("manage.py", "check", "--deploy", "--fail-level", "WARNING")
    code, said = in_a_studio_for_others(tmp_path, *check)
    assert code == 0, said


def test_no_migration_is_missing(tmp_path: Path) -> None:
    code, said = in_a_studio_for_others(
        tmp_path, "manage.py", "makemigrations", "--check", "--dry-run"
    )
    assert code == 0, said


@pytest.fixture
def for_others(db: None, settings, tmp_path: Path) -> Client:
    """A client of a studio that has a login, and one person who may log in."""
    settings.LOGIN_NEEDED = settings.AXES_ENABLED = True
    settings.MIDDLEWARE = [
        "studio.web.headers.protecting_headers",
        "studio.web.guard.same_origin_only",
        *now._LOGIN_MIDDLEWARE,
    ]
    settings.FRONT_DIR = tmp_path
    (tmp_path / "index.html").write_text('<link rel="stylesheet" href="/assets/x.css">')
    get_user_model().objects.create_user("ferry", password=PASSWORD)
    return Client(REMOTE_ADDR="192.168.1.7", enforce_csrf_checks=True)


def log_in(client: Client, password: str):
    page = client.get("/login").content.decode()
    token = page.split('name="csrfmiddlewaretoken" value="')[1].split('"')[0]
    form = {"username": "ferry", "password": password, "csrfmiddlewaretoken": token}
    return client.post("/login", form | {"next": "/bench/7"})


def test_nothing_is_there_for_a_stranger_but_the_login(for_others: Client) -> None:
    refused = for_others.get("/api/titles")
    assert (refused.status_code, refused.json()["message"]) == (401, "Log in first.")
    assert (
        for_others.post("/api/preview", b"{}", content_type="application/json").status_code == 401
    )
    led = for_others.get("/bench/7")
    assert (led.status_code, led["Location"]) == (302, "/login?next=/bench/7")
    page = for_others.get("/login")
    assert b'href="/assets/x.css"' in page.content
    assert "frame-ancestors 'none'" in page["Content-Security-Policy"]


def test_who_has_logged_in_is_in_and_who_logs_out_is_out(for_others: Client) -> None:
    assert log_in(for_others, PASSWORD)["Location"] == "/bench/7"
    assert for_others.get("/api/person").json() == {"name": "ferry"}
    assert for_others.get("/api/titles").status_code == 200
    cookie = for_others.cookies["sessionid"]
    assert cookie["httponly"]
    assert cookie["samesite"] == "Strict"
    token = for_others.cookies["csrftoken"].value
    assert for_others.post("/logout", {"csrfmiddlewaretoken": token}).status_code == 302
    assert for_others.get("/api/titles").status_code == 401


def test_a_wrong_password_is_told_and_too_many_are_not_tried(for_others: Client) -> None:
    wrong = log_in(for_others, "wrong")
    assert "don’t belong together" in wrong.content.decode()
    for _ in range(5):
        locked = log_in(for_others, "wrong")
    assert locked.status_code == 429
    assert "Too many wrong passwords" in locked.content.decode()
    assert log_in(for_others, PASSWORD).status_code == 429


def test_the_login_leads_nowhere_else(for_others: Client) -> None:
    page = for_others.get("/login").content.decode()
    token = page.split('name="csrfmiddlewaretoken" value="')[1].split('"')[0]
    form = {"username": "ferry", "password": PASSWORD, "csrfmiddlewaretoken": token}
    assert (
        for_others.post("/login", form | {"next": "https://elsewhere.example/"})["Location"] == "/"
    )


def test_on_ones_own_machine_there_is_no_login(db: None) -> None:
    assert Client().get("/api/person").json() == {"name": None}
    assert Client().get("/api/titles").status_code == 200
