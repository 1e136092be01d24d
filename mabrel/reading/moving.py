"""What moves in a title: every value over time, with its place."""

from collections.abc import Iterator
from typing import Any, NamedTuple

from pydantic import BaseModel

from mabrel.steps import check_title, kind_of, settings_at
from mabrel.title import Step, Title, Varying, parse_title, value_at
from mabrel.title.varying import is_varying

Place = tuple[str, ...]


class Moving(NamedTuple):
    """One value over time; `place` is a path of fields, and of the ids of entries in lists."""

    place: str
    label: str
    layer: str | None
    step: str | None
    light: str | None


def moving_in(title: Title) -> Iterator[Moving]:
    """All of them, in the order of the document."""
    for place, model in _models(title, ()):
        names = [name for name, value in _values(model) if is_varying(value)]
        for name in names:
            inside = (
                ("settings", name)
                if isinstance(model, Step) and _is_setting(model, name)
                else (name,)
            )
            yield _moving(title, (*place, *inside))


def _values(model: BaseModel) -> Iterator[tuple[str, Any]]:
    for name in type(model).model_fields:
        yield name, getattr(model, name)
    if isinstance(model, Step):
        yield from model.settings.items()


def _is_setting(step: Step, name: str) -> bool:
    return name not in type(step).model_fields and name in step.settings


def _models(model: BaseModel, place: Place) -> Iterator[tuple[Place, BaseModel]]:
    yield place, model
    for name in type(model).model_fields:
        value = getattr(model, name)
        if isinstance(value, BaseModel) and not isinstance(value, Varying):
            yield from _models(value, (*place, name))
        elif isinstance(value, list):
            for entry in value:
                if isinstance(entry, BaseModel) and hasattr(entry, "id"):
                    yield from _models(entry, (*place, name, str(entry.id)))


def _moving(title: Title, place: Place) -> Moving:
    def after(name: str) -> str | None:
        return place[place.index(name) + 1] if name in place else None

    step = after("build")
    kind = next((each.step for each in title.steps() if each.id == step), None)
    name = place[-1].replace("_", " ")
    label = f"{kind_of(kind).label}: {name}" if kind else name.capitalize()
    return Moving("/".join(place), label, after("layers"), step, after("lights"))


def still(title: Title, moving: Moving) -> Title:
    """The title with one of them as it is at the beginning."""
    place = moving.place.split("/")
    document = title.model_dump(mode="json")
    node: Any = document
    for name in place[:-1]:
        if isinstance(node, list):
            node = next(each for each in node if each.get("id") == name)
        else:
            node = node[name]
    node[place[-1]] = _at_start(title, moving, place)
    return check_title(parse_title(document).at_home(title.home))


def _at_start(title: Title, moving: Moving, place: list[str]) -> Any:
    if "settings" in place:
        step = next(each for each in title.steps() if each.id == moving.step)
        return settings_at(step, 0.0).model_dump(mode="json")[place[-1]]
    model: Any = title
    for name in place:
        if isinstance(model, list):
            model = next(each for each in model if each.id == name)
        else:
            model = getattr(model, name)
    return value_at(model, 0.0)
