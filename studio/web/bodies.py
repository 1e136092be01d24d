"""Bounds on what is sent, before any of it is kept: Django would spool all of it first."""

import asyncio
import contextlib
import json

from studio.web.budget import Budget
from studio.web.lifespan import Application, Message, Receive, Scope, Send
from studio.web.limits import (
    ARRIVING,
    LARGE_JSON,
    LARGEST_JSON,
    LARGEST_PIECE,
    LONGEST_PAUSE,
    LONGEST_SENDING,
    MOST_LARGE_JSON,
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
    or where it takes too long to come. Only so many uploads and so much of large bodies are taken
    at the same time."""

    def __init__(self, application: Application) -> None:
        self._application = application
        self._uploads = 0
        self._large = Budget(MOST_LARGE_JSON)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        limit = _upload_limit(scope)
        upload = limit is not None
        if upload and self._uploads >= MOST_UPLOADS:
            said = f"{MOST_UPLOADS} files are being taken already: send this one again in a moment."
            await _refuse(receive, send, 503, said)
            return
        self._uploads += upload
        try:
            held = None if upload else self._large
            await self._bounded(scope, receive, send, limit or LARGEST_JSON, held)
        finally:
            self._uploads -= upload

    async def _bounded(
        self, scope: Scope, receive: Receive, send: Send, limit: int, held: Budget | None
    ) -> None:
        said = f"This is larger than the {limit // 2**20} MiB that may be sent here."
        announced = _announced(scope)
        if announced is None or announced > limit:
            status, why = (413, said) if announced else (400, "The length of this makes no sense.")
            await _refuse(receive, send, status, why)
            return
        if _header(scope, b"transfer-encoding") is not None:
            await _refuse(receive, send, 411, "A body must say how long it is.")
            return
        body = _Body(receive, limit, said, held)
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
        finally:
            body.let_go()


def _upload_limit(scope: Scope) -> int | None:
    """Of what is no JSON, how much may be sent; None for all else."""
    if scope["method"] == "PATCH" and scope["path"].startswith(ARRIVING):
        return LARGEST_PIECE
    return UPLOAD_LIMITS.get(scope["path"]) if scope["method"] == "POST" else None


class _Body:
    """Counts what comes in. Of a large one, what comes is taken from `held` until it is let go."""

    def __init__(self, receive: Receive, limit: int, said: str, held: Budget | None) -> None:
        self._receive, self._limit, self._said, self._held = receive, limit, said, held
        self._taken = self._counted = 0
        self._whole = False
        self._end = asyncio.get_running_loop().time() + LONGEST_SENDING

    async def receive(self) -> Message:
        if self._whole:
            return await self._receive()
        left = self._end - asyncio.get_running_loop().time()
        try:
            message = await asyncio.wait_for(self._receive(), min(LONGEST_PAUSE, left))
        except TimeoutError:
            raise _TooMuch(408, _late(left)) from None
        if message["type"] == "http.request":
            self._taken += len(message.get("body", b""))
            self._whole = not message.get("more_body", False)
            if self._taken > self._limit:
                raise _TooMuch(413, self._said)
            self._hold()
        return message

    def _hold(self) -> None:
        if self._held is None or self._taken <= LARGE_JSON:
            return
        if not self._held.take(self._taken - self._counted):
            said = f"{MOST_LARGE_JSON // 2**20} MiB of large requests are being answered already: "
            raise _TooMuch(503, said + "send this one again in a moment.")
        self._counted = self._taken

    def let_go(self) -> None:
        if self._held is not None:
            self._held.give_back(self._counted)
        self._counted = 0


def _late(left: float) -> str:
    if left < LONGEST_PAUSE:
        return f"It took longer than {LONGEST_SENDING} seconds to send this."
    return f"Nothing was sent for {LONGEST_PAUSE} seconds."


def _announced(scope: Scope) -> int | None:
    """The length that the request says it has; 0 where it says none, None where it is nonsense."""
    value = _header(scope, b"content-length")
    if value is None:
        return 0
    return int(value) if value.isdigit() and len(value) < 16 else None


def _header(scope: Scope, wanted: bytes) -> bytes | None:
    return next((value for name, value in scope["headers"] if name.lower() == wanted), None)


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
