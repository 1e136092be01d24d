"""Scaling a look: lengths follow the size of the lettering."""

from typing import Any

from mabrel.steps.catalogue import kind_of
from mabrel.steps.kind import StepKind
from mabrel.steps.settings import limits
from mabrel.title import Step
from mabrel.title.varying import is_varying

_SCALED = ("length", "point")


def scaled_build(build: list[Step], factor: float) -> list[Step]:
    """The build with every length and point multiplied, within each setting's limits.

    Which settings are lengths comes from their kinds. Settings that a step leaves to their
    default are written out, since the default itself doesn't scale.
    """
    if factor == 1:
        return list(build)
    return [_scaled_step(step, factor) for step in build]


def _scaled_step(step: Step, factor: float) -> Step:
    kind = kind_of(step.step)
    defaults = kind.settings().model_dump(mode="json")
    settings = dict(step.settings)
    for name, field in kind.settings.model_fields.items():
        extra = field.json_schema_extra
        if isinstance(extra, dict) and extra.get("kind") in _SCALED:
            settings[name] = _scaled(kind, name, settings.get(name, defaults[name]), factor)
    return step.model_copy(update={"settings": settings})


def _scaled(kind: StepKind, name: str, value: Any, factor: float) -> Any:
    if is_varying(value):
        parts = dict(value)
        if parts.get("value") is not None:
            parts["value"] = _scaled(kind, name, parts["value"], factor)
        if parts.get("pegs"):
            parts["pegs"] = [
                {**peg, "value": _scaled(kind, name, peg["value"], factor)} for peg in parts["pegs"]
            ]
        if parts.get("drift"):
            parts["drift"] = {**parts["drift"], "amount": parts["drift"]["amount"] * factor}
        return parts
    if isinstance(value, list | tuple):
        return [part * factor for part in value]
    low, high = limits(kind, name)
    return min(max(value * factor, low), high)
