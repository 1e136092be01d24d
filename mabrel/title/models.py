"""The whole title."""

import itertools
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, PrivateAttr, model_validator

from mabrel.title.kinds import Model, switch, told
from mabrel.title.layers import Coordinate, Handle, Layer, Name, Step, Turn
from mabrel.title.lights import DistantLight, Rig, TitleLight
from mabrel.title.varying import Value

VERSION = 1
LARGEST_SIDE = 16_384
LARGEST_AREA = 40_000_000
MOST_STEPS = 2000


def _check_count(steps: int) -> None:
    if steps > MOST_STEPS:
        raise ValueError(f"must have at most {MOST_STEPS} steps in all its layers together")


class Frame(Model):
    """The picture's size in pixels, and the clip's rate and length in seconds.

    With `loops` it is made to be run round: drift closes on itself over its length.
    """

    width: Annotated[int, Field(ge=1, le=LARGEST_SIDE)] = 1920
    height: Annotated[int, Field(ge=1, le=LARGEST_SIDE)] = 1080
    fps: Annotated[float, Field(gt=0, le=240)] = 25.0
    duration: Annotated[float, Field(gt=0, le=3600)] = 5.0
    loops: bool = switch(False, "Run round: drift closes on itself.")

    @model_validator(mode="after")
    def _not_too_large(self) -> "Frame":
        if self.width * self.height > LARGEST_AREA:
            raise ValueError(f"must have at most {LARGEST_AREA // 1_000_000} million pixels")
        return self


class Camera(Model):
    """The viewer: `distance` before the frame's plane, moved by `pan` and `lift`.

    `swing` takes it around the frame's centre to the right, `rise` above it (degrees): all that
    has a place turns the other way, lights too; backdrops and washes stay.
    """

    distance: Value[Annotated[float, Field(ge=10, le=1_000_000)]] = told(
        "length", 2000.0, "Before the frame's plane.", usual=(400, 6000)
    )
    pan: Value[Coordinate] = told("length", 0.0, "To the right.", usual=(-1500, 1500))
    lift: Value[Coordinate] = told("length", 0.0, "Down.", usual=(-1500, 1500))
    swing: Value[Turn] = told("angle", 0.0, "Around the lettering, to the right.", usual=(-60, 60))
    rise: Value[Turn] = told("angle", 0.0, "Around the lettering, from above.", usual=(-60, 60))


class Blur(Model):
    """Motion blur: the mean of what is there while the shutter is open, around each frame's time.

    `angle` is that of a rotary shutter: 360° is open from frame to frame; 0 is none. `samples` is
    how many pictures a frame is the mean of, at most; where little moves it takes fewer.
    """

    angle: Annotated[float, Field(ge=0, le=360)] = told(
        "angle",
        0.0,
        "How long the shutter is open: 360° is from frame to frame.",
        label="Shutter",
        usual=(0, 360),
    )
    samples: Annotated[int, Field(ge=2, le=32)] = told(
        "count", 16, "How many pictures a frame is the mean of."
    )
    by_motion: bool = switch(
        True, "Fewer where little moves: one for each pixel of way.", label="As many as needed"
    )


class Title(Model):
    """One title: layers are listed from back to front. The first light is the key light."""

    mabrel: Literal[1] = 1
    name: Name = ""
    frame: Frame = Frame()
    lights: Annotated[list[TitleLight], Field(max_length=16)] = Field(default=[DistantLight()])
    rig: Rig = Rig()
    camera: Camera = Camera()
    blur: Blur = Blur()
    handles: Annotated[list[Handle], Field(max_length=64)] = Field(default=[])
    layers: Annotated[list[Layer], Field(max_length=200)] = Field(default=[])
    _home: Path | None = PrivateAttr(default=None)

    @property
    def home(self) -> Path | None:
        """The folder in which the pictures and fonts that it names lie; not in the document."""
        return self._home

    def at_home(self, folder: Path | None) -> "Title":
        """The same title, its files in this folder."""
        title = self.model_copy()
        title._home = folder
        return title

    @model_validator(mode="after")
    def _named_once(self) -> "Title":
        """Give each layer and step an id, and refuse one that stands twice; a build that stands in
        several layers gets ids of its own in each."""
        object.__setattr__(self, "layers", _apart(_with_ids(self.layers)))
        for kind, ids in (
            ("light", [light.id for light in self.lights]),
            ("layer", [layer.id for layer in self.layers]),
            ("handle", [handle.id for handle in self.handles]),
            *(("step", [step.id for step in layer.build]) for layer in self.layers),
        ):
            twice = [name for name, times in Counter(ids).items() if times > 1]
            if twice:
                raise ValueError(f"has the {kind} id {min(twice)!r} twice")
        return self

    @model_validator(mode="before")
    @classmethod
    def _not_too_many_to_read(cls, raw: Any) -> Any:
        """Said before all of them are read, which would take seconds."""
        layers = raw.get("layers") if isinstance(raw, dict) else None
        for_sure = layers if isinstance(layers, list) else []
        builds = (layer.get("build") for layer in for_sure if isinstance(layer, dict))
        _check_count(sum(len(build) for build in builds if isinstance(build, list)))
        return raw

    @model_validator(mode="after")
    def _not_too_many(self) -> "Title":
        _check_count(sum(len(layer.build) for layer in self.layers))
        return self

    def steps(self) -> Iterator[Step]:
        for layer in self.layers:
            yield from layer.build

    def handle(self, named: str | None) -> Handle | None:
        """The handle with this id; None for none (KeyError)."""
        if named is None:
            return None
        for handle in self.handles:
            if handle.id == named:
                return handle
        raise KeyError(named)

    def layer(self, named: str) -> Layer:
        """The layer with this id or, failing that, the front one of this name (KeyError)."""
        for layer in self.layers:
            if layer.id == named:
                return layer
        for layer in reversed(self.layers):
            if layer.name == named:
                return layer
        raise KeyError(named)


def _with_ids(layers: list[Layer]) -> list[Layer]:
    taken = {layer.id for layer in layers} | {step.id for layer in layers for step in layer.build}
    layer_ids, step_ids = _unused("layer", taken), _unused("step", taken)
    numbered = []
    for layer in layers:
        build = [
            step if step.id else step.model_copy(update={"id": next(step_ids)})
            for step in layer.build
        ]
        name = layer.id or next(layer_ids)
        numbered.append(layer.model_copy(update={"id": name, "build": build}))
    return numbered


def _apart(layers: list[Layer]) -> list[Layer]:
    """With ids of steps that no other layer has; what refers to them in a build follows."""
    taken: set[str] = set()
    everywhere = Counter(step.id for layer in layers for step in layer.build)
    if max(everywhere.values(), default=0) < 2:
        return layers
    done = []
    for layer in layers:
        own = {step.id for step in layer.build}
        names = {id: next(_unused(id, taken | set(everywhere))) for id in own & taken}
        taken |= {names.get(id, id) for id in own}
        build = [_renamed(step, names) for step in layer.build] if names else layer.build
        done.append(layer.model_copy(update={"build": build}))
    return done


def _renamed(step: Step, names: dict[str, str]) -> Step:
    settings = {
        name: names.get(value, value) if isinstance(value, str) else value
        for name, value in step.settings.items()
    }
    return step.model_copy(update={"id": names.get(step.id, step.id), "settings": settings})


def _unused(stem: str, taken: set[str]) -> Iterator[str]:
    """Ids that nothing has yet."""
    ids = (f"{stem}-{number}" for number in itertools.count(1))
    return (each for each in ids if each not in taken)
