"""The stops of a document, as colour's calculations take them."""

import itertools

from mabrel.colour import ColourStop, from_code
from mabrel.title.kinds import Stop


def colour_stops(stops: list[Stop]) -> list[ColourStop]:
    return [ColourStop(stop.place, from_code(stop.colour), stop.midpoint) for stop in stops]


def least_gap(stops: list[Stop]) -> float:
    """The shortest way on which one colour goes over to the next, as a share of all: 0 where one
    does at once, 1 where there is but one colour."""
    gaps = [
        (after.place - before.place) * 2 * min(before.midpoint, 1 - before.midpoint)
        for before, after in itertools.pairwise(stops)
        if before.colour != after.colour
    ]
    return max(min(gaps, default=1.0), 0.0)
