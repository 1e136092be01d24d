"""Lengths in documents multiplied: which ones those are follows from the kinds of settings."""

import math
from typing import Any, TypeVar

from pydantic import BaseModel

from mabrel.title.describing import settings_of
from mabrel.title.kinds import SCALED

M = TypeVar("M", bound=BaseModel)
_LARGEST = 100_000.0  # what drift may be


def scaled(model: M, factor: float) -> M:
    """A model with every length and place that it has itself multiplied, within their limits;
    models in it stay."""
    lengths = [each for each in settings_of(type(model)) if each.kind in SCALED]
    if factor == 1 or not lengths:
        return model
    document = model.model_dump(mode="json")
    for each in lengths:
        if document[each.name] is not None:
            document[each.name] = scaled_value(document[each.name], factor, each.low, each.high)
    return type(model).model_validate(document)


def scaled_lists(model: M, factor: float) -> M:
    """A model with every length of the models multiplied that its lists hold."""
    lists = {
        name: [scaled(each, factor) if isinstance(each, BaseModel) else each for each in value]
        for name, value in model
        if isinstance(value, list)
    }
    return model.model_copy(update=lists)


def scaled_value(
    value: Any, factor: float, low: float | None = None, high: float | None = None
) -> Any:
    """A length, point, list of points, or one of them over time, as a document has it,
    multiplied; numbers are held between `low` and `high`."""
    if isinstance(value, dict):
        parts = {name: part for name, part in value.items() if part is not None}
        if "value" in parts:
            parts["value"] = scaled_value(parts["value"], factor, low, high)
        if "pegs" in parts:
            parts["pegs"] = [
                {**peg, "value": scaled_value(peg["value"], factor, low, high)}
                for peg in parts["pegs"]
            ]
        if "drift" in parts:
            amount = min(parts["drift"]["amount"] * factor, _LARGEST)
            parts["drift"] = {**parts["drift"], "amount": amount}
        return parts
    if isinstance(value, list | tuple):
        return [scaled_value(part, factor, low, high) for part in value]
    least = -math.inf if low is None else low
    most = math.inf if high is None else high
    return min(max(value * factor, least), most)


def shifted(value: Any, by: float) -> Any:
    """A number, or one over time, as a document has it, moved by so much."""
    if isinstance(value, dict):
        parts = dict(value)
        if parts.get("value") is not None:
            parts["value"] += by
        if parts.get("pegs"):
            parts["pegs"] = [{**peg, "value": peg["value"] + by} for peg in parts["pegs"]]
        return parts
    return value + by
