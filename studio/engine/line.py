"""Who is next: the waiting line in front of the engine."""

from collections import OrderedDict, deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future
from dataclasses import dataclass, field
from typing import Any

from studio.engine.work import Role, Urgency, Work

_PAGES_KNOWN = 1000
_HAND_WITHIN = 5.0
"""A page that was shown two previews within so many seconds has a hand on a slider."""
_MOVES_WITHIN = 1.0
"""So long after the last one, others keep out of its way."""


@dataclass(eq=False)
class Job:
    """Some work on its way; `future` gives its result, its error, or Superseded.

    `page` is whose turn it takes, `lane` the place that it is for: a newer job there drops it.
    """

    work: Work
    page: str
    lane: str
    ask: dict[str, Any]
    number: int
    role: Role
    urgency: Urgency
    future: "Future[Any]" = field(default_factory=Future)
    dropped: bool = False
    run: int = -1
    """Of all that its process did, which this is; what is begun again has another one."""
    arrived: float = 0.0
    started: float = 0.0
    given_up: float | None = None
    """When it was asked to stop, to make room or because nobody waits for it."""
    computed: float = 0.0
    """Seconds that its process had computed by then."""
    lives: int = 2
    """How often its process may be ended by others before it is told that it can't be done."""

    def moved_to_background(self) -> None:
        self.role, self.urgency = Role.BACKGROUND, Urgency.MOVED


class Line:
    """Waiting jobs: the most urgent first, and among equals each page in turn."""

    def __init__(self) -> None:
        self._waiting: list[Job] = []
        self._turns: OrderedDict[str, int] = OrderedDict()
        self._count = 0

    def __len__(self) -> int:
        return len(self._waiting)

    def __iter__(self) -> Iterator[Job]:
        return iter(list(self._waiting))

    def of_page(self, page: str) -> int:
        """How many of a page's jobs wait."""
        return sum(job.page == page for job in self._waiting)

    def add(self, job: Job) -> None:
        self._waiting.append(job)

    def next(self, fits: Callable[[Job], bool]) -> Job | None:
        """The one whose turn it is among those that fit; it goes on waiting."""
        return min(filter(fits, self._waiting), key=self._place, default=None)

    def take(self, job: Job) -> None:
        """It is its turn."""
        self._waiting.remove(job)
        self._count += 1
        self._turns[job.page] = self._count
        self._turns.move_to_end(job.page)
        while len(self._turns) > _PAGES_KNOWN:
            self._turns.popitem(last=False)

    def leave(self, jobs: Iterable[Job]) -> None:
        for job in jobs:
            if job in self._waiting:
                self._waiting.remove(job)

    def _place(self, job: Job) -> tuple[int, int, int]:
        return job.urgency, self._turns.get(job.page, 0), job.number


class Hands:
    """Which pages have a hand on a slider: they ask for one preview after the other."""

    def __init__(self) -> None:
        self._shown: OrderedDict[str, deque[float]] = OrderedDict()
        self._moved = -1e9
        self._page = ""

    def shown(self, page: str, now: float) -> None:
        """A page was given a preview."""
        self._shown.setdefault(page, deque(maxlen=2)).append(now)
        self._shown.move_to_end(page)
        while len(self._shown) > _PAGES_KNOWN:
            self._shown.popitem(last=False)

    def asks(self, page: str, now: float) -> bool:
        """A page asks for a preview; whether a hand moves on it."""
        times = self._shown.get(page, ())
        moves = len(times) == 2 and now - min(times) < _HAND_WITHIN
        if moves:
            self._moved, self._page = now, page
        return moves

    def elsewhere(self, page: str, now: float) -> bool:
        """Whether a hand moves just now on another page."""
        return self._page != page and now - self._moved < _MOVES_WITHIN
