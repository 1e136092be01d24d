"""A title as it stands at a time."""

from typing import Any, TypeVar

from pydantic import BaseModel

from mabrel.steps import settings_at
from mabrel.title import InTurn, Moment, Play, Step, Title, Varying, value_at
from mabrel.title.varying import is_varying, later

M = TypeVar("M", bound=BaseModel)


def frozen(title: Title, time: float) -> Title:
    """The title with every value as it is at `time` seconds; letters that move apart stand, at 0,
    where they are then, and clips stand still. The steps must have been checked."""
    moment = Moment(time, title.frame.duration if title.frame.loops else None)
    return _frozen(title, moment).at_home(title.home)


def _frozen(model: M, moment: Moment) -> M:
    changed = {
        name: after
        for name in type(model).model_fields
        if (after := _value(before := getattr(model, name), moment)) is not before
    }
    if isinstance(model, Step):
        changed |= _settings(model, moment)
        if model.play is not None or moment:
            changed["play"] = _stopped(model.play or Play(), moment)
    return model.model_copy(update=changed) if changed else model


def _value(value: Any, moment: Moment) -> Any:
    if isinstance(value, Varying):
        return value_at(value, moment)
    if isinstance(value, InTurn):
        return _shifted(value, moment)
    if isinstance(value, Play):
        return _stopped(value, moment)
    if isinstance(value, BaseModel):
        return _frozen(value, moment)
    if isinstance(value, list):
        after = [_value(each, moment) for each in value]
        return value if all(a is b for a, b in zip(after, value, strict=True)) else after
    if isinstance(value, dict) and any(isinstance(each, Varying) for each in value.values()):
        return {name: value_at(each, moment) for name, each in value.items()}
    return value


def _stopped(play: Play, moment: Moment) -> Play:
    """At the frame that is due then."""
    start = value_at(play.start, moment) + moment * play.speed
    return play.model_copy(update={"start": start, "speed": 0.0})


def _settings(step: Step, moment: Moment) -> dict[str, Any]:
    moving = [name for name, raw in step.settings.items() if is_varying(raw)]
    if not moving:
        return {}
    then = settings_at(step, moment).model_dump(mode="json")
    return {"settings": step.settings | {name: then[name] for name in moving}}


def _shifted(in_turn: InTurn, moment: Moment) -> InTurn:
    """With its pegs so much earlier that they stand at 0 as they do at the moment."""
    values = {name: getattr(in_turn, name) for name in type(in_turn).model_fields}
    moved = {n: later(v, -moment) for n, v in values.items() if isinstance(v, Varying)}
    return in_turn.model_copy(update=moved)
