"""A result that is to be calculated: one node of a plan."""

import hashlib
import json
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, fields, is_dataclass
from functools import cache
from typing import Any, Generic, Literal, TypeVar

from pydantic import BaseModel

from mabrel.steps import Region
from mabrel.title.varying import Varying, changes

T_co = TypeVar("T_co", covariant=True)
Kind = Literal[
    "source",
    "step",
    "image",
    "matte",
    "card",
    "floor",
    "canvas",
    "wash",
    "overview",
    "tap",
    "parts",
]


@dataclass(frozen=True, eq=False, repr=False)
class Node(Generic[T_co]):
    """One calculation, with all that it needs to know.

    Nothing is calculated while a plan is made; `work` is called once, with the results of
    `inputs` in their order. Two nodes with the same key have the same result, byte for byte.
    """

    kind: Kind
    name: str
    """Of what it is: a step's name, a layer's id."""
    key: str
    """Stands for the result: made from everything that `work` reads."""
    region: Region
    """What the result can't leave, in render pixels."""
    work: Callable[..., T_co]
    inputs: tuple["Node[Any]", ...] = ()
    varies: tuple[Varying[Any], ...] = ()
    """The values over time that it read itself."""
    floats: int = 4
    """Numbers for each pixel of its result: with its region, what it takes to keep it."""
    working: int = 0
    """Numbers for each pixel that it needs beside its inputs and its result."""
    keeps: bool = True
    """Whether its result is worth keeping for the next render; otherwise it is kept once it was
    asked for again, as what lies beneath a layer is while a hand changes that."""
    changes_first: bool = False
    """Whether `work` may write into its first input, where nobody else needs that."""

    def __repr__(self) -> str:
        return f"<{self.kind} {self.name} {self.key[:8]}>"

    @property
    def bytes(self) -> int:
        """An estimate of what its result takes."""
        return self.region.area * self.floats * 4

    @property
    def bytes_at_work(self) -> int:
        """An estimate of what it takes to make it, its inputs not counted."""
        return self.bytes + self.region.area * self.working * 4

    def changes(self, start: float, end: float) -> bool:
        """Whether its result may differ between two times, by what is written in the title."""
        seen: set[int] = set()
        return any(
            changes(value, start, end) for node in nodes_of([self], seen) for value in node.varies
        )


def nodes_of(last: Sequence[Node[Any]], seen: set[int] | None = None) -> Iterator[Node[Any]]:
    """All nodes that these need, each once, what is needed before what needs it."""
    seen = set() if seen is None else seen
    stack: list[tuple[Node[Any], bool]] = [(node, False) for node in reversed(last)]
    while stack:
        node, ready = stack.pop()
        if ready:
            yield node
        elif id(node) not in seen:
            seen.add(id(node))
            stack.append((node, True))
            stack.extend((each, False) for each in reversed(node.inputs))


def key_of(**seen: Any) -> str:
    """A key from everything that a result depends on."""
    return hashlib.sha256(_TEXT.encode(seen).encode()).hexdigest()


def _plain(value: Any) -> Any:
    """What JSON can hold of a value; it comes back for what is in that."""
    if isinstance(value, Node):
        return value.key
    if isinstance(value, BaseModel):
        return value.model_dump_json()
    if is_dataclass(value) and not isinstance(value, type):
        held = [getattr(value, name) for name in _names(type(value))]
        return {"type": type(value).__name__, "held": held}
    if hasattr(value, "tolist"):
        return value.tolist()
    raise TypeError(f"a key can't be made from {type(value).__name__}")


@cache
def _names(model: type) -> tuple[str, ...]:
    return tuple(each.name for each in fields(model))


_TEXT = json.JSONEncoder(sort_keys=True, default=_plain, check_circular=False)
