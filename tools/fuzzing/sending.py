"""Requests sent by several pages at once, and what came back."""

import http.client
import json
import sys
import threading
import time
import uuid
from collections import Counter
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from typing import NamedTuple

PAGES = 4
_LONGEST = 300


class Request(NamedTuple):
    """`body` is sent as it is."""

    method: str
    path: str
    body: bytes = b""
    kind: str = "application/json"
    label: str = ""


class Answer(NamedTuple):
    status: int
    content: bytes
    seconds: float

    @property
    def bad(self) -> bool:
        """A server error that isn't a limit with its name."""
        if self.status < 500:
            return False
        return self.status != 503 or not json.loads(self.content).get("message")


@dataclass
class Report:
    statuses: Counter[int] = field(default_factory=Counter)
    slowest: list[tuple[float, str]] = field(default_factory=list)
    bad: list[tuple[Request, Answer]] = field(default_factory=list)
    limits: Counter[str] = field(default_factory=Counter)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def add(self, request: Request, answer: Answer) -> None:
        with self._lock:
            self.statuses[answer.status] += 1
            if self.statuses.total() % 500 == 0:
                print(f"{self.statuses.total()} answered", file=sys.stderr, flush=True)
            if answer.status == 503:
                self.limits[json.loads(answer.content).get("message", "")[:90]] += 1
            if answer.bad:
                self.bad.append((request, answer))
            name = request.label or f"{request.method} {request.path[:60]}"
            self.slowest = sorted([*self.slowest, (answer.seconds, name)], reverse=True)[:8]

    def __str__(self) -> str:
        lines = [f"{sum(self.statuses.values())} requests: {dict(sorted(self.statuses.items()))}"]
        lines += [f"  503 × {count}: {said}" for said, count in self.limits.most_common(6)]
        lines += [f"  slowest {seconds:.1f} s: {name}" for seconds, name in self.slowest[:5]]
        for request, answer in self.bad[:5]:
            lines.append(f"  BAD {answer.status} {request.method} {request.path[:80]}")
            lines.append(f"      {request.body[:300]!r}\n      {answer.content[:300]!r}")
        return "\n".join(lines)


class Sender:
    """Sends requests to a studio; each thread has a connection of its own."""

    def __init__(self, port: int) -> None:
        self._port = port
        self._local = threading.local()

    def send(self, request: Request) -> Answer:
        """Raises OSError where the studio does not answer at all."""
        began = time.monotonic()
        headers = {"Content-Type": request.kind} if request.body else {}
        for attempt in range(3):
            connection = self._connection()
            try:
                connection.request(request.method, request.path, request.body or None, headers)
                response = connection.getresponse()
                return Answer(response.status, response.read(), time.monotonic() - began)
            except (http.client.HTTPException, ConnectionError):
                connection.close()
                del self._local.connection
                if attempt == 2:
                    raise
        raise AssertionError

    def _connection(self) -> http.client.HTTPConnection:
        if not hasattr(self._local, "connection"):
            self._local.connection = http.client.HTTPConnection(
                "127.0.0.1", self._port, timeout=_LONGEST
            )
        return self._local.connection

    def send_all(self, requests: Iterable[Request]) -> Report:
        report = Report()
        with ThreadPoolExecutor(PAGES) as pages:
            list(pages.map(lambda each: report.add(each, self.send(each)), requests))
        return report


def upload(path: str, name: str, content: bytes) -> Request:
    """A file as a form sends it."""
    border = uuid.uuid4().hex
    head = f'--{border}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n'
    body = head.encode() + b"Content-Type: application/octet-stream\r\n\r\n" + content
    body += f"\r\n--{border}--\r\n".encode()
    return Request("POST", path, body, f"multipart/form-data; boundary={border}", f"upload {name}")
