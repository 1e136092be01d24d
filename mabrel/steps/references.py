"""What layers and steps refer to: other layers, earlier steps, lights and files."""

from collections.abc import Iterator
from functools import cache
from typing import NamedTuple

from mabrel.steps.catalogue import kind_of
from mabrel.title import (
    Copy,
    Floor,
    Group,
    Layer,
    LayerMatte,
    Lettering,
    Placed,
    Shapes,
    Step,
    Title,
    TitleError,
)
from mabrel.title.errors import place_of
from mabrel.title.kinds import IMAGE_OF_LAYER

Place = tuple[int | str, ...]


class Reference(NamedTuple):
    """`place` in the document refers to the layer `layer`."""

    place: Place
    layer: str


def setting_kind(step: Step, name: str) -> str:
    """The kind of one setting of a step, such as ``length``."""
    extra = kind_of(step.step).settings.model_fields[name].json_schema_extra
    return str(extra["kind"]) if isinstance(extra, dict) else ""


@cache
def _names_of_kind(step: str, kind: str) -> tuple[tuple[str, object], ...]:
    """The settings of a kind that a step has, and their defaults."""
    fields = kind_of(step).settings.model_fields
    extras = {name: field.json_schema_extra for name, field in fields.items()}
    return tuple(
        (name, fields[name].default)
        for name, extra in extras.items()
        if isinstance(extra, dict) and extra["kind"] == kind
    )


def settings_of_kind(step: Step, kind: str) -> Iterator[tuple[str, str]]:
    """The step's settings of a kind that refers to something: their names and what they hold,
    where that is anything."""
    for name, default in _names_of_kind(step.step, kind):
        value = step.settings.get(name, default)
        if isinstance(value, str) and value:
            yield name, value


def layers_referred_to(layer: Layer, place: Place) -> Iterator[Reference]:
    """Every other layer that this one needs."""
    if layer.matte_from is not None:
        yield Reference((*place, "matte_from"), layer.matte_from)
    if isinstance(layer, Group):
        for index, member in enumerate(layer.source.layers):
            yield Reference((*place, "source", "layers", index), member)
    if isinstance(layer, Copy):
        yield Reference((*place, "source", "layer"), layer.source.layer)
    if isinstance(layer, Shapes):
        for index, shape in enumerate(layer.source.shapes):
            if shape.around is not None:
                yield Reference((*place, "source", "shapes", index, "around"), shape.around)
    if isinstance(layer, Lettering) and layer.source.along is not None:
        along = layer.source.along
        if along.layer is not None:
            yield Reference((*place, "source", "along", "layer"), along.layer)
    yield from build_refers_to(layer.build, (*place, "build"))


def build_refers_to(build: list[Step], place: Place) -> Iterator[Reference]:
    """Every layer that the steps of a build need."""
    for index, step in enumerate(build):
        at = (*place, index)
        if isinstance(step.where, LayerMatte):
            yield Reference((*at, "where", "layer"), step.where.layer)
        for name, value in settings_of_kind(step, "image"):
            if value.startswith(IMAGE_OF_LAYER):
                yield Reference((*at, "settings", name), value.removeprefix(IMAGE_OF_LAYER))


def check_references(title: Title) -> None:
    """Refuse what is not there, and circles. The steps must have been checked before.

    Raises TitleError with the place.
    """
    ids = {layer.id for layer in title.layers}
    floors = {layer.id for layer in title.layers if isinstance(layer, Floor)}
    lights = {light.id for light in title.lights}
    handles = {handle.id for handle in title.handles}
    needs: dict[str, list[Reference]] = {}
    for index, layer in enumerate(title.layers):
        references = list(layers_referred_to(layer, ("layers", index)))
        for reference in references:
            _check_layer(reference, layer, ids)
            _check_kind(reference, {layer.id: layer.kind for layer in title.layers})
            if reference.layer in floors:
                rule = "must not be a floor, which has no shape of its own to show elsewhere"
                raise TitleError(place_of(reference.place), rule)
        handle = layer.handle if isinstance(layer, Placed) else None
        if handle is not None and handle not in handles:
            place = place_of(("layers", index, "handle"))
            raise TitleError(place, f"there is no handle {handle!r}")
        needs[layer.id] = references
        _check_build(layer.build, ("layers", index, "build"), lights)
    _check_members(title)
    _check_circles(needs)


def _check_layer(reference: Reference, layer: Layer, ids: set[str]) -> None:
    if reference.layer == layer.id:
        raise TitleError(place_of(reference.place), "must not be the layer itself")
    if reference.layer not in ids:
        raise TitleError(place_of(reference.place), f"there is no layer {reference.layer!r}")


def _check_kind(reference: Reference, kinds: dict[str, str]) -> None:
    """Frames go around lettering, and words along shapes."""
    named = reference.place[-2:]
    wanted = {"around": "lettering", "along": "shapes"}.get(
        str(named[0] if named[-1] == "layer" else named[-1])
    )
    if wanted is not None and kinds[reference.layer] != wanted:
        rule = f"must be a layer of {wanted}"
        raise TitleError(place_of(reference.place), rule)


def _check_build(build: list[Step], place: Place, lights: set[str]) -> None:
    earlier: set[str] = set()
    for index, step in enumerate(build):
        at = (*place, index, "settings")
        for name, value in settings_of_kind(step, "step"):
            if value not in earlier:
                rule = f"must be an earlier step of this build, not {value!r}"
                raise TitleError(place_of((*at, name)), rule)
        for name, value in settings_of_kind(step, "light"):
            if value not in lights:
                raise TitleError(place_of((*at, name)), f"there is no light {value!r}")
        earlier.add(step.id)


def _check_members(title: Title) -> None:
    owner: dict[str, str] = {}
    for index, layer in enumerate(title.layers):
        if not isinstance(layer, Group):
            continue
        for number, member in enumerate(layer.source.layers):
            if owner.setdefault(member, layer.id) != layer.id:
                place = place_of(("layers", index, "source", "layers", number))
                raise TitleError(place, f"{member!r} is in the group {owner[member]!r} already")


def _check_circles(needs: dict[str, list[Reference]]) -> None:
    done: set[str] = set()

    def visit(layer: str, path: list[str]) -> None:
        for reference in needs[layer]:
            if reference.layer in path:
                circle = [*path[path.index(reference.layer) :], reference.layer]
                rule = f"must not go round in a circle: {' needs '.join(circle)}"
                raise TitleError(place_of(reference.place), rule)
            if reference.layer not in done:
                visit(reference.layer, [*path, reference.layer])
        done.add(layer)

    for layer in needs:
        if layer not in done:
            visit(layer, [layer])
