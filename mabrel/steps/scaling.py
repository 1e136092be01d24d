"""Scaling a look: lengths follow the size of the lettering."""

from mabrel.steps.catalogue import kind_of
from mabrel.steps.settings import limits
from mabrel.steps.where import scaled_value, scaled_where
from mabrel.title import Step

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
            value = settings.get(name, defaults[name])
            settings[name] = scaled_value(value, factor, *limits(kind, name))
    where = scaled_where(step.where, factor)
    return step.model_copy(update={"settings": settings, "where": where})
