"""Connections that want more than their share: heads without end, answers that nobody reads."""

import asyncio
import contextlib
import socket
import threading
import time
from collections.abc import Iterator

import pytest
import uvicorn

from studio.web import protocol, sending
from studio.web.protocol import BoundedProtocol
from studio.web.sending import BoundedAnswers

LARGE = 24 * 2**20


async def application(scope: dict, receive, send) -> None:
    """Says "small", or sends a lot."""
    body = bytes(LARGE) if scope["path"] == "/large" else b"small"
    length = (b"content-length", str(len(body)).encode())
    kind = (b"content-type", b"application/octet-stream")
    await send({"type": "http.response.start", "status": 200, "headers": [length, kind]})
    await send({"type": "http.response.body", "body": body})


@pytest.fixture
def port(monkeypatch: pytest.MonkeyPatch) -> Iterator[int]:
    """A server whose patience is short."""
    monkeypatch.setattr(protocol, "LONGEST_HEAD", 0.5)
    monkeypatch.setattr(protocol, "LONGEST_UNREAD", 2)
    monkeypatch.setattr(sending, "MOST_UNREAD", LARGE + 2**20)
    config = uvicorn.Config(
        BoundedAnswers(application), port=0, http=BoundedProtocol, lifespan="off", log_level="error"
    )
    server = uvicorn.Server(config)
    thread = threading.Thread(target=lambda: asyncio.run(server.serve()))
    thread.start()
    while not server.started:
        time.sleep(0.01)
    yield server.servers[0].sockets[0].getsockname()[1]
    server.should_exit = True
    thread.join(10)


def opened(port: int, window: int = 2**20) -> socket.socket:
    """A connection; with a small window little comes without being read."""
    there = socket.socket()
    there.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, window)
    there.settimeout(20)
    there.connect(("127.0.0.1", port))
    return there


def all_of(there: socket.socket) -> bytes:
    """What comes until the other side ends it."""
    found = bytearray()
    with contextlib.suppress(ConnectionError):
        while piece := there.recv(2**18):
            found += piece
    return bytes(found)


def ask(path: str, close: bool = True) -> bytes:
    kind = "close" if close else "keep-alive"
    return f"GET {path} HTTP/1.1\r\nHost: x\r\nConnection: {kind}\r\n\r\n".encode()


def test_an_answer_that_is_read_comes_whole(port: int) -> None:
    with opened(port) as there:
        there.sendall(ask("/large"))
        head, _, body = all_of(there).partition(b"\r\n\r\n")
    assert head.startswith(b"HTTP/1.1 200")
    assert len(body) == LARGE


@pytest.mark.parametrize(
    "begin", [b"", b"GET / HTTP/1.1\r\nX: ", b"\r\n", ask("/", close=False) + b"\r\n\r\n"]
)
def test_a_head_that_does_not_come_ends_the_connection(port: int, begin: bytes) -> None:
    with opened(port) as there:
        there.sendall(begin)
        began = time.monotonic()
        for _ in range(100):  # a little now and then is no head either
            time.sleep(0.05)
            try:
                there.sendall(b"\r\n" if begin.endswith(b"\n") or not begin else b"x")
            except ConnectionError:
                break
        assert time.monotonic() - began < 4


def test_a_head_without_end_ends_the_connection(port: int) -> None:
    with opened(port) as there:
        there.sendall(b"GET / HTTP/1.1\r\nX: ")
        with pytest.raises(ConnectionError):
            there.sendall(b"y" * 64 * 2**20)


def test_requests_come_one_after_the_other(port: int) -> None:
    with opened(port) as there:
        there.sendall(ask("/large", close=False) + ask("/small"))
        assert len(all_of(there)) < LARGE
    with opened(port) as there:
        for _ in range(3):
            there.sendall(ask("/small", close=False))
            answer = b""
            while not answer.endswith(b"small"):
                answer += there.recv(1000)
            assert answer.startswith(b"HTTP/1.1 200")


def test_an_answer_that_nobody_reads_is_given_up_and_keeps_no_other_waiting(port: int) -> None:
    with opened(port, window=4096) as idle:
        idle.sendall(ask("/large"))
        time.sleep(0.1)
        with opened(port) as other:
            other.sendall(ask("/large"))
            assert all_of(other).startswith(b"HTTP/1.1 503")
        with opened(port) as other:
            other.sendall(ask("/small"))
            assert all_of(other).endswith(b"small")
        time.sleep(3)
        with opened(port) as other:
            other.sendall(ask("/large"))
            assert len(all_of(other)) > LARGE
        assert len(all_of(idle)) < LARGE
