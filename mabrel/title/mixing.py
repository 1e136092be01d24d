"""Between two values of one kind.

Where lists differ in number, the shorter one gets entries that don't change it, or hardly: stops
in the middle of their widest gap, in the colour that is there; points of a curve in the middle of
their widest gap, on the curve; corners of a polygon in the middle of its longest side; a spot of
colour where the nearest other one is.
"""

import itertools
import math
from collections.abc import Callable, Sequence
from typing import Any, Literal

import numpy as np
from scipy.interpolate import PchipInterpolator

from mabrel.title.kinds import Spot, Stop

Nature = Literal["number", "colour", "point", "points", "curve", "stops", "spots", "held"]
"""What mixes how; `held` stays until the later peg."""

Pair = tuple[float, ...]


def mix(nature: Nature, a: Any, b: Any, share: float) -> Any:
    """Between two values; a `share` beyond 0 to 1 overshoots where the kind bears it."""
    mixers: dict[str, Callable[[Any, Any, float], Any]] = {
        "number": _number,
        "colour": mixed_codes,
        "point": _point,
        "points": _points,
        "curve": _curve,
        "stops": _stops,
        "spots": _spots,
    }
    return mixers[nature](a, b, share) if nature in mixers else a


def _number(a: float, b: float, share: float) -> float:
    return a + (b - a) * share


def _point(a: Sequence[float], b: Sequence[float], share: float) -> tuple[float, ...]:
    return tuple(_number(x, y, share) for x, y in zip(a, b, strict=True))


def _points(a: list[Pair], b: list[Pair], share: float) -> list[tuple[float, ...]]:
    a, b = _filled(a, b, _with_corner), _filled(b, a, _with_corner)
    return [_point(p, q, share) for p, q in zip(a, b, strict=True)]


def _curve(a: list[Pair], b: list[Pair], share: float) -> list[tuple[float, ...]]:
    a, b = _filled(a, b, _with_point), _filled(b, a, _with_point)
    return [_point(p, q, _held(share)) for p, q in zip(a, b, strict=True)]


def _stops(a: list[Stop], b: list[Stop], share: float) -> list[Stop]:
    a, b = _filled(a, b, _with_stop), _filled(b, a, _with_stop)
    share = _held(share)
    return [
        Stop(
            place=_number(p.place, q.place, share),
            colour=mixed_codes(p.colour, q.colour, share),
            midpoint=_number(p.midpoint, q.midpoint, share),
        )
        for p, q in zip(a, b, strict=True)
    ]


def _spots(a: list[Spot], b: list[Spot], share: float) -> list[Spot]:
    share = _held(share)
    return [
        Spot(
            x=_number(p.x, q.x, share),
            y=_number(p.y, q.y, share),
            colour=mixed_codes(p.colour, q.colour, share),
        )
        for p, q in itertools.chain(
            zip(a, b, strict=False),
            ((_nearest(q, a), q) for q in b[len(a) :]),
            ((p, _nearest(p, b)) for p in a[len(b) :]),
        )
    ]


def _nearest(spot: Spot, others: list[Spot]) -> Spot:
    return min(others, key=lambda other: math.hypot(other.x - spot.x, other.y - spot.y))


def _held(share: float) -> float:
    """Lists in order and within their limits stay so: they don't overshoot."""
    return min(max(share, 0.0), 1.0)


def _filled(short: list[Any], long: list[Any], one_more: Callable[[list[Any]], list[Any]]) -> Any:
    while len(short) < len(long):
        short = one_more(short)
    return short


def _with_corner(corners: list[Pair]) -> list[Pair]:
    around = [*corners[1:], corners[0]]
    at = max(range(len(corners)), key=lambda i: math.dist(corners[i], around[i]))
    between = _point(corners[at], around[at], 0.5)
    return [*corners[: at + 1], between, *corners[at + 1 :]]


def _with_point(points: list[Pair]) -> list[Pair]:
    inputs, outputs = (np.array(axis, np.float64) for axis in zip(*points, strict=True))
    at = int(np.argmax(np.diff(inputs)))
    place = float(inputs[at] + inputs[at + 1]) / 2
    there = (place, float(PchipInterpolator(inputs, outputs)(place)))
    return [*points[: at + 1], there, *points[at + 1 :]]


def _with_stop(stops: list[Stop]) -> list[Stop]:
    """One stop more where the gap is widest; of one stop alone, another like it."""
    if len(stops) == 1:
        return [*stops, stops[0]]
    gaps = [after.place - before.place for before, after in itertools.pairwise(stops)]
    at = gaps.index(max(gaps))
    before, after = stops[at], stops[at + 1]
    # The midpoint is where the mix is even: a stop there leaves the gradient as it is.
    there = Stop(
        place=before.place + gaps[at] * before.midpoint,
        colour=mixed_codes(before.colour, after.colour, 0.5),
    )
    return [*stops[:at], before.model_copy(update={"midpoint": 0.5}), there, *stops[at + 1 :]]


def channels(code: str) -> list[int]:
    """Red, green, blue and alpha of a colour code, 0 to 255."""
    digits = code[1:]
    if len(digits) == 3:
        digits = "".join(2 * digit for digit in digits)
    digits = digits.ljust(8, "f")
    return [int(digits[i : i + 2], 16) for i in range(0, 8, 2)]


def code_of(parts: Sequence[float]) -> str:
    """The code of a colour, each part rounded and held within 0 to 255."""
    digits = "".join(f"{min(255, max(0, round(part))):02x}" for part in parts)
    return "#" + (digits[:6] if digits.endswith("ff") else digits)


def mixed_codes(a: str, b: str, share: float) -> str:
    """Between two colour codes, channel by channel."""
    pairs = zip(channels(a), channels(b), strict=True)
    return code_of([x + (y - x) * share for x, y in pairs])
