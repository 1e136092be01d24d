"""Phases: numbers that come round, in a title that does."""

from typing import Any, NamedTuple

from mabrel.title.varying import Varying

ROUND = 64
"""The most cycles of running noise before it comes round."""


class Closed(NamedTuple):
    """A phase on its way, and after how many cycles it is where it began; 0: it isn't."""

    value: float
    cycles: int


def closed_phase(varying: Varying[Any], value: float, cycle: float) -> Closed:
    """A phase whose way from the first peg to the last is the nearest whole number of cycles.

    One that goes less than half a cycle is left as it is: it was not meant to come round.
    """
    pegs = varying.pegs or []
    way = pegs[-1].value - pegs[0].value if pegs else 0.0
    cycles = round(way / cycle)
    if cycles == 0:
        return Closed(value, 0)
    if abs(cycles) > ROUND:
        cycles = round(cycles / ROUND) * ROUND
    first = pegs[0].value
    around = abs(cycles) if abs(cycles) <= ROUND else ROUND
    return Closed(first + (value - first) * cycles * cycle / way, around)
