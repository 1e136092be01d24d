"""The frames of a clip: at which times they are, and what their files are called."""

import math
import re
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import NamedTuple

MOST_FRAMES = 100_000
_NEAR = Fraction(1, 1_000_000)  # frames by which a time that is typed may miss one
_FINEST = 1001  # what broadcast rates are parts of: 24000/1001


class ClipError(ValueError):
    """Frames that can't be made."""


class FrameTime(NamedTuple):
    """One frame: its number from the title's start, and its time in seconds."""

    number: int
    time: float


def rate_of(written: float | str) -> Fraction:
    """Frames a second as a fraction: ``25``, ``23.976`` or ``24000/1001``. Raises ClipError."""
    try:
        rate = Fraction(written).limit_denominator(_FINEST)
    except (ValueError, ZeroDivisionError, OverflowError):
        raise ClipError(f"a rate is written 25 or 24000/1001, not {written!r}") from None
    for base in (24000, 30000, 48000, 60000, 120000):
        if abs(rate - Fraction(base, 1001)) < Fraction(1, 500):
            rate = Fraction(base, 1001)
    if not 0 < rate <= 240:
        raise ClipError(f"a rate is more than 0 and at most 240 a second, not {float(rate):g}")
    return rate


def frame_times(start: float, end: float, rate: Fraction) -> list[FrameTime]:
    """Every frame from `start` on and before `end` seconds, at least one; times are exact to the
    last bit, so a frame is the same whatever it is made with. Raises ClipError."""
    if not 0 <= start < end:
        raise ClipError(f"a clip ends after it begins, not from {start:g} to {end:g} seconds")
    first, last = (math.ceil(Fraction(time) * rate - _NEAR) for time in (start, end))
    if last - first > MOST_FRAMES:
        raise ClipError(f"a clip has at most {MOST_FRAMES:,} frames, not {last - first:,}")
    return [FrameTime(n, float(n / rate)) for n in range(first, max(last, first + 1))]


def numbered(pattern: Path, times: list[FrameTime]) -> Iterator[Path]:
    """The file of each frame: the last run of ``#`` in the pattern's name is its number, with as
    many digits. Raises ClipError where there is none, or too few for all."""
    runs = list(re.finditer(r"#+", pattern.name))
    if not runs:
        raise ClipError(f"{pattern.name}: several pictures are written as frame-####.png")
    start, end = runs[-1].span()
    if len(str(times[-1].number)) > end - start:
        raise ClipError(f"{pattern.name}: frame {times[-1].number} needs more # than that")
    for frame in times:
        name = pattern.name[:start] + f"{frame.number:0{end - start}d}" + pattern.name[end:]
        yield pattern.with_name(name)
