"""The stops of a document, as colour's calculations take them."""

from mabrel.colour import ColourStop, from_code
from mabrel.title.kinds import Stop


def colour_stops(stops: list[Stop]) -> list[ColourStop]:
    return [ColourStop(stop.place, from_code(stop.colour), stop.midpoint) for stop in stops]
