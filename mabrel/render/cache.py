"""Results by what they were made from, as many as fit: those that were dear to make longest."""

import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any

import numpy as np

_LEAST_COST = 1e-4  # seconds: what is quick to make counts as that
_MISSES = 2**14  # keys of what was asked for in vain that are remembered
_AT_ONCE = 1 / 32  # of the limit, that is made free at a time


def arrays_of(result: Any) -> Sequence[np.ndarray]:
    """The arrays that a result holds."""
    if isinstance(result, np.ndarray):
        return [result]
    found: Sequence[np.ndarray] = result.arrays
    return found


@dataclass
class _Entry:
    result: Any
    arrays: list[tuple[int, int]]
    """Of each array, what it is known by, and its bytes."""
    cost: float
    rank: float
    used: bool = False
    """Whether it was asked for since it is kept."""
    rest: int = 0
    """Of the pictures that rested, the last one that it is a part of."""


@dataclass
class Cache:
    """Keeps results within a bound in bytes; safe among threads.

    Keys are made from everything that a result depends on, so an entry can never be stale. What
    is thrown away is what costs the least time to make again for the bytes that it takes and was
    not asked for the longest (GreedyDual-Size: Cao and Irani, "Cost-aware WWW proxy caching
    algorithms", 1997). An array that several results share counts once.

    Once it is full, only what was asked for in vain before comes in (Einziger, Friedman and Manes,
    "TinyLFU: a highly efficient cache admission policy", 2017): while a hand drags a slider most
    results are asked for once, and would push out all that its last picture needs. What a picture
    is made from that will be looked at comes in at once (`resting`): of a title that is opened
    after another was worked on, all is asked for for the first time. To make room, what was never
    used again goes first, and last what the latest such picture is made from.
    """

    limit: int = 512 * 2**20
    _kept: dict[str, _Entry] = field(default_factory=dict, repr=False)
    _holders: dict[int, int] = field(default_factory=dict)
    _bytes: int = 0
    _age: float = 0.0
    _rests: bool = False
    _rest: int = 0
    """The number of the latest picture that rested."""
    _missed: dict[str, int] = field(default_factory=dict, repr=False)
    """How often what is not there was asked for, of late."""
    _lock: threading.RLock = field(default_factory=threading.RLock)

    def get(self, key: str) -> Any:
        """What is kept, or None."""
        with self._lock:
            entry = self._kept.get(key)
            if entry is None:
                self._miss(key)
                return None
            entry.rank, entry.used = self._rank(entry), True
            entry.rest = self._rest if self._rests else entry.rest
            return entry.result

    def made(self, key: str, make: Callable[[], Any]) -> Any:
        """Make a result and keep it, at the cost that it takes now."""
        began = time.perf_counter()
        result = make()
        self.put(key, result, time.perf_counter() - began)
        return result

    def put(self, key: str, result: Any, cost: float = 0.0) -> None:
        """Keep a result that took `cost` seconds; one larger than half of all is not kept, nor one
        for which others would have to go that is asked for for the first time."""
        arrays = [(id(_root(each)), _root(each).nbytes) for each in arrays_of(result)]
        with self._lock:
            if key in self._kept:
                self._drop(key)
            sizes = dict(arrays)
            more = sum(size for name, size in sizes.items() if name not in self._holders)
            full = self._bytes + more > self.limit
            once = not self._rests and self._missed.get(key) == 1
            if sum(sizes.values()) > self.limit / 2 or (full and once):
                return
            self._make_room(more)
            entry = _Entry(result, arrays, max(cost, _LEAST_COST), 0.0)
            entry.rest = self._rest if self._rests else 0
            entry.rank = self._rank(entry)
            self._kept[key] = entry
            for name, size in dict(arrays).items():
                self._bytes += size if self._holders.get(name, 0) == 0 else 0
                self._holders[name] = self._holders.get(name, 0) + 1
            self._make_room(0)  # where others that went had shared an array with it

    @contextmanager
    def resting(self, rests: bool = True) -> Iterator[None]:
        """Within the `with` a picture is made that `rests`: all that it is made from comes in."""
        self._rests = rests
        self._rest += rests
        try:
            yield
        finally:
            self._rests = False

    def is_missed(self, key: str) -> bool:
        """Whether it was asked for in vain more than once of late."""
        with self._lock:
            return self._missed.get(key, 0) > 1

    def _miss(self, key: str) -> None:
        self._missed[key] = self._missed.pop(key, 0) + 1
        if len(self._missed) > _MISSES:
            del self._missed[next(iter(self._missed))]

    def _rank(self, entry: _Entry) -> float:
        own = sum(size / max(self._holders.get(name, 1), 1) for name, size in entry.arrays)
        return self._age + entry.cost / max(own, 1.0)

    def _make_room(self, more: int) -> None:
        """Drop what is worth the least, if there is no room for so many bytes."""
        if self._bytes + more <= self.limit:
            return
        for key in sorted(self._kept, key=self._worth):
            if self._bytes + more <= self.limit * (1 - _AT_ONCE):
                break
            self._age = max(self._age, self._kept[key].rank)
            self._drop(key)

    def _worth(self, key: str) -> tuple[bool, bool, float]:
        entry = self._kept[key]
        return entry.rest == self._rest > 0, entry.used, entry.rank

    def _drop(self, key: str) -> None:
        for name, size in dict(self._kept.pop(key).arrays).items():
            self._holders[name] -= 1
            if self._holders[name] == 0:
                del self._holders[name]
                self._bytes -= size

    @property
    def nbytes(self) -> int:
        return self._bytes

    def __len__(self) -> int:
        return len(self._kept)

    def __contains__(self, key: str) -> bool:
        return key in self._kept


def _root(array: np.ndarray) -> np.ndarray:
    """The array that owns the memory of a view."""
    while isinstance(array.base, np.ndarray):
        array = array.base
    return array
