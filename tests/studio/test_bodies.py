"""What is sent is bounded before any of it is kept; what it is said to be must be so."""

import asyncio
import json
from typing import Any

import pytest
from django.test import Client

from studio.web import bodies
from studio.web.bodies import BoundedBodies
from studio.web.limits import LARGEST_JSON, MOST_UPLOADS, UPLOAD_LIMITS

LIBRARY = "/api/library"


class Talk:
    """One request to an application, piece by piece, and what came back."""

    def __init__(self, path: str, pieces: list[bytes], length: int | None = None) -> None:
        self.scope: dict[str, Any] = {"type": "http", "path": path, "method": "POST", "headers": []}
        if length is not None:
            self.scope["headers"] = [(b"content-length", str(length).encode())]
        self._pieces = pieces
        self.read = 0
        self.sent: list[dict] = []

    async def receive(self) -> dict:
        if self.read >= len(self._pieces):
            return {"type": "http.disconnect"}
        self.read += 1
        more = self.read < len(self._pieces)
        return {"type": "http.request", "body": self._pieces[self.read - 1], "more_body": more}

    async def send(self, message: dict) -> None:
        self.sent.append(message)

    @property
    def status(self) -> int:
        return self.sent[0]["status"]

    @property
    def said(self) -> str:
        return json.loads(self.sent[1]["body"])["message"]


class Application:
    """Reads all that it is given."""

    def __init__(self) -> None:
        self.taken = 0
        self.waits = asyncio.Event()
        self.waits.set()

    async def __call__(self, scope: dict, receive: Any, send: Any) -> None:
        while True:
            message = await receive()
            self.taken += len(message.get("body", b""))
            if not message.get("more_body"):
                break
        await self.waits.wait()
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"{}"})


def asked(talk: Talk) -> Application:
    application = Application()
    asyncio.run(BoundedBodies(application)(talk.scope, talk.receive, talk.send))
    return application


def test_a_body_that_says_it_is_too_large_is_not_read() -> None:
    talk = Talk(LIBRARY, [bytes(2**20)] * 20, length=600 * 2**20)
    assert asked(talk).taken == 0
    assert talk.status == 413
    assert "64 MiB" in talk.said


def test_a_body_that_does_not_say_how_large_it_is_ends_at_the_limit() -> None:
    talk = Talk("/api/preview", [bytes(2**20)] * 40)
    application = asked(talk)
    assert application.taken <= LARGEST_JSON
    assert talk.status == 413
    assert "8 MiB" in talk.said


def test_a_body_within_its_limit_passes_as_it_is() -> None:
    talk = Talk(LIBRARY, [bytes(2**20)] * 20, length=20 * 2**20)
    assert asked(talk).taken == 20 * 2**20
    assert talk.status == 200


@pytest.mark.parametrize("length", [b"-1", b"1e9", b"9" * 30, b"x"])
def test_a_length_that_makes_no_sense_is_refused(length: bytes) -> None:
    talk = Talk(LIBRARY, [b"x"])
    talk.scope["headers"] = [(b"content-length", length)]
    assert asked(talk).taken == 0
    assert talk.status == 400


def test_one_who_sends_nothing_is_not_waited_for(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(bodies, "LONGEST_PAUSE", 0.05)
    talk = Talk("/api/preview", [b"x", b"y"])
    first = talk.receive

    async def then_nothing() -> dict:
        if talk.read:
            await asyncio.sleep(30)
        return await first()

    asyncio.run(BoundedBodies(Application())(talk.scope, then_nothing, talk.send))
    assert talk.status == 408


def test_only_so_many_uploads_are_taken_at_once() -> None:
    application = Application()
    bounded = BoundedBodies(application)

    async def many() -> list[Talk]:
        application.waits.clear()
        talks = [Talk(LIBRARY, [b"x"]) for _ in range(MOST_UPLOADS + 3)]
        tasks = [
            asyncio.ensure_future(bounded(talk.scope, talk.receive, talk.send)) for talk in talks
        ]
        await asyncio.sleep(0.05)
        application.waits.set()
        await asyncio.gather(*tasks)
        after = Talk(LIBRARY, [b"x"])
        await bounded(after.scope, after.receive, after.send)
        return [*talks, after]

    statuses = [talk.status for talk in asyncio.run(many())]
    assert statuses == [200] * MOST_UPLOADS + [503] * 3 + [200]
    assert set(UPLOAD_LIMITS) == {"/api/library", "/api/titles/import"}


@pytest.mark.parametrize(
    ("path", "kind", "status"),
    [
        ("/api/preview", "application/json", 422),
        ("/api/preview", "application/json; charset=utf-8", 422),
        ("/api/preview", "text/plain", 415),
        ("/api/preview", "multipart/form-data; boundary=x", 415),
        ("/api/preview", "application/x-www-form-urlencoded", 415),
        ("/api/library", "application/json", 415),
        ("/api/titles/import", "text/plain", 415),
    ],
)
def test_json_is_taken_as_json_only_and_files_as_a_form(
    db: None, path: str, kind: str, status: int
) -> None:
    answer = Client().generic("POST", path, b"{}", content_type=kind)
    assert answer.status_code == status


@pytest.mark.parametrize(
    ("site", "method", "passes"),
    [
        ("same-origin", "post", True),
        ("none", "get", True),
        ("cross-site", "get", False),
        ("cross-site", "post", False),
        ("same-site", "delete", False),
    ],
)
def test_what_a_browser_says_of_a_request_counts(
    db: None, site: str, method: str, passes: bool
) -> None:
    answer = getattr(Client(), method)("/api/nothing", headers={"sec-fetch-site": site})
    assert (answer.status_code != 403) == passes


@pytest.mark.parametrize(
    ("address", "passes"),
    [("127.0.0.1", True), ("127.8.1.2", True), ("::1", True), ("192.168.1.7", False), ("", True)],
)
def test_without_a_login_the_studio_is_for_its_own_machine(
    db: None, address: str, passes: bool
) -> None:
    for path in ("/", "/api/titles"):
        assert (Client(REMOTE_ADDR=address).get(path).status_code != 403) == passes


def test_every_answer_says_who_may_use_it(db: None) -> None:
    for path in ("/", "/api/titles", "/nothing/here", "/api/nothing"):
        answer = Client().get(path)
        policy = answer["Content-Security-Policy"]
        assert "default-src 'self'" in policy
        assert "frame-ancestors 'none'" in policy
        assert answer["Cross-Origin-Resource-Policy"] == "same-origin"
        assert answer["X-Content-Type-Options"] == "nosniff"
        assert "Access-Control-Allow-Origin" not in answer
