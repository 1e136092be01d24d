"""Begins with the server and ends with it."""

from collections.abc import Awaitable, Callable
from typing import Any

from asgiref.sync import sync_to_async

Scope = dict[str, Any]
Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[Scope, Receive, Send], Awaitable[None]]


class Lifespan:
    """An ASGI application around another one, which knows nothing of the server's own events:
    `ended` is called when it shuts down (ASGI, lifespan protocol)."""

    def __init__(self, application: Application, ended: Callable[[], None]) -> None:
        self._application, self._ended = application, ended

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "lifespan":
            await self._application(scope, receive, send)
            return
        while (message := await receive())["type"] != "lifespan.shutdown":
            if message["type"] == "lifespan.startup":
                await send({"type": "lifespan.startup.complete"})
        await sync_to_async(self._ended)()
        await send({"type": "lifespan.shutdown.complete"})
