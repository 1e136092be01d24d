"""Numbered pictures: three or more that are called alike can be used as one, as wall.####.png.

Each can be used by itself too: a camera numbers pictures that have nothing to do with one another.
"""

import re
from collections import Counter
from collections.abc import Iterable

_NUMBERED = re.compile(
    r"(?P<before>.*?)(?P<number>\d{3,9})(?P<after>\.(?:png|jpe?g|webp|tiff?|exr))", re.I
)
_LEAST = 3
_SIGNS = re.compile(r"#{2,9}")


def with_runs(names: Iterable[str]) -> list[str]:
    """The names in their order, and before the first of each run the name of the run."""
    listed = list(names)
    counts = Counter(map(run_of, listed))
    found: list[str] = []
    for name in listed:
        run = run_of(name)
        if run is not None and counts[run] >= _LEAST:
            found.append(run)
        found.append(name)
    return list(dict.fromkeys(found))


def run_of(name: str) -> str | None:
    """The name of the run that a picture may belong to."""
    parts = _NUMBERED.fullmatch(name)
    if parts is None:
        return None
    return f"{parts['before']}{'#' * len(parts['number'])}{parts['after']}"


def renamed(run: str, plain: str) -> str:
    """The run as its pictures can be called, where `plain` is what can be of the name of one."""
    before, after = _SIGNS.split(run)
    signs = run[len(before) : len(run) - len(after)]
    stem = plain.removesuffix("0" * len(signs) + after.lower())
    return f"{stem if stem != plain else ''}{signs}{after.lower()}"


def numbered_run(run: str, number: int) -> str:
    """The same run under another name."""
    before, after = _SIGNS.split(run)
    signs = run[len(before) : len(run) - len(after)]
    stem = before.rstrip("._- ")
    return f"{stem or 'pictures'}-{number}{before[len(stem) :] or '.'}{signs}{after}"


def member(run: str, name: str, other: str) -> str:
    """What a picture of one run is called in another."""
    before, after = _SIGNS.split(run)
    number = name[len(before) : len(name) - len(after)]
    there, then = _SIGNS.split(other)
    return f"{there}{number}{then}"
