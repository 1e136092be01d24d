"""The course of a run: which node is made when, and by which thread."""

import heapq
import threading
from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numba

from mabrel.render.node import Node

Make = Callable[[Node[Any]], Any]
_ALWAYS = 128 * 2**20
"""Bytes that arrays may take in any case."""
_BESIDE = 1.5
"""How much more than one thread's they may take."""

_helpers = ThreadPoolExecutor(max(numba.config.NUMBA_NUM_THREADS - 1, 1), "mabrel-helper")


class Course:
    """How far a run has come; safe among the threads that run it.

    A node is made as soon as what it needs is there, those first that one thread would come to
    first. Where several can be made at a time, helpers make them beside the thread that asked, as
    many as a kernel may have threads, and each has one thread for its kernels: they never wait for
    one another at the end of a loop, and what only one thread can do holds nobody up. Nothing is
    begun beside others that would take much more memory than one thread would at its worst.
    """

    def __init__(self, order: Sequence[Node[Any]], held: dict[str, Any]) -> None:
        """`order` has what is needed before what needs it, the last one is the result; `held` has
        what is there already."""
        self.held = held
        """The results that are still needed, by their keys."""
        self._order = order
        self._uses = Counter(each.key for node in order for each in node.inputs)
        self._uses[order[-1].key] += 1
        self._waits, self._users = _order_of(order, held)
        self._ready = [at for at, needs in self._waits.items() if not needs]
        self._most = max(most_bytes(order) * _BESIDE, _ALWAYS)
        self._at_work = 0
        self._sizes: dict[str, int] = {}
        self._busy = 0
        self._workers = 0
        self._stopped = False
        self._error: BaseException | None = None
        self._changed = threading.Condition()

    def run(self, make: Make) -> None:
        """Make all that is left. Raises what `make` raises, after which nothing more is begun."""
        threads = numba.get_num_threads()
        if len(self._waits) > 1:
            for _ in range(threads - 1):
                _helpers.submit(self._help, make, threads)
        self._work(make)
        with self._changed:
            self._changed.wait_for(lambda: self._workers == 0)
        error, self._error = self._error, None
        if error is not None:
            raise error

    @property
    def alone(self) -> bool:
        """Whether nothing is made, or could be, beside the one node that is."""
        with self._changed:
            return self._busy == 1 and not self._has_room()

    def is_last_use(self, node: Node[Any]) -> bool:
        """Whether only one node still needs the result of this one."""
        return self._uses[node.key] == 1

    def _help(self, make: Make, threads: int) -> None:
        numba.set_num_threads(threads)
        self._work(make)

    def _work(self, make: Make) -> None:
        with self._changed:
            self._workers += 1
        try:
            while (node := self._next()) is not None:
                self._done(node, make(node))
        except BaseException as error:  # noqa: BLE001 - told to the thread that asked
            with self._changed:
                self._stopped, self._error = True, self._error or error
        finally:
            with self._changed:
                self._workers -= 1
                self._changed.notify_all()

    def _next(self) -> Node[Any] | None:
        """What to make now; None where there is nothing left to do."""
        with self._changed:
            self._changed.wait_for(lambda: self._stopped or not self._busy or self._has_room())
            if self._stopped or not self._ready:
                return None
            node = self._order[heapq.heappop(self._ready)]
            self._busy += 1
            self._at_work += node.bytes_at_work
            return node

    def _has_room(self) -> bool:
        if not self._ready:
            return False
        there = self._at_work + sum(self._sizes.values())
        return there + self._order[self._ready[0]].bytes_at_work <= self._most

    def _done(self, node: Node[Any], result: Any) -> None:
        with self._changed:
            self._busy -= 1
            self.held[node.key] = result
            self._at_work -= node.bytes_at_work
            self._sizes[node.key] = node.bytes
            for each in node.inputs:
                self._uses[each.key] -= 1
                if self._uses[each.key] == 0:
                    self.held.pop(each.key, None)
                    self._sizes.pop(each.key, None)
            for at in self._users.get(node.key, ()):
                self._waits[at] -= 1
                if self._waits[at] == 0:
                    heapq.heappush(self._ready, at)
            if not self._ready and not self._busy:
                self._changed.notify_all()  # that is all
            else:
                self._changed.notify(max(len(self._ready) - 1, 0))  # one is for this thread


def _order_of(
    order: Sequence[Node[Any]], held: dict[str, Any]
) -> tuple[dict[int, int], dict[str, list[int]]]:
    """Of each node that is missing, how many that are missing it needs; and who needs each."""
    missing = {node.key: at for at, node in enumerate(order) if node.key not in held}
    waits: dict[int, int] = {}
    users: dict[str, list[int]] = {}
    for at in missing.values():
        needs = {each.key for each in order[at].inputs} & missing.keys()
        waits[at] = len(needs)
        for each in needs:
            users.setdefault(each, []).append(at)
    return waits, users


def most_bytes(order: Iterable[Node[Any]]) -> int:
    """The most that arrays take at a time where one thread makes these nodes, each once, if
    nothing is kept from before."""
    once = {node.key: node for node in order}
    uses = Counter(each.key for node in once.values() for each in node.inputs)
    held: dict[str, int] = {}
    most = 0
    for node in once.values():
        most = max(most, sum(held.values()) + node.bytes_at_work)
        held[node.key] = node.bytes
        for each in node.inputs:
            uses[each.key] -= 1
            if uses[each.key] == 0:
                held.pop(each.key, None)
    return most
