"""Arrivals and departures: those that ship, and reading others."""

from functools import cache
from pathlib import Path

from pydantic import ValidationError

from mabrel.compose.places import settings_at_place
from mabrel.steps import check_build
from mabrel.title import TitleError
from mabrel.title.arrival import Arrival
from mabrel.title.errors import error_of
from mabrel.title.files import load_json

FOLDER = Path(__file__).parent.parent / "arrivals"
_FIRST = ("swells-up", "rises-through-the-floor", "letters-fall")


class ArrivalError(ValueError):
    """There is no such arrival or departure."""


@cache
def arrivals() -> dict[str, Arrival]:
    """All that ship with the engine, by name: arrivals first, departures after them."""
    found = [parse_arrival(path.read_bytes(), path.name) for path in FOLDER.glob("*.json")]
    ordered = sorted(found, key=lambda each: (each.way, each.name not in _FIRST, each.label))
    return {arrival.name: arrival for arrival in ordered}


def arrival_named(name: str) -> Arrival:
    """The one of this name, such as ``swells-up``. Raises ArrivalError."""
    try:
        return arrivals()[name]
    except KeyError:
        there = ", ".join(arrivals())
        raise ArrivalError(f"there is no arrival {name!r}; there are {there}") from None


def parse_arrival(document: bytes | str, name: str = "") -> Arrival:
    """An arrival from JSON text, its steps and places held against what there is. Raises
    TitleError."""
    try:
        arrival = Arrival.model_validate(load_json(document))
    except ValidationError as invalid:
        raise TitleError(name, str(error_of(invalid))) from None
    check_build(arrival.steps, ("steps",))
    for index, motion in enumerate(arrival.motions):
        if not settings_at_place(motion.place):
            raise TitleError(
                f"motions[{index}].place", f"{motion.place!r} is no setting that moves"
            )
    return arrival
