"""The desk: which process does what, and when.

One thread owns all of it; others send it events. What is asked for waits in a line; a process that
is free takes what is next for it. A newer job on a lane drops the one before. What is in the way of
another page's hand is asked to give way, and goes on in the background; what does not give way is
ended with its process.
"""

import atexit
import itertools
import logging
import queue
import threading
import time
from collections.abc import Callable, Mapping
from concurrent.futures import CancelledError, Future
from typing import Any

import pebble

from studio.engine.endings import ended_by_others, limit_of, settle
from studio.engine.limits import LIMITS, MOST_OF_A_PAGE, MOST_WAITING
from studio.engine.line import Hands, Job, Line
from studio.engine.outcome import End, LimitReached, Outcome, Superseded
from studio.engine.work import FRAME, NEAR_FRAME, PREVIEW, WARM, Role, Urgency, Work
from studio.engine.worker import Worker, ending

_LOG = logging.getLogger(__name__)
_TICK = 0.02
_TURN = 0.25  # seconds that a page's picture may keep another page's from its own
_PATIENCE = 0.1  # seconds for which something short waits for a process that does not give way
_GRACE = 0.7  # seconds in which what was given up must end by itself
_STARVED = 5.0  # the same for a process that did not get to compute
_AGAIN = 1.0  # seconds between two beginnings of a process that does not come up
_QUIET = 1.0  # seconds without a request after which there is time to load what may be needed
_QUICK = {Role.HAND: Role.CLERK, Role.CLERK: Role.HAND}
_PICTURES = (PREVIEW, FRAME, NEAR_FRAME)
_OF_THE_HAND = (Urgency.MOVING, Urgency.PROOF, Urgency.LOOK)
Event = Callable[[], None]


class Desk:
    """Takes jobs and gives their futures; `start` it once, `stop` it at the end."""

    def __init__(self, warm_parts: int = 0, workers: Mapping[Role, Worker] | None = None) -> None:
        self._events: queue.SimpleQueue[Event] = queue.SimpleQueue()
        self._line = Line()
        self._hands = Hands()
        self._by_lane: dict[str, Job] = {}
        self._doing: dict[Role, Job] = {}
        self._workers = workers or {role: Worker(limits) for role, limits in LIMITS.items()}
        self._cold = {role: iter(range(warm_parts)) for role in Role}
        self._numbers, self._runs = itertools.count(), itertools.count()
        self._asked = time.monotonic()
        self._begun: dict[Role, float] = {}
        self._thread: threading.Thread | None = None
        self._starting = threading.Lock()
        self._stopping = False

    # What others call

    def start(self) -> None:
        """Begin the processes, unless that was done."""
        with self._starting:
            if self._thread is None:
                self._thread = threading.Thread(target=self._run, name="engine desk", daemon=True)
                self._thread.start()
                atexit.register(self.stop)

    def stop(self) -> None:
        """End the processes; what is on its way is given up."""
        if self._thread is not None:
            self._stopping = True
            self._thread.join()
            self._thread = None

    def submit(
        self,
        work: Work,
        page: str,
        lane: str,
        ask: dict[str, Any],
        urgency: Urgency | None = None,
    ) -> Job:
        """Ask for some work. The future raises Refused, LimitReached, EngineFault or Superseded."""
        self.start()
        urgency = work.urgency if urgency is None else urgency
        job = Job(work, page, lane, ask, next(self._numbers), work.role, urgency)
        self._events.put(lambda: self._arrived(job))
        return job

    def drop(self, job: Job) -> None:
        """Nobody waits for it any more."""
        self._events.put(lambda: self._drop(job))

    def pids(self) -> dict[Role, int | None]:
        """The processes that are up."""
        return {role: worker.pid for role, worker in self._workers.items()}

    # What the desk's own thread does

    def _start(self, role: Role) -> None:
        self._begun[role] = time.monotonic()
        self._workers[role].start()

    def _run(self) -> None:
        for role in self._workers:
            self._start(role)
        while not self._stopping:
            try:
                wait = _TICK if self._doing or len(self._line) else 0.5
                self._events.get(timeout=wait)()
                while True:
                    self._events.get_nowait()()
            except queue.Empty:
                pass
            except Exception:  # noqa: BLE001 - whatever it was, the next one must be served
                _LOG.exception("the desk stumbled")
            self._look_after()
            self._give_out()
        for job in [*self._line, *self._doing.values()]:
            settle(job, Superseded())
        for worker in self._workers.values():
            worker.stop()

    def _arrived(self, job: Job) -> None:
        if len(self._line) >= MOST_WAITING or self._line.of_page(job.page) >= MOST_OF_A_PAGE:
            said = f"The studio has {len(self._line)} requests waiting already: try again soon."
            settle(job, LimitReached(said))
            return
        older = self._by_lane.get(job.lane)
        if older is not None:
            self._drop(older)
        self._by_lane[job.lane] = job
        job.arrived = self._asked = time.monotonic()
        if job.work is PREVIEW and self._hands.asks(job.page, job.arrived):
            job.urgency = Urgency.MOVING
        elif job.work in _PICTURES and self._hands.elsewhere(job.page, job.arrived):
            job.moved_to_background()
        self._line.add(job)

    def _drop(self, job: Job) -> None:
        job.dropped = True
        self._line.leave([job])
        role = self._role_doing(job)
        if role is None:
            self._finished(job, Superseded())
        else:
            self._give_up(role, job)

    def _role_doing(self, job: Job) -> Role | None:
        return next((role for role, doing in self._doing.items() if doing is job), None)

    def _give_up(self, role: Role, job: Job) -> None:
        if job.given_up is None:
            job.given_up = time.monotonic()
            job.computed = self._workers[role].computed()
            self._workers[role].give_up(job.run)

    def _look_after(self) -> None:
        """End what does not give way, and begin processes anew that have died."""
        now = time.monotonic()
        for role, worker in self._workers.items():
            doing = self._doing.get(role)
            if (worker.broken or worker.failed) and now - self._begun[role] > _AGAIN:
                self._start(role)
                if doing is not None:
                    self._ended(role, doing, pebble.ProcessExpired("the pool broke", -9))
            elif doing is not None and self._is_deaf(role, doing, now):
                _LOG.info("the %s process did not leave %s and is ended", role, doing.work.name)
                worker.kill()

    def _is_deaf(self, role: Role, doing: Job, now: float) -> bool:
        """Whether a process goes on with what it was asked to leave.

        In the background that is allowed where somebody still waits for it; and there a process
        may simply not have got the processor to see that it was asked.
        """
        if doing.given_up is None or now - doing.given_up < _GRACE:
            return False
        if role is not Role.BACKGROUND:
            return True
        computed = self._workers[role].computed() - doing.computed
        return doing.dropped and (computed > _GRACE or now - doing.given_up > _STARVED)

    def _give_out(self) -> None:
        for role, worker in self._workers.items():
            while role not in self._doing:
                if not worker.ready:
                    break
                job = self._next_for(role)
                if job is None:
                    break
                self._begin(role, worker, job)
            if role in self._doing:
                self._make_room(role, self._doing[role])

    def _next_for(self, role: Role) -> Job | None:
        own = self._line.next(lambda job: job.role is role)
        other = _QUICK.get(role)
        lent = None if other is None else self._line.next(lambda job: self._is_stuck(job, other))
        chosen = min((job for job in (own, lent) if job), key=lambda job: job.urgency, default=None)
        if chosen is None and time.monotonic() - self._asked > _QUIET:
            part = next(self._cold[role], None)
            if part is not None:
                number = next(self._numbers)
                chosen = Job(WARM, "", f"warm {role}", {"part": part}, number, role, Urgency.IDLE)
                self._line.add(chosen)
        return chosen

    def _is_stuck(self, job: Job, other: Role) -> bool:
        """Whether something short waits for the other quick process, which is not to be had."""
        if job.role is not other or job.urgency is Urgency.IDLE:
            return False
        worker, doing = self._workers[other], self._doing.get(other)
        now = time.monotonic()
        if doing is None:
            return not worker.up
        if other is Role.HAND and doing.page == job.page:
            return False  # its results are there, and it is next
        begun = doing.given_up if other is Role.HAND else doing.started
        return begun is not None and now - begun > _PATIENCE and now - job.arrived > _PATIENCE

    def _begin(self, role: Role, worker: Worker, job: Job) -> None:
        self._line.take(job)
        if not job.future.running() and not job.future.set_running_or_notify_cancel():
            self._finished(job, Superseded())
            return
        job.started, job.given_up, job.run = time.monotonic(), None, next(self._runs)
        self._doing[role] = job

        run = job.run

        def done(future: "Future[Outcome]") -> None:
            self._events.put(lambda: self._done(role, job, run, future))

        worker.give(job.work.name, job.run, job.ask, job.work.deadline, done)

    def _make_room(self, role: Role, doing: Job) -> None:
        """Ask what runs to stop where something else has a better claim."""
        if role is Role.CLERK or doing.given_up is not None:
            return
        waiting = self._line.next(lambda job: job.role is role)
        if waiting is None or doing.urgency is Urgency.IDLE:
            return
        urgent = waiting.urgency < doing.urgency
        if role is Role.HAND and waiting.page != doing.page:
            urgent = urgent or time.monotonic() - doing.started > _TURN
        if urgent:
            self._give_up(role, doing)

    def _done(self, role: Role, job: Job, run: int, future: "Future[Outcome]") -> None:
        if self._doing.get(role) is not job or job.run != run:
            return  # its process was replaced meanwhile
        end = ending(future)
        if not isinstance(end, Outcome):
            if isinstance(end, TimeoutError | CancelledError):
                self._workers[role].expect()
            else:
                self._start(role)
            self._ended(role, job, end)
            return
        end = self._workers[role].took(end)
        del self._doing[role]
        if end.end is End.MEMORY and end.value:
            self._start(role)
        if end.end is End.CANCELLED and not job.dropped:
            self._wait_again(role, job)
            return
        if end.end is End.DONE and job.work is PREVIEW:
            self._hands.shown(job.page, time.monotonic())
        self._finished(job, end)

    def _wait_again(self, role: Role, job: Job) -> None:
        if role is Role.HAND and job.urgency in _OF_THE_HAND:
            rival = self._line.next(lambda each: each.role is role)
            if rival is not None and rival.page != job.page:
                job.moved_to_background()
        self._line.add(job)

    def _ended(self, role: Role, job: Job, why: BaseException) -> None:
        """A job whose process is gone."""
        self._doing.pop(role, None)
        if job.dropped:
            self._finished(job, Superseded())
            return
        if isinstance(why, CancelledError) or ended_by_others(why):
            job.lives -= 1
            if job.lives > 0:
                if job.urgency in _OF_THE_HAND and isinstance(why, CancelledError):
                    job.moved_to_background()
                self._line.add(job)
                return
        self._finished(job, limit_of(job, why))

    def _finished(self, job: Job, end: Outcome | Exception) -> None:
        if self._by_lane.get(job.lane) is job:
            del self._by_lane[job.lane]
        settle(job, end)
