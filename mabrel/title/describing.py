"""What models say of their settings: the page draws them, finishes scale them, time moves them."""

from functools import cache
from typing import Annotated, Any, Literal, NamedTuple, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from mabrel.title.varying import range_of, varied_kind

REFERENCES = ("image", "step", "light")
"""Kinds that refer to something: they stay the same over time."""
_NUMBERS = ("length", "angle", "fraction", "number", "count", "seed")


class Setting(NamedTuple):
    """One field of a model, as it is shown."""

    name: str
    label: str
    kind: str
    unit: str
    low: float | None
    high: float | None
    usual: tuple[float, float] | None
    """The ends of its slider; None where they are the limits."""
    default: Any
    choices: list[str] | None
    help: str
    when: dict[str, str] | None
    called: dict[str, dict[str, str]] | None
    """What it is called instead, by another setting's name and value."""
    grip: str | None
    group: str
    moves: bool
    """Whether it may change over time."""


@cache
def settings_of(model: type[BaseModel], moving: bool = False) -> tuple[Setting, ...]:
    """All fields of a model that say what they are. With `moving` all may change over time, as
    the settings of steps do in documents, and not only those that are a `Value`."""
    return tuple(
        _setting(model, name, field, said, moving)
        for name, field in model.model_fields.items()
        if isinstance(said := field.json_schema_extra, dict) and "kind" in said
    )


def setting_of(model: type[BaseModel], name: str) -> Setting | None:
    """What a model says of one field; None where it says nothing."""
    return next((each for each in settings_of(model) if each.name == name), None)


def _setting(
    model: type[BaseModel], name: str, field: FieldInfo, said: dict[str, Any], moving: bool
) -> Setting:
    plain, moves = _plain(field)
    moves = moves or moving
    kind = str(said["kind"])
    groups: dict[str, tuple[str, ...]] = getattr(model, "GROUPS", {})
    group = next((each for each, names in groups.items() if name in names), "")
    low, high = (_finite(end) for end in range_of(plain)) if kind in _NUMBERS else (None, None)
    default = None if field.is_required() else _written(field.get_default())
    usual = said.get("usual") or _usual(kind, low, high, default)
    return Setting(
        name,
        said.get("label") or name.replace("_", " ").capitalize(),
        kind,
        str(said.get("unit", "")),
        low,
        high,
        None if usual is None else (float(usual[0]), float(usual[1])),
        default,
        _choices(plain),
        field.description or "",
        said.get("when"),
        said.get("called"),
        said.get("grip", "place" if kind == "point" else None),
        group,
        moves and kind not in REFERENCES,
    )


def _plain(field: FieldInfo) -> tuple[Any, bool]:
    """The type of a field's plain values, and whether they may change over time."""
    kind = varied_kind(field.annotation)
    if kind is not None:
        return kind, True
    plain = Annotated[(field.annotation, *field.metadata)] if field.metadata else field.annotation
    return plain, False


def _usual(
    kind: str, low: float | None, high: float | None, default: Any
) -> tuple[float, float] | None:
    """Limits are wide so that nothing sensible is refused; a slider over all of them is blunt."""
    if low is None or high is None:
        return None
    if kind == "angle" and high > 360:
        return 0, 360
    if kind == "length":
        return max(low, -40), min(high, max(float(default or 0) * 4, 40))
    if kind == "fraction" and high > 1:
        return max(low, -1), min(high, 2)
    if kind == "number" and high > 100:
        return low, 200
    if kind == "seed":
        return 0, 100
    return None


def _finite(end: float) -> float | None:
    return None if end in (float("inf"), float("-inf")) else float(end)


def _choices(plain: Any) -> list[str] | None:
    return [str(each) for each in get_args(plain)] if get_origin(plain) is Literal else None


def _written(value: Any) -> Any:
    """A default as a document has it."""
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if isinstance(value, list | tuple):
        return [_written(each) for each in value]
    return value
