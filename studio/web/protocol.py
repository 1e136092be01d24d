"""uvicorn's protocol with bounds that it doesn't have: on a request's head, and on patience."""

import asyncio
from asyncio import TimerHandle

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

from studio.web.limits import LARGEST_HEAD, LONGEST_HEAD, LONGEST_UNREAD


class BoundedProtocol(HttpToolsProtocol):
    """One connection. It ends where the head of a request doesn't come to an end in time or in
    size, where a request comes before the last one was answered, which no browser does, or where
    nothing of an answer is read for too long."""

    _head: TimerHandle | None = None
    _unread: TimerHandle | None = None
    _beside = 0
    """Bytes of the request that are not its body."""

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._expect_head()

    def data_received(self, data: bytes) -> None:
        if self._head is None and (self.cycle is None or self.cycle.response_complete):
            self._expect_head()
        self._beside += len(data)
        super().data_received(data)
        if self._beside > LARGEST_HEAD:
            self.transport.abort()

    def on_message_begin(self) -> None:
        self._beside = 0
        super().on_message_begin()

    def on_headers_complete(self) -> None:
        self._head = _cancelled(self._head)
        if self.cycle is None or self.cycle.response_complete:
            super().on_headers_complete()
        else:
            self.transport.abort()

    def on_body(self, body: bytes) -> None:
        self._beside -= len(body)
        super().on_body(body)

    def pause_writing(self) -> None:
        super().pause_writing()
        if self._unread is None:
            self._unread = self.loop.call_later(LONGEST_UNREAD, self.transport.abort)

    def resume_writing(self) -> None:
        self._unread = _cancelled(self._unread)
        super().resume_writing()

    def connection_lost(self, exc: Exception | None) -> None:
        self._head, self._unread = _cancelled(self._head), _cancelled(self._unread)
        super().connection_lost(exc)

    def _expect_head(self) -> None:
        self._head = self.loop.call_later(LONGEST_HEAD, self.transport.abort)


def _cancelled(timer: TimerHandle | None) -> None:
    if timer is not None:
        timer.cancel()
