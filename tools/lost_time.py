"""How much of the processors' time others took while something was measured.

A virtual machine that shares its processors is told by its host for how long it would have run
and could not ("steal" in proc(5), /proc/stat). Figures are worth little without that beside them.
"""

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import TypeVar

_COUNTS = Path("/proc/stat")
_IDLE, _WAITING, _STOLEN, _ALL = 3, 4, 7, 8
_HARDLY = 0.05
_PATIENCE = 60.0
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


def quietest(measure: Callable[[], Item], tries: int = 3) -> tuple[Item, Lost]:
    """What was measured while the least was lost, begun when hardly anything was; at once where
    that stays so. It is chosen by what was lost alone, whatever came out."""
    found: list[tuple[Item, Lost]] = []
    for _ in range(tries):
        _wait_for_quiet()
        with lost() as share:
            made = measure()
        found.append((made, share))
        if (share.share or 0.0) <= _HARDLY:
            break
    return min(found, key=lambda each: each[1].share or 0.0)


def _wait_for_quiet() -> None:
    """For a minute at most."""
    until = time.monotonic() + _PATIENCE
    while time.monotonic() < until:
        with lost() as found:
            _want(0.5)
        if (found.share or 0.0) <= _HARDLY:
            return
        time.sleep(1)


def _want(seconds: float) -> None:
    """Keeps a processor busy: only what is wanted can be lost."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        pass


def share_lost(counts: list[int]) -> float:
    """`counts` are the first eight of /proc/stat, as they grew; time that nobody wanted is left
    out."""
    wanted = sum(counts) - counts[_IDLE] - counts[_WAITING]
    return counts[_STOLEN] / wanted if wanted > 0 else 0.0


def _counts() -> list[int]:
    if not _COUNTS.is_file():
        return []
    return [int(count) for count in _COUNTS.read_text().split("\n", 1)[0].split()[1 : 1 + _ALL]]
