"""Scaling a look: lengths follow the size of the lettering."""

from mabrel.steps.catalogue import kind_of
from mabrel.title import Step
from mabrel.title.describing import settings_of
from mabrel.title.kinds import SCALED
from mabrel.title.scaling import scaled, scaled_value


def scaled_build(build: list[Step], factor: float) -> list[Step]:
    """The build with every length and point multiplied, within each setting's limits.

    Which settings are lengths comes from their kinds. Settings that a step leaves to their
    default are written out, since the default itself doesn't scale.
    """
    if factor == 1:
        return list(build)
    return [_scaled_step(step, factor) for step in build]


def _scaled_step(step: Step, factor: float) -> Step:
    settings = dict(step.settings)
    for each in settings_of(kind_of(step.step).settings, moving=True):
        if each.kind in SCALED:
            value = settings.get(each.name, each.default)
            settings[each.name] = scaled_value(value, factor, each.low, each.high)
    where = None if step.where is None else scaled(step.where, factor)
    return step.model_copy(update={"settings": settings, "where": where})
