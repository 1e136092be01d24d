"""Bounds on what is sent, before any of it is kept: Django would spool all of it first."""

import asyncio
import contextlib
import json

from studio.web.lifespan import Application, Message, Receive, Scope, Send
from studio.web.limits import (
    LARGEST_JSON,
    LONGEST_PAUSE,
    MOST_UPLOADS,
    UPLOAD_LIMITS,
)


class _TooMuch(Exception):  # noqa: N818 - ends the reading of a body
    """More was sent than may be, or nothing for too long."""

    def __init__(self, status: int, said: str) -> None:
        self.status, self.said = status, said
        super().__init__(said)


class BoundedBodies:
    """An ASGI application around another one: a request's body ends where its limit is reached,
    or where nothing came for too long. Only so many uploads are taken at the same time."""

    def __init__(self, application: Application) -> None:
        self._application = application
        self._uploads = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        upload = scope["path"] in UPLOAD_LIMITS and scope["method"] == "POST"
        if upload and self._uploads >= MOST_UPLOADS:
            said = f"{MOST_UPLOADS} files are being taken already: send this one again in a moment."
            await _refuse(receive, send, 503, said)
            return
        self._uploads += upload
        try:
            await self._bounded(scope, receive, send)
        finally:
            self._uploads -= upload

    async def _bounded(self, scope: Scope, receive: Receive, send: Send) -> None:
        limit = UPLOAD_LIMITS.get(scope["path"], LARGEST_JSON)
        said = f"This is larger than the {limit // 2**20} MiB that may be sent here."
        announced = _announced(scope)
        if announced is None or announced > limit:
            status, why = (413, said) if announced else (400, "The length of this makes no sense.")
            await _refuse(receive, send, status, why)
            return
        body = _Body(receive, limit, said)
        answered = False

        async def sent(message: Message) -> None:
            nonlocal answered
            answered = True
            await send(message)

        try:
            await self._application(scope, body.receive, sent)
        except _TooMuch as much:
            if not answered:
                await _refuse(receive, send, much.status, much.said)


class _Body:
    """Counts what comes in."""

    def __init__(self, receive: Receive, limit: int, said: str) -> None:
        self._receive, self._limit, self._said = receive, limit, said
        self._taken = 0
        self._whole = False

    async def receive(self) -> Message:
        if self._whole:
            return await self._receive()
        try:
            message = await asyncio.wait_for(self._receive(), LONGEST_PAUSE)
        except TimeoutError:
            said = f"Nothing was sent for {LONGEST_PAUSE} seconds."
            raise _TooMuch(408, said) from None
        if message["type"] == "http.request":
            self._taken += len(message.get("body", b""))
            self._whole = not message.get("more_body", False)
            if self._taken > self._limit:
                raise _TooMuch(413, self._said)
        return message


def _announced(scope: Scope) -> int | None:
    """The length that the request says it has; 0 where it says none, None where it is nonsense."""
    for name, value in scope["headers"]:
        if name.lower() == b"content-length":
            return int(value) if value.isdigit() and len(value) < 16 else None
    return 0


async def _refuse(receive: Receive, send: Send, status: int, said: str) -> None:
    """Say it, then let pass what is still being sent, unkept: who is cut off in the middle of
    sending never reads the answer."""
    content = json.dumps({"message": said, "place": "", "rule": said}).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(content)).encode()),
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": content, "more_body": True})
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(LONGEST_PAUSE):
            while (message := await receive())["type"] == "http.request":
                if not message.get("more_body", False):
                    break
    await send({"type": "http.response.body", "body": b""})
