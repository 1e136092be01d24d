"""What a title's motion comes to, before anything is rendered."""

import itertools
import math
from collections.abc import Iterator
from typing import Any

from mabrel.title.layers import Lettering, Picture, Plate
from mabrel.title.models import Title
from mabrel.title.playing import named_as_clip
from mabrel.title.varying import is_varying, values_of, varying_in


def moves(title: Title) -> bool:
    """Whether anything in a title changes over time."""
    if varying_in(title) or plays(title):
        return True
    return any(is_varying(raw) for step in title.steps() for raw in step.settings.values())


def plays(title: Title) -> bool:
    """Whether a clip runs in a title."""
    pictures = [each.source.picture for each in title.layers if isinstance(each, Picture | Plate)]
    named = [name for each in pictures for name in values_of(each)]
    settings = [raw for step in title.steps() for raw in step.settings.values()]
    return any(named_as_clip(name) for name in (*named, *settings) if isinstance(name, str))


def still_time(title: Title) -> float:
    """The time, in seconds, at which one picture stands for a title: the frame half way through
    one that moves, when what arrives has arrived and nothing has left; 0 for any other."""
    frame = title.frame
    return math.floor(frame.duration * frame.fps / 2 + 0.5) / frame.fps if moves(title) else 0.0


def moving_spans(title: Title) -> list[tuple[float, float]]:
    """When anything changes: spans of seconds in order, apart from one another, within the
    duration. Between them every picture is the one before it."""
    found = [(0.0, title.frame.duration)] if plays(title) else sorted(_spans(title))
    whole: list[tuple[float, float]] = []
    for start, end in found:
        start, end = max(start, 0.0), min(end, title.frame.duration)
        if whole and start <= whole[-1][1]:
            whole[-1] = (whole[-1][0], max(whole[-1][1], end))
        elif end > start:
            whole.append((start, end))
    return whole


def _spans(title: Title) -> Iterator[tuple[float, float]]:
    """Those of each value; what letters do in turn lasts until the last one has done it."""
    last = max((_wait(layer) for layer in title.layers), default=0.0)
    for value in _over_time(title.model_dump(mode="json")):
        if value.get("drift"):
            yield (0.0, title.frame.duration)
        for before, after in itertools.pairwise(value.get("pegs") or []):
            if before["value"] != after["value"]:
                yield (before["at"], after["at"] + last)


def _wait(layer: Any) -> float:
    if not isinstance(layer, Lettering) or layer.source.in_turn is None:
        return 0.0
    return layer.source.in_turn.delay * max(map(len, values_of(layer.source.text)))


def _over_time(document: Any) -> Iterator[dict[str, Any]]:
    if is_varying(document):
        yield document
    elif isinstance(document, dict):
        for each in document.values():
            yield from _over_time(each)
    elif isinstance(document, list):
        for each in document:
            yield from _over_time(each)
