"""What is made in the background: with progress, it can be stopped, and fetched for a while.

One thread makes one thing after the other.
"""

import abc
import logging
import queue
import threading
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Generic, TypeVar

from studio.engine.asking import desk
from studio.engine.line import Job
from studio.engine.outcome import EngineFault, LimitReached, Refused, Superseded
from studio.engine.work import Work
from studio.web.disk import enough_disk

KEPT = 3600
"""Seconds for which what is done can be fetched."""
_LOG = logging.getLogger(__name__)
M = TypeVar("M", bound="Making")


@dataclass
class Making(abc.ABC):
    """One thing on its way. `fault` says why it ended early; `path` is there once it is done."""

    all: int
    """Parts that there are to be made."""
    id: str = field(default_factory=lambda: uuid.uuid4().hex)
    done: int = 0
    fault: str = ""
    path: Path | None = None
    asked: float = field(default_factory=time.monotonic)
    began: float | None = None
    stopped: bool = False
    running: Job | None = None

    @property
    def ended(self) -> bool:
        return self.path is not None or bool(self.fault)

    @property
    def remaining(self) -> float | None:
        """Seconds that are left, estimated from what it took so far."""
        if not self.done or self.began is None:
            return None
        return (time.monotonic() - self.began) / self.done * (self.all - self.done)

    def stop(self) -> None:
        self.stopped = True
        if self.running is not None:
            desk().drop(self.running)

    def wait_for(self, work: Work, lane: str, ask: dict[str, Any]) -> Any:
        """The engine's answer, unless it is stopped. Raises what the desk raises."""
        self.running = desk().submit(work, "sets", lane, ask)
        if self.stopped:
            desk().drop(self.running)
        return self.running.future.result()

    @abc.abstractmethod
    def make(self) -> Path:
        """Make it, counting `done`; where it lies then."""

    def forget(self) -> None:  # noqa: B027 - there may be nothing to let go of
        """Let go of what only the making needed."""


class Workshop(Generic[M]):
    """Makes things of one sort. `what` names them to the one who asks for too many."""

    def __init__(self, what: str, most: int) -> None:
        self.what, self.most = what, most
        self._jobs: dict[str, M] = {}
        self._waiting: queue.SimpleQueue[M] = queue.SimpleQueue()
        self._beginning = threading.Lock()
        self._thread: threading.Thread | None = None

    def start(self, job: M) -> M:
        """Begin; ask `find` how far it is. Raises LimitReached."""
        enough_disk()
        with self._beginning:
            self._sweep()
            if len(self._jobs) >= self.most:
                said = f"{self.most} {self.what} are on their way already: wait for one of them."
                raise LimitReached(said)
            self._jobs[job.id] = job
            self._waiting.put(job)
            if self._thread is None or not self._thread.is_alive():
                self._thread = threading.Thread(target=self._work, name=self.what, daemon=True)
                self._thread.start()
        return job

    def find(self, job_id: str) -> M | None:
        return self._jobs.get(job_id)

    def _work(self) -> None:
        while True:
            job = self._waiting.get()
            if job.stopped:
                job.fault = "stopped"
                continue
            try:
                self._make(job)
            except Exception as error:  # noqa: BLE001 - the next one must be made all the same
                _LOG.exception("one of the %s could not be made", self.what)
                job.fault = job.fault or str(error) or "it could not be written"

    def _make(self, job: M) -> None:
        job.began = time.monotonic()
        try:
            job.path = job.make()
        except (Refused, LimitReached, EngineFault, Superseded, OSError) as error:
            job.fault = "stopped" if job.stopped else self._said(error)
        finally:
            job.forget()

    def _said(self, error: Exception) -> str:
        if isinstance(error, Refused | LimitReached):
            return str(error)
        _LOG.error("one of the %s could not be made", self.what, exc_info=error)
        return "it could not be rendered or written"

    def _sweep(self) -> None:
        """Forget what nobody fetches any more: the old ones, and where there are too many the
        oldest."""
        ended = sorted((job for job in self._jobs.values() if job.ended), key=lambda job: job.asked)
        for job in ended:
            if time.monotonic() - job.asked > KEPT or len(self._jobs) >= self.most:
                del self._jobs[job.id]
                if job.path is not None:
                    job.path.unlink(missing_ok=True)
