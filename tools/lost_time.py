"""How much of the processors' time others took while something was measured.

A virtual machine that shares its processors is told by its host for how long it would have run
and could not ("steal" in proc(5), /proc/stat). Figures are worth little without that beside them.
"""

import itertools
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import TypeVar

_COUNTS = Path("/proc/stat")
_IDLE, _WAITING, _STOLEN, _ALL = 3, 4, 7, 8
Item = TypeVar("Item")


@dataclass
class Lost:
    """The share of the time wanted that went to others, 0 to 1; None where it isn't counted."""

    share: float | None = None

    def __str__(self) -> str:
        return "unknown" if self.share is None else f"{self.share:.0%}".replace("%", " %")


@contextmanager
def lost() -> Iterator[Lost]:
    """What is lost within the `with`; there when it ends."""
    found, before = Lost(), _counts()
    yield found
    after = _counts()
    if before and after:
        found.share = share_lost([now - then for now, then in zip(after, before, strict=True)])


def each_with_lost(items: Iterator[Item]) -> Iterator[tuple[Item, Lost]]:
    """Each item with what was lost while it was made."""
    while True:
        with lost() as found:
            made = list(itertools.islice(items, 1))
        if not made:
            return
        yield made[0], found


def share_lost(counts: list[int]) -> float:
    """`counts` are the first eight of /proc/stat, as they grew; time that nobody wanted is left
    out."""
    wanted = sum(counts) - counts[_IDLE] - counts[_WAITING]
    return counts[_STOLEN] / wanted if wanted > 0 else 0.0


def _counts() -> list[int]:
    if not _COUNTS.is_file():
        return []
    return [int(count) for count in _COUNTS.read_text().split("\n", 1)[0].split()[1 : 1 + _ALL]]
