"""Passes: what a picture is made of, for those who composite it themselves.

The **light passes** are what each group of steps adds to the picture or takes away, in linear
light, premultiplied: negative where a shadow darkens. Their sum, alpha included, is the picture.
The **data passes** are numbers about what stands in it. docs/passes.md says what is in which.
"""

from collections.abc import Callable, Iterator
from typing import NamedTuple

import numpy as np

from mabrel.colour.spaces import light_of
from mabrel.export.exr import Plane, channels_bytes
from mabrel.render import Cancel, Renderer
from mabrel.steps import Array, kind_of
from mabrel.title import Backdrop, Floor, Layer, Step, Title, Wash

LIGHT = ("ground", "face", "diffuse", "highlight", "sides", "shadow", "reflection", "glow")
"""The light passes, each on top of those before it."""
DATA = ("matte", "height", "normals", "depth", "letter")
_HIGHLIGHTS = ("light.gleam", "light.surroundings")
_OF_STAGE = {"light": "diffuse", "depth": "sides", "ground": "shadow", "lens": "glow"}


class Passes(NamedTuple):
    """All passes of one picture: light passes (H, W, 4) by their names, and data passes."""

    light: dict[str, Array]
    data: dict[str, Plane]

    def channels(self) -> dict[str, Plane]:
        """As channels of an OpenEXR file, by its convention: the picture as R, G, B, A, each pass
        as ``shadow.R``, depth as ``Z``, normals as ``normals.X``."""
        beauty = np.sum(list(self.light.values()), axis=0)
        found: dict[str, Plane] = {c: beauty[..., i] for i, c in enumerate("RGBA")}
        for name, pixels in self.light.items():
            found |= {f"{name}.{c}": pixels[..., i] for i, c in enumerate("RGBA")}
        facing = self.data["normals"]
        found |= {f"normals.{c}": facing[..., i] for i, c in enumerate("XYZ")}
        found["Z"] = self.data["depth"]
        found |= {f"{name}.Y": self.data[name] for name in ("matte", "height", "letter")}
        return found


def group_of(step: Step) -> str:
    """The light pass that a step belongs to."""
    if step.step in _HIGHLIGHTS:
        return "highlight"
    if step.step == "ground.reflection":
        return "reflection"
    return _OF_STAGE.get(kind_of(step.step).stage, "face")


def passes_of(
    renderer: Renderer,
    title: Title,
    *,
    time: float = 0.0,
    scale: float = 1.0,
    cancel: Cancel | None = None,
) -> Passes:
    """Every pass of a title's picture at `time` seconds and `scale`. Raises what
    `Renderer.render` raises."""

    def light(part: Title) -> Array:
        picture = renderer.render(part, time=time, scale=scale, cancel=cancel)
        return light_of(picture.pixels)

    found: dict[str, Array] = {}
    before: Array | None = None
    for name, part in _growing(title):
        now = light(part)
        found[name] = now if before is None else np.asarray(now - before, np.float32)
        before = now
    data = renderer.data(title, time=time, scale=scale, cancel=cancel)
    return Passes(found, dict(zip(DATA, data, strict=True)))


def passes_bytes(passes: Passes, depth: str = "half") -> bytes:
    """One OpenEXR file of all passes. Raises ValueError for another depth."""
    return channels_bytes(passes.channels(), depth)


def pass_pictures(passes: Passes) -> Iterator[tuple[str, Callable[[str], bytes]]]:
    """Each pass by its name, and what makes an OpenEXR file of it at a depth."""
    for name, pixels in passes.light.items():
        planes: dict[str, Plane] = {c: pixels[..., i] for i, c in enumerate("RGBA")}
        yield name, lambda depth, planes=planes: channels_bytes(planes, depth)  # type: ignore[misc]
    for name, values in passes.data.items():
        planes = _of_data(name, values)
        yield name, lambda depth, planes=planes: channels_bytes(planes, depth)  # type: ignore[misc]


def _of_data(name: str, values: Plane) -> dict[str, Plane]:
    if values.ndim == 3:
        return {c: values[..., i] for i, c in enumerate("XYZ")}
    return {"Z" if name == "depth" else "Y": values}


def _growing(title: Title) -> Iterator[tuple[str, Title]]:
    """The title with more and more of its steps, and the pass that each adds."""
    grounds = [each for each in title.layers if isinstance(each, Backdrop | Floor)]
    bare = _with_steps(title, ("face",))
    if any(each.visible for each in grounds):
        # Faded, not hidden: a floor lies where the lettering touches it.
        hidden = [_faded(each) for each in bare.layers]
        yield "ground", bare.model_copy(update={"layers": hidden}).at_home(title.home)
    for count in range(2, len(LIGHT) + 1):
        yield LIGHT[count - 1], _with_steps(title, LIGHT[1:count])


def _faded(layer: Layer) -> Layer:
    return (
        layer
        if isinstance(layer, Backdrop | Floor | Wash)
        else layer.model_copy(update={"opacity": 0.0})
    )


def _with_steps(title: Title, groups: tuple[str, ...]) -> Title:
    """The title with the steps of these groups alone, and no gloss before its highlights."""
    layers = []
    for layer in title.layers:
        build = [
            step.model_copy(
                update={"on": step.on and group_of(step) in groups, **_matt(step, groups)}
            )
            for step in layer.build
        ]
        layers.append(layer.model_copy(update={"build": build}))
    return title.model_copy(update={"layers": layers}).at_home(title.home)


def _matt(step: Step, groups: tuple[str, ...]) -> dict[str, object]:
    if step.step != "light.shade" or "highlight" in groups:
        return {}
    return {"settings": step.settings | {"gloss": 0.0}}
