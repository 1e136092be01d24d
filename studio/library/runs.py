"""Numbered pictures: three or more that are called alike are one entry, such as wall.####.png."""

import re
from collections import defaultdict
from collections.abc import Iterable

_NUMBERED = re.compile(
    r"(?P<before>.*?)(?P<number>\d{3,9})(?P<after>\.(?:png|jpe?g|webp|tiff?|exr))", re.I
)
_LEAST = 3
_SIGNS = re.compile(r"#{2,9}")


def gathered(names: Iterable[str]) -> list[str]:
    """The names in their order, with each run of numbered pictures as one."""
    runs: dict[str, list[str]] = defaultdict(list)
    whose: dict[str, str] = {}
    listed = list(names)
    for name in listed:
        run = run_of(name)
        if run is not None:
            runs[run].append(name)
            whose[name] = run
    found = (
        whose[name] if name in whose and len(runs[whose[name]]) >= _LEAST else name
        for name in listed
    )
    return list(dict.fromkeys(found))


def run_of(name: str) -> str | None:
    """The name of the run that a picture may belong to."""
    parts = _NUMBERED.fullmatch(name)
    if parts is None:
        return None
    return f"{parts['before']}{'#' * len(parts['number'])}{parts['after']}"


def renamed(run: str, number: int) -> str:
    """The same run under a name that is free."""
    before, after = _SIGNS.split(run)
    signs = run[len(before) : len(run) - len(after)]
    stem = before.rstrip("._- ")
    return f"{stem}-{number}{before[len(stem) :] or '.'}{signs}{after}"


def member(run: str, name: str, other: str) -> str:
    """What a picture of one run is called in another."""
    before, after = _SIGNS.split(run)
    number = name[len(before) : len(name) - len(after)]
    there, then = _SIGNS.split(other)
    return f"{there}{number}{then}"
