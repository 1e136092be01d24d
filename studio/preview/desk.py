"""The render desk: one worker, the most urgent job first, the newest state wins."""

import heapq
import itertools
import threading
from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass, field
from enum import IntEnum
from typing import Any

from django.conf import settings

from mabrel.render import Cache, Cancel, Cancelled, Renderer

Work = Callable[[Renderer, Cancel], Any]


class Urgency(IntEnum):
    """Lower comes first."""

    PROOF = 0
    EXPORT = 1
    READING = 2
    SHELF = 3
    THUMBNAIL = 4
    SCENE = 5
    GAUGE = 6


class Superseded(Exception):  # noqa: N818 - not a fault
    """A newer request on the same lane took this one's place."""


@dataclass(order=True)
class Job:
    """Some work on its way; `future` gives its result, its error, or Superseded."""

    urgency: Urgency
    number: int
    lane: str = field(compare=False)
    work: Work = field(compare=False)
    future: "Future[Any]" = field(compare=False, default_factory=Future)
    cancel: Cancel = field(compare=False, default_factory=Cancel)
    dropped: bool = field(compare=False, default=False)
    started: bool = field(compare=False, default=False)

    def drop(self) -> None:
        """Nobody waits for it any more."""
        self.dropped = True
        self.cancel.cancel()


class Desk:
    """Runs renders one after another on a thread of its own.

    A job on a lane takes the place of the one before it there, waiting or running. A more
    urgent job interrupts a less urgent one, which is done again afterwards: what it had
    calculated is still in the cache.
    """

    def __init__(self, renderer: Renderer) -> None:
        self._renderer = renderer
        self._waiting: list[Job] = []
        self._by_lane: dict[str, Job] = {}
        self._running: Job | None = None
        self._numbers = itertools.count()
        self._changed = threading.Condition()
        self._thread: threading.Thread | None = None

    def submit(self, lane: str, urgency: Urgency, work: Work) -> Job:
        """Ask for some work."""
        with self._changed:
            self._start()
            job = Job(urgency, next(self._numbers), lane, work)
            older = self._by_lane.get(lane)
            if older is not None:
                older.drop()
            self._by_lane[lane] = job
            heapq.heappush(self._waiting, job)
            if self._running is not None and self._running.urgency > urgency:
                self._running.cancel.cancel()
            self._changed.notify()
        return job

    def _start(self) -> None:
        if self._thread is None or not self._thread.is_alive():
            self._thread = threading.Thread(target=self._run, name="render desk", daemon=True)
            self._thread.start()

    def _run(self) -> None:
        while True:
            with self._changed:
                while not self._waiting:
                    self._changed.wait()
                job = heapq.heappop(self._waiting)
                self._running = job
            self._do(job)
            with self._changed:
                self._running = None
                if job.future.done() and self._by_lane.get(job.lane) is job:
                    del self._by_lane[job.lane]

    def _do(self, job: Job) -> None:
        if not job.started and not job.future.set_running_or_notify_cancel():
            return  # the asker went away while it waited
        job.started = True
        if job.dropped:
            job.future.set_exception(Superseded())
            return
        try:
            job.future.set_result(job.work(self._renderer, job.cancel))
        except Cancelled:
            self._give_way(job)
        except Exception as error:  # noqa: BLE001 - it goes to the one who asked
            job.future.set_exception(error)

    def _give_way(self, job: Job) -> None:
        """Dropped for a newer state, or only interrupted by something more urgent?"""
        with self._changed:
            if job.dropped:
                job.future.set_exception(Superseded())
                return
            job.cancel = Cancel()
            heapq.heappush(self._waiting, job)


desk = Desk(Renderer(Cache(settings.RENDER_CACHE_BYTES)))
