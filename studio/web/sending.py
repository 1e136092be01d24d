"""Bounds on answers that are on their way: nobody is waited for without end, nor all at once."""

import json

from studio.web.budget import Budget
from studio.web.lifespan import Application, Message, Receive, Scope, Send
from studio.web.limits import MOST_UNREAD

_PIECE = 2**20


class BoundedAnswers:
    """An ASGI application around another one. A large answer is sent in pieces, each when the one
    before has been read; where too much is being read already, it is a 503 instead."""

    def __init__(self, application: Application) -> None:
        self._application = application
        self._unread = Budget(MOST_UNREAD)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        head: Message = {}

        async def sent(message: Message) -> None:
            nonlocal head
            if message["type"] == "http.response.start":
                head = message  # what it is depends on what comes
                return
            if head and len(message.get("body", b"")) > _PIECE:
                await self._in_pieces(head, message, send)
            else:
                if head:
                    await send(head)
                await send(message)
            head = {}

        await self._application(scope, receive, sent)

    async def _in_pieces(self, head: Message, message: Message, send: Send) -> None:
        body = message["body"]
        if not self._unread.take(len(body)):
            await _refuse(head, send)
            return
        try:
            await send(head)
            for begin in range(0, len(body), _PIECE):
                piece = body[begin : begin + _PIECE]
                more = begin + _PIECE < len(body) or message.get("more_body", False)
                await send({"type": "http.response.body", "body": piece, "more_body": more})
        finally:
            self._unread.give_back(len(body))


async def _refuse(head: Message, send: Send) -> None:
    said = f"{MOST_UNREAD // 2**20} MiB of answers are not read yet: try this again in a moment."
    content = json.dumps({"message": said, "place": "", "rule": said}).encode()
    ours = (b"content-type", b"content-length")
    headers = [(name, value) for name, value in head["headers"] if name.lower() not in ours]
    headers += [(ours[0], b"application/json"), (ours[1], str(len(content)).encode())]
    await send(head | {"status": 503, "headers": headers})
    await send({"type": "http.response.body", "body": content})
