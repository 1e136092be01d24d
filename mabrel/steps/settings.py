"""The settings of a step in a document: checking them, and evaluating them at a time."""

from functools import cache
from typing import Annotated, Any

from pydantic import BaseModel, ValidationError, create_model

from mabrel.steps.catalogue import kind_of
from mabrel.steps.kind import StepKind, StepSettings
from mabrel.steps.references import check_references, setting_kind
from mabrel.title import Step, Title, TitleError, Varying, value_at
from mabrel.title.describing import REFERENCES
from mabrel.title.errors import check_switches, error_of, place_of
from mabrel.title.kinds import Model
from mabrel.title.phases import closed_phase
from mabrel.title.varying import is_varying, loop_of, value_type, varying_type


def check_title(title: Title) -> Title:
    """Hold every step of a title against the catalogue, and see that all it refers to is there.

    Raises TitleError with the place.
    """
    for i, layer in enumerate(title.layers):
        check_build(layer.build, ("layers", i, "build"))
    check_references(title)
    return title


def check_build(build: list[Step], place: tuple[int | str, ...]) -> None:
    """Hold the steps of one build against the catalogue. Raises TitleError with the place."""
    for j, step in enumerate(build):
        _check_step(step, (*place, j))


def _check_step(step: Step, place: tuple[int | str, ...]) -> None:
    try:
        kind = kind_of(step.step)
    except KeyError:
        raise TitleError(
            place_of((*place, "step")),
            f"there is no step {step.step!r}; `mabrel steps` lists those that are there",
        ) from None
    for name, raw in step.settings.items():
        known = name in kind.settings.model_fields
        if known and is_varying(raw) and setting_kind(step, name) in REFERENCES:
            at = place_of((*place, "settings", name))
            raise TitleError(at, "must stay the same over time")
    try:
        read = _in_documents(kind).model_validate(step.settings)
    except ValidationError as invalid:
        raise error_of(invalid, (*place, "settings")) from None
    check_switches(step.settings, read, (*place, "settings"))


@cache
def _in_documents(kind: StepKind) -> type[BaseModel]:
    """The model of a step's settings as a document has them: each may change over time."""
    fields: dict[str, Any] = {
        name: (value_type(_plain(kind, name)), field.get_default())
        for name, field in kind.settings.model_fields.items()
    }
    return create_model(f"{kind.settings.__name__}InDocuments", __base__=Model, **fields)


def _plain(kind: StepKind, name: str) -> Any:
    """The type of a setting's plain values."""
    field = kind.settings.model_fields[name]
    return Annotated[(field.annotation, *field.metadata)] if field.metadata else field.annotation


def _parsed(step: Step, name: str, raw: Any) -> Varying[Any]:
    if isinstance(raw, Varying):
        return raw
    try:
        return varying_type(_plain(kind_of(step.step), name)).model_validate(raw)
    except ValidationError as invalid:
        raise error_of(invalid, (step.id, "settings", name)) from None


def varying_settings(step: Step) -> list[Varying[Any]]:
    """The settings of a checked step that change over time."""
    raws = [(name, raw) for name, raw in step.settings.items() if is_varying(raw)]
    return [_parsed(step, name, raw) for name, raw in raws]


def settings_at(step: Step, time: float) -> StepSettings:
    """The settings of a checked step at `time` seconds.

    Between two pegs an easing may overshoot, and drift wanders: such numbers are held within
    the setting's own limits.
    """
    kind = kind_of(step.step)
    values: dict[str, Any] = {}
    for name, raw in step.settings.items():
        if is_varying(raw):
            varying = _parsed(step, name, raw)
            values |= _running(kind, name, varying, value_at(varying, time), loop_of(time))
        else:
            values.setdefault(name, raw)
    return kind.settings.model_validate(values)


def _running(
    kind: StepKind, name: str, varying: Varying[Any], value: Any, loop: float | None
) -> dict[str, Any]:
    """A setting that changes, within its limits; in a title that loops a phase closes on itself,
    and with it says after how much it does."""
    extra = kind.settings.model_fields[name].json_schema_extra
    said = extra if isinstance(extra, dict) else {}
    cycle, around = said.get("cycle"), said.get("around")
    if loop is None or not isinstance(cycle, int | float):
        return {name: _held(kind, name, value)}
    closed = closed_phase(varying, value, float(cycle))
    found: dict[str, Any] = {name: _held(kind, name, closed.value)}
    if isinstance(around, str) and closed.cycles:
        found[around] = _held(kind, around, closed.cycles)
    return found


def _held(kind: StepKind, name: str, value: Any) -> Any:
    low, high = limits(kind, name)
    if isinstance(value, bool) or not isinstance(value, int | float):
        return value
    held = min(max(value, low), high)
    return round(held) if kind.settings.model_fields[name].annotation is int else held


@cache
def limits(kind: StepKind, name: str) -> tuple[float, float]:
    """The least and the greatest value of a numeric setting (infinite where there is none)."""
    low, high = float("-inf"), float("inf")
    for rule in kind.settings.model_fields[name].metadata:
        low = getattr(rule, "ge", low)
        high = getattr(rule, "le", high)
    return low, high
