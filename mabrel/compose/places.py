"""The places that motions name: settings of a layer, of a step by its kind, or of the title."""

import types
from typing import Annotated, Any, Union, get_args, get_origin

from pydantic import BaseModel

from mabrel.steps.catalogue import kinds
from mabrel.title import Copy, Group, Lettering, Picture, Shapes, Title
from mabrel.title.describing import REFERENCES, Setting, setting_of

_PLACED = (Lettering, Picture, Shapes, Group, Copy)


def settings_at_place(place: str) -> list[Setting]:
    """The settings that a place can mean: one for each kind of layer that has it; none where it
    leads nowhere, or to what stays the same."""
    head, _, tail = place.rpartition("/")
    if head and head != "title":
        found = setting_of(kinds()[head].settings, tail) if head in kinds() else None
        return [found] if found is not None and found.kind not in REFERENCES else []
    *way, name = tail.split(".")
    models: list[type[BaseModel]] = [Title] if head else list(_PLACED)
    for part in way:
        models = [each for model in models for each in _models_of(model, part)]
    settings = [setting_of(model, name) for model in models]
    return [each for each in settings if each is not None and each.moves]


def _models_of(model: type[BaseModel], name: str) -> list[type[BaseModel]]:
    """The models that a field may hold."""
    field = model.model_fields.get(name)
    return _models_in(field.annotation) if field is not None else []


def _models_in(kind: Any) -> list[type[BaseModel]]:
    if get_origin(kind) in (Annotated, Union, types.UnionType):
        return [each for part in get_args(kind) for each in _models_in(part)]
    return [kind] if isinstance(kind, type) and issubclass(kind, BaseModel) else []
