"""What a title's motion comes to, before anything is rendered."""

import math
from typing import Any

from mabrel.title.models import Title
from mabrel.title.varying import is_varying, varying_in


def moves(title: Title) -> bool:
    """Whether anything in a title changes over time."""
    if varying_in(title):
        return True
    return any(is_varying(raw) for step in title.steps() for raw in step.settings.values())


def still_time(title: Title) -> float:
    """The time, in seconds, at which one picture stands for a title: the frame half way through
    one that moves, when what arrives has arrived and nothing has left; 0 for any other."""
    frame = title.frame
    return math.floor(frame.duration * frame.fps / 2 + 0.5) / frame.fps if moves(title) else 0.0


def peg_times(value: Any) -> list[float]:
    """The times of all pegs in a model or a document, in order, each once."""
    found: set[float] = set()
    _collect(value, found)
    return sorted(found)


def _collect(value: Any, found: set[float]) -> None:
    if hasattr(value, "model_dump"):
        value = value.model_dump(mode="json")
    if isinstance(value, dict):
        for peg in value.get("pegs") or []:
            if isinstance(peg, dict) and isinstance(peg.get("at"), int | float):
                found.add(float(peg["at"]))
        for each in value.values():
            _collect(each, found)
    elif isinstance(value, list | tuple):
        for each in value:
            _collect(each, found)
