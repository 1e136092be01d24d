"""Values over time: a bare value, pegs with easing, and drift.

In a document a value that changes is an object: ``{"pegs": [...]}``, ``{"value": v,
"drift": {...}}`` or ``{"pegs": [...], "drift": {...}}``. `value_at` is the one place where
any of them becomes a plain value.
"""

import itertools
import math
import types
from bisect import bisect_right
from collections.abc import Callable
from functools import cache
from typing import (
    TYPE_CHECKING,
    Annotated,
    Any,
    ClassVar,
    Generic,
    Literal,
    TypeAlias,
    TypeVar,
    Union,
    cast,
    get_args,
    get_origin,
)

from pydantic import BaseModel, Discriminator, Field, Tag, create_model, model_validator

from mabrel.title.drifting import DRIFTS, Drift, drifted
from mabrel.title.easing import Ease, eased
from mabrel.title.kinds import Colour, Model, Spot, Stop
from mabrel.title.mixing import Nature, mix

T = TypeVar("T")
T_co = TypeVar("T_co", covariant=True)
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


class Moment(float):
    """A time in seconds, in a title that runs round after `loop` seconds; None: it doesn't.

    Wherever a value is asked for at a time, a plain number of seconds does as well.
    """

    loop: float | None

    def __new__(cls, seconds: float, loop: float | None = None) -> "Moment":
        moment = super().__new__(cls, seconds)
        moment.loop = loop
        return moment

    def before(self, seconds: float) -> "Moment":
        """So many seconds earlier."""
        return Moment(self - seconds, self.loop)


def loop_of(time: float) -> float | None:
    return time.loop if isinstance(time, Moment) else None


class Peg(Model, Generic[T_co]):
    """A value at a time (seconds), and how it goes on from there to the next peg."""

    at: Annotated[float, Field(ge=0, le=LATEST)]
    value: T_co
    ease: Ease = (0.42, 0.0, 0.58, 1.0)


class Varying(Model, Generic[T_co]):
    """A value that changes over time."""

    value: T_co | None = _MISSING
    pegs: Annotated[list[Peg[T_co]], Field(min_length=1, max_length=1000)] | None = None
    drift: Drift | None = None

    limits: ClassVar[tuple[float, float]] = (float("-inf"), float("inf"))
    """What a number stays within, whatever easing and drift make of it."""
    nature: ClassVar[Nature] = "held"

    @model_validator(mode="after")
    def _one_base(self) -> "Varying[T_co]":
        if (self.value is None) == (self.pegs is None):
            raise ValueError("must have either a value with drift, or pegs")
        if self.pegs is None and self.drift is None:
            raise ValueError("must have drift beside its value, or be the bare value")
        times = [peg.at for peg in self.pegs or []]
        if any(after <= before for before, after in itertools.pairwise(times)):
            raise ValueError("must have its pegs in order of time, no two at the same time")
        if self.drift is not None and self.nature not in DRIFTS:
            raise ValueError("can't drift: only numbers, colours and points do")
        return self


_PLAIN = frozenset({str, float, int, bool, type(None)})


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
                Annotated[kind, Tag("plain")] | Annotated[varying_type(kind), Tag("varying")],
                Discriminator(_branch),
            ]


def varied_kind(annotation: Any) -> Any:
    """The kind in ``Value[kind]``, or in that or None; None for any other type."""
    if get_origin(annotation) is Annotated and Tag("plain") in get_args(annotation)[1:]:
        plain, *rules = get_args(annotation)
        rest = [rule for rule in rules if rule != Tag("plain")]
        return Annotated[(plain, *rest)] if rest else plain
    if get_origin(annotation) in (Annotated, Union, types.UnionType):
        found = (varied_kind(each) for each in get_args(annotation))
        return next((each for each in found if each is not None), None)
    return None


def value_type(kind: Any) -> Any:
    """``Value[kind]`` for a kind that is known at run time only."""
    return cast(Any, Value)[kind]


@cache
def varying_type(kind: Any) -> type[Varying[Any]]:
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
    model.nature = _nature(kind)  # type: ignore[attr-defined]
    return cast(type[Varying[Any]], model)


def _nature(kind: Any) -> Nature:
    """How values of a kind mix: by what they are made of."""
    plain, *rules = get_args(kind) if get_origin(kind) is Annotated else (kind,)
    if plain in (int, float):
        return "number"
    if plain is str:
        return "colour" if any(rule in get_args(Colour) for rule in rules) else "held"
    if get_origin(plain) is tuple:
        return "point"
    if get_origin(plain) is not list:
        return "held"
    (part,) = get_args(plain)
    if part in (Stop, Spot):
        return "stops" if part is Stop else "spots"
    return "curve" if range_of(get_args(part)[0]) == (0, 1) else "points"


def _name_of(kind: Any) -> str:
    """Of the kind in the schema: its type, and its range."""
    plain, *rules = get_args(kind) if get_origin(kind) is Annotated else (kind,)
    if get_origin(plain) is Literal:
        choices = get_args(plain)
        return "".join(each.title().replace("-", "") for each in (choices[0], choices[-1]))
    if plain is str and not any(rule in get_args(Colour) for rule in rules):
        limits = (each for rule in rules for each in getattr(rule, "metadata", ()))
        longest = (each.max_length for each in limits if hasattr(each, "max_length"))
        return f"Words{next(longest, '')}"
    if plain is bool:
        return "Switch"
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
    found: Any = (
        value.value if value.pegs is None else _between_pegs(value.nature, value.pegs, time)
    )
    if value.drift is not None and value.drift.amount > 0:
        found = drifted(found, value.drift, time, loop_of(time))
    if isinstance(found, int | float) and not isinstance(found, bool):
        low, high = value.limits
        found = min(max(found, low), high)
    return cast(T, found)


def values_of(value: T | Varying[T]) -> list[T]:
    """Every plain value that it is given: those of its pegs in order of time, or the one."""
    if not isinstance(value, Varying):
        return [value]
    return [peg.value for peg in value.pegs] if value.pegs else [cast(T, value.value)]


def mapped(value: T | Varying[T], change: Callable[[T], T]) -> T | Varying[T]:
    """The same with every value that it is given changed."""
    if not isinstance(value, Varying):
        return change(value)
    if value.pegs is None:
        return value.model_copy(update={"value": change(cast(T, value.value))})
    pegs = [peg.model_copy(update={"value": change(peg.value)}) for peg in value.pegs]
    return value.model_copy(update={"pegs": pegs})


def later(value: Varying[T], seconds: float) -> Varying[T]:
    """The same, so many seconds later."""
    pegs = value.pegs and [peg.model_copy(update={"at": peg.at + seconds}) for peg in value.pegs]
    return value.model_copy(update={"pegs": pegs})


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
    found: list[Varying[Any]] = []
    _collect(model, found)
    return found


def _collect(model: Any, found: list[Varying[Any]]) -> None:
    if type(model) in _PLAIN:
        return
    if isinstance(model, Varying):
        found.append(model)
    elif isinstance(model, BaseModel):
        for each in model.__dict__.values():
            _collect(each, found)
    elif isinstance(model, dict):
        for each in model.values():
            _collect(each, found)
    elif isinstance(model, list | tuple):
        for each in model:
            _collect(each, found)


def _between_pegs(nature: Nature, pegs: list[Peg[T]], time: float) -> T:
    if time <= pegs[0].at:
        return pegs[0].value
    at = bisect_right(pegs, time, key=lambda peg: peg.at)
    if at == len(pegs):
        return pegs[-1].value
    before, after = pegs[at - 1], pegs[at]
    share = (time - before.at) / (after.at - before.at)
    if share == 0 or before.value == after.value:
        return before.value
    return cast(T, mix(nature, before.value, after.value, eased(before.ease, share)))
