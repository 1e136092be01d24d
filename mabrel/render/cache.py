"""Results by what they were made from, as many as fit."""

import threading
from collections import OrderedDict
from typing import Generic, Protocol, TypeVar


class Sized(Protocol):
    @property
    def nbytes(self) -> int: ...


Kept = TypeVar("Kept", bound=Sized)


class Cache(Generic[Kept]):
    """A least-recently-used store bounded in bytes; safe among threads.

    Keys are made from everything that a result depends on, so an entry can never be stale.
    """

    def __init__(self, limit: int = 512 * 2**20) -> None:
        self.limit = limit
        self._kept: OrderedDict[str, tuple[Kept, int]] = OrderedDict()
        self._lock = threading.Lock()
        self._bytes = 0

    def get(self, key: str) -> Kept | None:
        with self._lock:
            if key not in self._kept:
                return None
            self._kept.move_to_end(key)
            return self._kept[key][0]

    def put(self, key: str, result: Kept) -> None:
        """Keep a result; one larger than the whole cache is not kept."""
        size = result.nbytes
        with self._lock:
            if key in self._kept:
                self._bytes -= self._kept.pop(key)[1]
            if size > self.limit:
                return
            self._kept[key] = (result, size)
            self._bytes += size
            while self._bytes > self.limit:
                _, (_, freed) = self._kept.popitem(last=False)
                self._bytes -= freed

    @property
    def nbytes(self) -> int:
        return self._bytes

    def __len__(self) -> int:
        return len(self._kept)
