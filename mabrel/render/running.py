"""Running a plan: each node once, and only what is needed for what is asked."""

import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from mabrel.kernels import threads_for
from mabrel.render.cache import Cache
from mabrel.render.course import Course, most_bytes
from mabrel.render.node import Node, nodes_of
from mabrel.steps import Piece

T = TypeVar("T")
Measure = Callable[[Node[Any]], Any]
"""Gives a node's result."""
_FIRST_GUESS = 40e-9  # seconds a pixel, for what was never made before
_SHARE = 0.3  # how far a new measurement moves what is known


@dataclass
class Rates:
    """Seconds a pixel that nodes took so far, by what they are."""

    known: dict[str, float] = field(default_factory=dict)

    def expected(self, node: Node[Any]) -> float:
        """Seconds that a node will take, by what others like it took."""
        rate = self.known.get(_sort(node), _FIRST_GUESS)
        return rate * max(node.region.area, 1)

    def took(self, node: Node[Any], seconds: float) -> None:
        rate = seconds / max(node.region.area, 1)
        before = self.known.get(_sort(node), rate)
        self.known[_sort(node)] = before + (rate - before) * _SHARE


def _sort(node: Node[Any]) -> str:
    return f"{node.kind} {node.name}" if node.kind == "step" else node.kind


@dataclass
class Run:
    """Makes results of nodes, from the last ones that are still kept."""

    cache: Cache
    rates: Rates = field(default_factory=Rates)
    pause: Callable[[], None] = lambda: None
    made: list[Node[Any]] = field(default_factory=list)
    """The nodes that were made, in their order."""

    def result(self, last: Node[T]) -> T:
        """The result of a node. Whatever it needs is made once, and let go of after its last
        use."""
        held: dict[str, Any] = {}
        order = self._needed(last, held)
        if order:
            course = Course(order, held)
            with threads_for(last.region.area):
                course.run(lambda node: self._make(node, course))
        result: T = held[last.key]
        return result

    def _needed(self, last: Node[Any], held: dict[str, Any]) -> list[Node[Any]]:
        """What must be made, what is needed before what needs it; what is kept is put in `held`."""
        order: list[Node[Any]] = []
        seen: set[str] = set()
        stack: list[tuple[Node[Any], bool]] = [(last, False)]
        while stack:
            node, ready = stack.pop()
            if ready:
                order.append(node)
            elif node.key not in seen:
                seen.add(node.key)
                kept = self.cache.get(node.key)
                if kept is not None:
                    held[node.key] = kept
                    continue
                stack.append((node, True))
                stack.extend((each, False) for each in reversed(node.inputs))
        return order

    def _make(self, node: Node[Any], course: Course) -> Any:
        self.pause()
        inputs = [course.held[each.key] for each in node.inputs]
        if node.changes_first and not self._ours(node.inputs[0], course):
            inputs[0] = inputs[0].copy()
        began = time.perf_counter()
        with threads_for(node.region.area if course.alone else 0):
            result = node.work(*inputs)
        seconds = time.perf_counter() - began
        self.rates.took(node, seconds)
        self.made.append(node)
        if isinstance(result, Piece):
            result.memory.kept_by(self.cache, node.key)
        if node.keeps or (node.inputs and self.cache.is_missed(node.key)):
            self.cache.put(node.key, result, seconds)
        return result

    def _ours(self, node: Node[Any], course: Course) -> bool:
        """Whether nobody else needs a node's result any more."""
        return course.is_last_use(node) and node.key not in self.cache

    def expected(self, last: Node[Any]) -> "Estimate":
        """What it would take to make a node's result now."""
        order = self._needed(last, {})
        seconds = sum(self.rates.expected(node) for node in order)
        return Estimate(seconds, most_bytes(nodes_of([last])))


@dataclass(frozen=True)
class Estimate:
    """Of a render: seconds, and the most bytes that its arrays take at a time if one thread makes
    them; with helpers half as much again at most (`Course`)."""

    seconds: float
    bytes: int
