"""The files that a title names: its pictures and fonts."""

from collections.abc import Iterator, Mapping

from mabrel.source import is_font_file
from mabrel.source.library import SHIPPED_PREFIX
from mabrel.steps.references import settings_of_kind
from mabrel.title import Layer, Lettering, Picture, Plate, Step, Title
from mabrel.title.kinds import IMAGE_OF_LAYER
from mabrel.title.varying import mapped, values_of


def files_of(title: Title) -> set[str]:
    """Every file that it needs beside it; not what ships with the engine."""
    return {name for layer in title.layers for name in _files_of_layer(layer)}


def files_of_build(build: list[Step]) -> set[str]:
    """The files that the steps of a build name."""
    named = {value for step in build for _, value in settings_of_kind(step, "image")}
    return {name for name in named if not name.startswith((IMAGE_OF_LAYER, SHIPPED_PREFIX))}


def _files_of_layer(layer: Layer) -> Iterator[str]:
    if isinstance(layer, Lettering) and is_font_file(layer.source.font):
        yield layer.source.font
    if isinstance(layer, Picture | Plate):
        named = values_of(layer.source.picture)
        yield from (name for name in named if not name.startswith(SHIPPED_PREFIX))
    yield from files_of_build(layer.build)


def with_files(title: Title, files: Mapping[str, str]) -> Title:
    """The same title with other files, all at once: each that is a key becomes its value."""
    layers = [_renamed(layer, files) for layer in title.layers]
    return title.model_copy(update={"layers": layers})


def _renamed(layer: Layer, files: Mapping[str, str]) -> Layer:
    changes: dict[str, object] = {"build": [_step(each, files) for each in layer.build]}
    if isinstance(layer, Lettering) and layer.source.font in files:
        changes["source"] = layer.source.model_copy(update={"font": files[layer.source.font]})
    if isinstance(layer, Picture | Plate):
        picture = mapped(layer.source.picture, lambda name: files.get(name, name))
        changes["source"] = layer.source.model_copy(update={"picture": picture})
    return layer.model_copy(update=changes)


def _step(step: Step, files: Mapping[str, str]) -> Step:
    changed = {
        name: files[value] for name, value in settings_of_kind(step, "image") if value in files
    }
    return step.model_copy(update={"settings": step.settings | changed})
