"""Values over time: a bare value, pegs with easing, and drift.

In a document a value that changes is an object: ``{"pegs": [...]}``, ``{"value": v,
"drift": {...}}`` or ``{"pegs": [...], "drift": {...}}``. `value_at` is the one place where
any of them becomes a plain value.
"""

import itertools
import math
from functools import cache
from typing import (
    TYPE_CHECKING,
    Annotated,
    Any,
    ClassVar,
    Generic,
    TypeAlias,
    TypeVar,
    cast,
    get_args,
    get_origin,
)

from pydantic import BaseModel, Discriminator, Field, Tag, create_model, model_validator

from mabrel.title.kinds import Model

T = TypeVar("T")
_Unit = Annotated[float, Field(ge=0, le=1)]
_Overshoot = Annotated[float, Field(ge=-4, le=5)]
_MISSING: Any = None
LATEST = 86_400
"""Seconds: no title is longer than a day."""


@cache
def range_of(kind: Any) -> tuple[float, float]:
    """The least and the greatest number that an annotated type allows (infinite for no limit)."""
    low, high = float("-inf"), float("inf")
    if get_origin(kind) is Annotated:
        for rule in get_args(kind)[1:]:
            for each in getattr(rule, "metadata", (rule,)):
                low = getattr(each, "ge", getattr(each, "gt", low))
                high = getattr(each, "le", getattr(each, "lt", high))
    return low, high


class Peg(Model, Generic[T]):
    """A value at a time (seconds).

    `ease` is the cubic Bézier (x1, y1, x2, y2) to the next peg, as in CSS Easing Functions 1.
    """

    at: Annotated[float, Field(ge=0, le=LATEST)]
    value: T
    ease: tuple[_Unit, _Overshoot, _Unit, _Overshoot] = (0.42, 0.0, 0.58, 1.0)


class Drift(Model):
    """Smooth random wandering of ± `amount` around the value, about `rate` turns a second."""

    amount: Annotated[float, Field(ge=0, le=100_000)]
    rate: Annotated[float, Field(gt=0, le=100)] = 1.0
    seed: Annotated[int, Field(ge=0, le=999_999)] = 0


class Varying(Model, Generic[T]):
    """A value that changes over time."""

    value: T | None = _MISSING
    pegs: Annotated[list[Peg[T]], Field(min_length=1, max_length=1000)] | None = None
    drift: Drift | None = None

    limits: ClassVar[tuple[float, float]] = (float("-inf"), float("inf"))
    """What a number stays within, whatever easing and drift make of it."""

    @model_validator(mode="after")
    def _one_base(self) -> "Varying[T]":
        if (self.value is None) == (self.pegs is None):
            raise ValueError("must have either a value with drift, or pegs")
        if self.pegs is None and self.drift is None:
            raise ValueError("must have drift beside its value, or be the bare value")
        times = [peg.at for peg in self.pegs or []]
        if any(after <= before for before, after in itertools.pairwise(times)):
            raise ValueError("must have its pegs in order of time, no two at the same time")
        return self


def is_varying(raw: Any) -> bool:
    """Whether a raw value of a document is one of the forms that change over time."""
    if isinstance(raw, Varying):
        return True
    return isinstance(raw, dict) and bool(raw.keys() & {"pegs", "drift"})


def _branch(raw: Any) -> str:
    return "varying" if is_varying(raw) else "plain"


if TYPE_CHECKING:
    Value: TypeAlias = T | Varying[T]
else:

    class Value:
        """``Value[kind]`` is a value of that kind, or one of that kind that changes over time."""

        def __class_getitem__(cls, kind: Any) -> Any:
            return Annotated[
                Annotated[kind, Tag("plain")] | Annotated[_varying(kind), Tag("varying")],
                Discriminator(_branch),
            ]


def value_type(kind: Any) -> Any:
    """``Value[kind]`` for a kind that is known at run time only."""
    return cast(Any, Value)[kind]


@cache
def _varying(kind: Any) -> type[Varying[Any]]:
    """The model of values of one kind that change: each peg is held against the kind."""
    name = _name_of(kind)
    peg = create_model(f"Peg{name}", __base__=Peg[Any], __module__=__name__, value=(kind, ...))
    model = create_model(
        f"Varying{name}",
        __base__=Varying[Any],
        __module__=__name__,
        value=(kind | None, None),
        pegs=(Annotated[list[peg], Field(min_length=1, max_length=1000)] | None, None),
    )
    model.limits = range_of(kind)  # type: ignore[attr-defined]
    return cast(type[Varying[Any]], model)


def _name_of(kind: Any) -> str:
    """Of the kind in the schema: its type, and its range."""
    plain = get_args(kind)[0] if get_origin(kind) is Annotated else kind
    low, high = range_of(kind)
    if math.isfinite(low) and math.isfinite(high):
        return f"{low:.0f}To{high:.0f}".replace("-", "Minus")
    return "Colour" if plain is str else "Points" if get_origin(plain) is list else "Value"


def value_at(value: T | Varying[T], time: float) -> T:
    """The plain value at `time` seconds; before the first peg and after the last it rests.

    An easing may overshoot, and drift wanders: a number stays within the limits of its kind.
    """
    if not isinstance(value, Varying):
        return value
    found: Any = value.value if value.pegs is None else _between_pegs(value.pegs, time)
    if value.drift is not None:
        found = _drifted(found, value.drift, time, salt=0)
    if isinstance(found, int | float) and not isinstance(found, bool):
        low, high = value.limits
        found = min(max(found, low), high)
    return cast(T, found)


def changes(value: Any, start: float, end: float) -> bool:
    """Whether a value, in any of its forms, may differ from one time to another between `start`
    and `end` seconds."""
    if not isinstance(value, Varying):
        return False
    if value.drift is not None and value.drift.amount > 0:
        return start < end
    pegs = value.pegs or []
    # Between equal pegs an easing mixes a value with itself.
    held = [value_at(value, start), value_at(value, end)]
    held += [peg.value for peg in pegs if start < peg.at < end]
    return any(other != held[0] for other in held[1:])


def varying_in(model: Any) -> list[Varying[Any]]:
    """Every value in a model, its parts and lists that changes over time."""
    if isinstance(model, Varying):
        return [model]
    if isinstance(model, BaseModel):
        fields = (getattr(model, name) for name in type(model).model_fields)
        return [found for each in fields for found in varying_in(each)]
    if isinstance(model, dict):
        return [found for each in model.values() for found in varying_in(each)]
    if isinstance(model, list | tuple):
        return [found for each in model for found in varying_in(each)]
    return []


def _between_pegs(pegs: list[Peg[T]], time: float) -> T:
    if time <= pegs[0].at:
        return pegs[0].value
    for before, after in itertools.pairwise(pegs):
        if time < after.at:
            share = (time - before.at) / (after.at - before.at)
            return cast(T, mix(before.value, after.value, eased(before.ease, share)))
    return pegs[-1].value


def eased(ease: tuple[float, float, float, float], share: float) -> float:
    """Progress (0 to 1, may overshoot) at a `share` of the time, as CSS's cubic-bezier()."""
    x1, y1, x2, y2 = ease
    low, high = 0.0, 1.0
    for _ in range(48):  # x is monotone in the parameter, so bisection can't fail
        middle = (low + high) / 2
        if _bezier(x1, x2, middle) < share:
            low = middle
        else:
            high = middle
    return _bezier(y1, y2, (low + high) / 2)


def _bezier(first: float, second: float, t: float) -> float:
    s = 1 - t
    return 3 * s * s * t * first + 3 * s * t * t * second + t * t * t


def mix(a: Any, b: Any, share: float) -> Any:
    """Between two values of the same shape; what can't be mixed holds until the later peg."""
    if isinstance(a, bool) or isinstance(b, bool):
        return a
    if isinstance(a, int | float) and isinstance(b, int | float):
        return a + (b - a) * share
    if isinstance(a, str) and isinstance(b, str):
        return _mix_codes(a, b, share) if a.startswith("#") and b.startswith("#") else a
    if isinstance(a, list | tuple) and isinstance(b, list | tuple) and len(a) == len(b):
        return type(a)(mix(x, y, share) for x, y in zip(a, b, strict=True))
    if isinstance(a, dict) and isinstance(b, dict) and a.keys() == b.keys():
        return {name: mix(a[name], b[name], share) for name in a}
    if isinstance(a, BaseModel) and type(a) is type(b):
        return type(a).model_validate(mix(a.model_dump(), b.model_dump(), share))
    return a


def _channels(code: str) -> list[int]:
    digits = code[1:]
    if len(digits) == 3:
        digits = "".join(2 * digit for digit in digits)
    digits = digits.ljust(8, "f")
    return [int(digits[i : i + 2], 16) for i in range(0, 8, 2)]


def _code(channels: list[float]) -> str:
    digits = "".join(f"{min(255, max(0, round(channel))):02x}" for channel in channels)
    return "#" + (digits[:6] if digits.endswith("ff") else digits)


def _mix_codes(a: str, b: str, share: float) -> str:
    pairs = zip(_channels(a), _channels(b), strict=True)
    return _code([x + (y - x) * share for x, y in pairs])


def _drifted(base: Any, drift: Drift, time: float, salt: int) -> Any:
    if isinstance(base, bool):
        return base
    if isinstance(base, int | float):
        return base + drift.amount * _wander(time * drift.rate, drift.seed + 7919 * salt)
    if isinstance(base, str) and base.startswith("#"):
        *hues, alpha = _channels(base)
        shifted = [
            c + 255 * drift.amount * _wander(time * drift.rate, drift.seed + 7919 * (salt + i))
            for i, c in enumerate(hues)
        ]
        return _code([*shifted, alpha])
    if isinstance(base, list | tuple):
        return type(base)(_drifted(part, drift, time, salt + i) for i, part in enumerate(base))
    return base


def _wander(place: float, seed: int) -> float:
    """Gradient noise in one dimension (Perlin 2002), scaled to −1..1."""
    cell = math.floor(place)
    t = place - cell
    fade = t * t * t * (t * (6 * t - 15) + 10)
    before, after = _slope(cell, seed) * t, _slope(cell + 1, seed) * (t - 1)
    return max(-1.0, min(1.0, 2 * (before + (after - before) * fade)))


def _slope(cell: int, seed: int) -> float:
    """A slope from −1 to 1 for each whole number: the integer hash of Wellons (2018)."""
    x = (cell * 0x9E3779B1 + seed * 0x85EBCA6B) & 0xFFFFFFFF
    x = ((x ^ (x >> 16)) * 0x7FEB352D) & 0xFFFFFFFF
    x = ((x ^ (x >> 15)) * 0x846CA68B) & 0xFFFFFFFF
    return ((x ^ (x >> 16)) / 0xFFFFFFFF) * 2 - 1
