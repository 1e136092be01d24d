"""How a clip runs in a title: from where, how fast, and what comes after its end."""

import re
from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Model, told
from mabrel.title.varying import LATEST, Value, Varying, value_at, varying_type

ANIMATED = ".anim.webp"
"""What an animated WebP is called: one that is called as stills are is one."""
ENDINGS = (".webm", ".mkv", ".mp4", ".mov", ".gif", ".apng", ANIMATED)
_DIGITS = re.compile(r"#{2,9}")


def named_as_clip(name: str) -> bool:
    """Whether a file is called as clips are: what may change over time is known by its name."""
    return name.lower().endswith(ENDINGS) or is_numbered(name)


def is_numbered(name: str) -> bool:
    """Whether a name stands for numbered pictures, such as ``wall.####.png``."""
    return len(_DIGITS.findall(name.rpartition("/")[2])) == 1


def numbers_of(name: str) -> re.Pattern[str]:
    """What the files of a numbered name are called; its one group is the number. There are as
    many digits as signs, or more where the number needs them."""
    before, after = _DIGITS.split(name)
    digits = len(name) - len(before) - len(after)
    number = rf"(\d{{{digits}}}|[1-9]\d{{{digits},8}})"
    return re.compile(f"{re.escape(before)}{number}{re.escape(after)}")


class Play(Model):
    """A clip's time is `start` where the title begins, and runs at `speed` times the title's;
    after its last frame that one holds, or it begins anew, or runs back and forth. With a `speed`
    of 0 and a `start` that moves it runs as its pegs say."""

    start: Value[Annotated[float, Field(ge=-LATEST, le=LATEST)]] = told(
        "number", 0.0, "Of the clip, where the title begins.", unit="s", usual=(0, 60)
    )
    speed: Annotated[float, Field(ge=0, le=100)] = told(
        "number", 1.0, "Times as fast as it was taken; 0 holds one frame.", usual=(0, 4)
    )
    after: Literal["hold", "loop", "there and back"] = told(
        "choice", "loop", "What comes after its end.", label="After its end"
    )
    rate: Annotated[float, Field(ge=1, le=240)] = told(
        "number",
        25.0,
        "Frames a second of numbered pictures, which say none; other clips have their own.",
        label="Pictures a second",
        usual=(12, 60),
    )

    def time_at(self, seconds: float, duration: float) -> float:
        """The clip's own time, from 0 to below its duration, at a time of the title."""
        own = value_at(self.start, seconds) + seconds * self.speed
        if self.after == "hold":
            return min(max(own, 0.0), duration)
        if self.after == "loop":
            return own % duration
        there = own % (2 * duration)
        return there if there < duration else max(2 * duration - there - 1e-9, 0.0)


RUNNING: Varying[float] = varying_type(float).model_validate(
    {"pegs": [{"at": 0, "value": 0}, {"at": LATEST, "value": LATEST}]}
)
"""Stands for a clip among values over time: it is another at any time."""
