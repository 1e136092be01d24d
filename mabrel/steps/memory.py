"""What follows from a shape alone: made once, whatever is painted on it."""

import time
from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, field
from typing import Any, NamedTuple, Protocol, TypeVar, cast

import numpy as np

T = TypeVar("T")


class Store(Protocol):
    """Where results are kept, by what they were made from, as many as fit."""

    def get(self, key: str) -> Any:
        """What is kept, or None."""

    def put(self, key: str, result: Any, cost: float = 0.0) -> None:
        """Keep a result that took `cost` seconds, and has `arrays`."""


class Kept(NamedTuple):
    """One thing that is remembered."""

    key: Hashable
    """What it depends on beside the shape."""
    made: Any
    cost: float
    """Seconds that it took."""

    @property
    def arrays(self) -> list[np.ndarray]:
        return list(_arrays_in(self.made))


def _arrays_in(made: Any) -> Iterator[np.ndarray]:
    if isinstance(made, np.ndarray):
        yield made
    elif isinstance(made, tuple):
        for each in made:
            yield from _arrays_in(each)


@dataclass(eq=False)
class Memory:
    """Of each name the last thing that was made. Where it is `kept_by` a store, the same shape made
    anew finds there what is known of it, and each thing stays for as long as it is worth it."""

    _kept: dict[str, Kept] = field(default_factory=dict)
    _with_room: "dict[Hashable, Memory]" = field(default_factory=dict)
    _store: Store | None = None
    _name: str = ""

    def remembered(self, name: str, key: Hashable, make: Callable[[], T]) -> T:
        """What follows from the shape and `key`."""
        found = self._kept.get(name)
        if found is None or found.key != key:
            found = self._kept[name] = self._looked_up(name, key, make)
        return cast(T, found.made)

    def with_room(self, margin: Hashable) -> "Memory":
        """That of the same shape with room around it; the last one."""
        wide = self._with_room.get(margin)
        if wide is None:
            wide = Memory()
            if self._store is not None:
                wide.kept_by(self._store, _wider(self._name, margin))
            self._with_room = {margin: wide}
        return wide

    def kept_by(self, store: Store, name: str) -> None:
        """Share what it knows with all that is known of a shape by this name: the first counts."""
        if self._store is not None:
            return
        self._store, self._name = store, name
        for each, kept in self._kept.items():
            store.put(f"{name} {each}", kept, kept.cost)
        for margin, wide in self._with_room.items():
            wide.kept_by(store, _wider(name, margin))

    @property
    def arrays(self) -> list[np.ndarray]:
        own = [array for kept in [*self._kept.values()] for array in kept.arrays]
        return own + [array for wide in self._with_room.values() for array in wide.arrays]

    def _looked_up(self, name: str, key: Hashable, make: Callable[[], Any]) -> Kept:
        place = f"{self._name} {name}"
        found: Kept | None = None if self._store is None else self._store.get(place)
        if found is not None and found.key == key:
            return found
        began = time.perf_counter()
        made = make()
        kept = Kept(key, made, time.perf_counter() - began)
        if self._store is not None:
            self._store.put(place, kept, kept.cost)
        return kept


def _wider(name: str, margin: Hashable) -> str:
    return f"{name} with {margin}"
