"""How a job ends, as it comes back from its process."""

from enum import StrEnum
from typing import Any, NamedTuple


class End(StrEnum):
    DONE = "done"
    REFUSED = "refused"
    """What was asked for can't be done; `value` is a place and a rule."""
    CANCELLED = "cancelled"
    MEMORY = "memory"
    """It wanted more than it may have; `value` says whether its process is still full."""
    FAULT = "fault"
    """A fault of ours; `value` is the traceback."""


class Outcome(NamedTuple):
    """`shared` is how many bytes of the result lie in the memory that both processes share."""

    end: End
    value: Any = None
    shared: int = 0


class Pixels(NamedTuple):
    """RGBA, 8 bits, straight alpha, row by row."""

    width: int
    height: int
    rgba: Any
    """An array (H, W, 4) in the process that rendered it, bytes for the one who asked."""
    notices: tuple[str, ...]


class Checked(NamedTuple):
    """A document that passed every check: its text, and what the studio must know of it."""

    text: str
    name: str
    width: int
    height: int
    duration: float
    fps: float
    files: list[str]


class Refused(ValueError):  # noqa: N818 - the asker's fault, not ours
    """The engine says what is wrong with what it was given: where, and which rule it breaks."""

    def __init__(self, place: str, rule: str) -> None:
        self.place, self.rule = place, rule
        super().__init__(f"{place}: {rule}" if place else rule)


class Superseded(Exception):  # noqa: N818 - not a fault
    """A newer request took this one's place, or nobody waits for it any more."""


class LimitReached(Exception):  # noqa: N818 - said to the asker
    """The studio could not do it within its limits; `str()` names the limit and what to do."""


class EngineFault(Exception):  # noqa: N818 - ours
    """A fault of ours, with its traceback."""
