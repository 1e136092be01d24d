"""The web process's side of one engine process."""

import contextlib
import multiprocessing
import os
import threading
from collections.abc import Callable
from concurrent.futures import CancelledError, Future
from typing import Any

import pebble
import psutil

from studio.engine.limits import PREVIEW_PIXELS
from studio.engine.outcome import Outcome
from studio.engine.process import Limits, begin, do

# How soon the library sees that a process has died or is to be ended, in seconds.
pebble.CONSTS.sleep_unit = 0.02
pebble.CONSTS.term_timeout = 0.05

_SPAWN = multiprocessing.get_context("spawn")
Done = Callable[["Future[Outcome]"], None]


class Worker:
    """One process at a time, begun anew when it ends; one job at a time.

    Not safe among threads: the desk calls it with its lock held. A pool of one from `pebble`
    starts, times and kills the process.
    """

    def __init__(self, limits: Limits) -> None:
        self._limits = limits
        self._flag = _SPAWN.RawValue("q", -1)
        self._shared = _SPAWN.RawArray("B", 4 * PREVIEW_PIXELS)
        self._pool: pebble.ProcessPool | None = None
        self._running: Future[Outcome] | None = None
        self._ready: Future[int] | None = None

    @property
    def ready(self) -> bool:
        """Whether its process is up and has nothing to do."""
        return self.up and self._running is None

    @property
    def up(self) -> bool:
        return self._ready is not None and self._ready.done() and self._ready.exception() is None

    @property
    def pid(self) -> int | None:
        return self._ready.result() if self.up and self._ready is not None else None

    def start(self) -> None:
        """Begin a process, in place of the one before. From a thread that lives on: the process
        dies with the thread that began it."""
        if self._pool is not None:
            threading.Thread(target=_ended, args=(self._pool,), daemon=True).start()
        self._pool = pebble.ProcessPool(
            max_workers=1,
            context=_SPAWN,
            initializer=begin,
            initargs=(self._limits, self._flag, self._shared, os.getpid()),
        )
        self.expect()

    def expect(self) -> None:
        """Its process was ended, and the pool begins another: it is up once that answers."""
        assert self._pool is not None
        self._running = None
        self._ready = self._pool.schedule(os.getpid)

    @property
    def failed(self) -> bool:
        """Whether its process ended before it was up."""
        return (
            self._ready is not None and self._ready.done() and self._ready.exception() is not None
        )

    @property
    def broken(self) -> bool:
        """Whether its pool has given up, as it does when a process ends that had nothing to do."""
        return self._pool is None or not self._pool.active

    def give(self, name: str, run: int, ask: dict[str, Any], deadline: float, done: Done) -> None:
        """Let it do a job; `done` is called from another thread. Runs are counted upwards."""
        assert self._pool is not None
        arguments = (name, run, ask)
        self._running = self._pool.schedule(do, args=arguments, timeout=deadline)
        self._running.add_done_callback(done)

    def took(self, outcome: Outcome) -> Outcome:
        """The job's result is taken, and whole: pixels are copied from the shared memory."""
        self._running = None
        if not outcome.shared:
            return outcome
        rgba = bytes(memoryview(self._shared).cast("B")[: outcome.shared])
        return Outcome(outcome.end, outcome.value._replace(rgba=rgba))

    def give_up(self, run: int) -> None:
        """Ask the process to leave what it was given with this number."""
        self._flag.value = run

    def kill(self) -> None:
        """End the process in the middle of what it does; another one begins."""
        running = self._running
        if running is not None:
            running.cancel()

    def computed(self) -> float:
        """Seconds of processor time that its process has used."""
        if self.pid is None:
            return 0.0
        with contextlib.suppress(psutil.Error):
            times = psutil.Process(self.pid).cpu_times()
            return float(times.user + times.system)
        return 0.0

    def stop(self) -> None:
        if self._pool is not None:
            _ended(self._pool)
            self._pool = self._ready = self._running = None


def _ended(pool: pebble.ProcessPool) -> None:
    pool.stop()
    pool.join()


def ending(future: "Future[Outcome]") -> Outcome | BaseException:
    """How a job's future ended: its outcome, or what ended its process."""
    if future.cancelled():
        return CancelledError()
    error = future.exception()
    return future.result() if error is None else error
