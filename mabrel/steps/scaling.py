"""Scaling a look: lengths follow the size of the lettering."""

from typing import Any

from pydantic import BaseModel

from mabrel.steps.catalogue import kind_of
from mabrel.title import Step
from mabrel.title.describing import settings_of
from mabrel.title.kinds import SCALED
from mabrel.title.painted import Painted
from mabrel.title.part_paints import PartPaints
from mabrel.title.scaling import scaled, scaled_lists, scaled_value

_BY_HAND: dict[str, type[BaseModel]] = {"painted": Painted, "part paints": PartPaints}


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
        elif each.kind in _BY_HAND and each.name in settings:
            settings[each.name] = _by_hand(settings[each.name], _BY_HAND[each.kind], factor)
    where = None if step.where is None else scaled(step.where, factor)
    return step.model_copy(update={"settings": settings, "where": where})


def _by_hand(value: Any, model: type[BaseModel], factor: float) -> Any:
    """What was painted by hand, or that over time, as a document has it."""
    if isinstance(value, dict) and value.get("pegs"):
        pegs = [{**peg, "value": _by_hand(peg["value"], model, factor)} for peg in value["pegs"]]
        return {**value, "pegs": pegs}
    if isinstance(value, dict) and value.get("value") is not None:
        return {**value, "value": _by_hand(value["value"], model, factor)}
    done = scaled_lists(model.model_validate(value), factor)
    return done.model_dump(mode="json", exclude_unset=True)
