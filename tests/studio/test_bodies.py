"""What is sent is bounded before any of it is kept; what it is said to be must be so."""

import asyncio
import json
from typing import Any

import pytest
from django.test import Client

from studio.web import bodies
from studio.web.bodies import BoundedBodies
from studio.web.limits import LARGEST_JSON, MOST_LARGE_JSON, MOST_UPLOADS, UPLOAD_LIMITS

LIBRARY = "/api/library"


class Talk:
    """One request to an application, piece by piece, and what came back."""

    def __init__(self, path: str, pieces: list[bytes], length: int | None = None) -> None:
        self.scope: dict[str, Any] = {"type": "http", "path": path, "method": "POST", "headers": []}
        if length is not None:
            self.scope["headers"] = [(b"content-length", str(length).encode())]
        self.pieces = pieces
        self.read = 0
        self.sent: list[dict] = []

    async def receive(self) -> dict:
        if self.read >= len(self.pieces):
            return {"type": "http.disconnect"}
        self.read += 1
        more = self.read < len(self.pieces)
        return {"type": "http.request", "body": self.pieces[self.read - 1], "more_body": more}

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


def test_one_who_sends_a_little_for_ever_is_not_waited_for(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(bodies, "LONGEST_SENDING", 0.3)
    talk, application = Talk("/api/preview", [b"x"] * 100), Application()
    first = talk.receive

    async def slowly() -> dict:
        await asyncio.sleep(0.02)
        return await first()

    asyncio.run(BoundedBodies(application)(talk.scope, slowly, talk.send))
    assert talk.status == 408
    assert application.taken < 50
    assert "longer than" in talk.said


def test_a_body_that_does_not_say_that_it_ends_is_refused() -> None:
    talk = Talk("/api/preview", [b"x"])
    talk.scope["headers"] = [(b"Transfer-Encoding", b"chunked")]
    assert asked(talk).taken == 0
    assert talk.status == 411


def statuses_at_once(*talks: Talk) -> list[int]:
    """Of requests that are all answered at the same moment, and of one more afterwards."""

    async def many() -> list[int]:
        application = Application()
        bounded = BoundedBodies(application)
        application.waits.clear()
        tasks = [
            asyncio.ensure_future(bounded(talk.scope, talk.receive, talk.send)) for talk in talks
        ]
        await asyncio.sleep(0.05)
        application.waits.set()
        await asyncio.gather(*tasks)
        after = Talk(talks[0].scope["path"], talks[0].pieces)
        await bounded(after.scope, after.receive, after.send)
        return [talk.status for talk in (*talks, after)]

    return asyncio.run(many())


def test_only_so_much_of_large_bodies_is_taken_at_once() -> None:
    pieces = [bytes(2**20)] * (LARGEST_JSON // 2**20)
    room = MOST_LARGE_JSON // LARGEST_JSON
    large = [Talk("/api/preview", pieces) for _ in range(room + 2)]
    small = [Talk("/api/preview", [b"{}"]) for _ in range(3)]
    *found, after = statuses_at_once(*large, *small)
    assert set(found[:-3]) == {200, 503}
    assert found[:-3].count(200) <= room
    assert found[-3:] == [200] * 3
    assert after == 200


def test_only_so_many_uploads_are_taken_at_once() -> None:
    talks = [Talk(LIBRARY, [b"x"]) for _ in range(MOST_UPLOADS + 3)]
    assert statuses_at_once(*talks) == [200] * MOST_UPLOADS + [503] * 3 + [200]
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


def form(parts: int, name: str = "f") -> bytes:
    part = '--b\r\nContent-Disposition: form-data; name="{}{}"\r\n\r\nx\r\n'
    return ("".join(part.format(name, n) for n in range(parts)) + "--b--\r\n").encode()


@pytest.mark.parametrize(
    ("body", "status"),
    [
        (form(1000), 400),
        (form(1, 'file"; filename="x') + form(1, 'file"; filename="y'), 422),
        (form(1, "f" * 20_000), 400),
        (b"no form at all", 422),
        (b"", 422),
    ],
)
@pytest.mark.parametrize("path", list(UPLOAD_LIMITS))
def test_a_form_that_is_none_is_refused(db: None, path: str, body: bytes, status: int) -> None:
    kind = "multipart/form-data; boundary=b"
    answer = Client().generic("POST", path, body, content_type=kind)
    assert answer.status_code in (400, status)
    assert answer.json()["message"]
    lost = Client().generic("POST", path, body, content_type="multipart/form-data")
    assert lost.status_code in (400, status)
    assert lost.json()["message"]


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
