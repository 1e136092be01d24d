"""Layers and what stands in their builds."""

from typing import Annotated, Any, Literal

from pydantic import Field

from mabrel.title.kinds import Colour, Fraction, Model
from mabrel.title.varying import Value

Id = Annotated[str, Field(max_length=64)]
Name = Annotated[str, Field(max_length=200)]
Coordinate = Annotated[float, Field(ge=-100_000, le=100_000)]
Turn = Annotated[float, Field(ge=-3600, le=3600)]

BlendMode = Literal[
    "normal",
    "multiply",
    "screen",
    "overlay",
    "darken",
    "lighten",
    "color-dodge",
    "color-burn",
    "hard-light",
    "soft-light",
    "difference",
    "exclusion",
    "hue",
    "saturation",
    "color",
    "luminosity",
    "plus-lighter",
    "linear-burn",
    "vivid-light",
    "linear-light",
    "pin-light",
    "subtract",
    "divide",
    "darker-color",
    "lighter-color",
]


class Step(Model):
    """One calculation in a build.

    `step` names its kind (``relief.bevel``); the catalogue says which `settings` that kind has.
    What a document leaves out takes its default.
    """

    id: Id = ""
    step: Annotated[str, Field(min_length=1, max_length=64)]
    on: bool = True
    strength: Value[Fraction] = 1.0
    where: None = None
    settings: dict[str, Any] = Field(default={})


class LetteringSource(Model):
    """Words: lines are parted by a line break."""

    text: Annotated[str, Field(max_length=2000)]
    font: Annotated[str, Field(min_length=1, max_length=200)] = "Titan One"
    style: Annotated[str, Field(max_length=200)] = ""
    size: Value[Annotated[float, Field(ge=1, le=8000)]] = 300.0
    letter_spacing: Value[Annotated[float, Field(ge=-2000, le=4000)]] = 0.0
    line_spacing: Value[Annotated[float, Field(ge=0, le=10)]] = 1.0
    align: Literal["left", "centre", "right"] = "centre"


class BackdropSource(Model):
    """A plain ground, as large as the frame."""

    colour: Value[Colour] = "#8d8f8f"


class Placement(Model):
    """Where the card stands: its place, how it is turned, and its scale.

    The frame's centre is the origin; x to the right, y down, z towards the viewer.
    """

    x: Value[Coordinate] = 0.0
    y: Value[Coordinate] = 0.0
    z: Value[Coordinate] = 0.0
    turn_x: Value[Turn] = 0.0
    turn_y: Value[Turn] = 0.0
    turn_z: Value[Turn] = 0.0
    scale: Value[Annotated[float, Field(ge=0, le=100)]] = 1.0


class _Layer(Model):
    id: Id = ""
    name: Name = ""
    visible: bool = True
    blend: BlendMode = "normal"
    opacity: Value[Fraction] = 1.0
    matte_from: Id | None = None
    build: Annotated[list[Step], Field(max_length=200)] = Field(default=[])


class Lettering(_Layer):
    """Words with a build. `face_opacity` fades the flat fill and keeps what steps add to it."""

    kind: Literal["lettering"] = "lettering"
    face_opacity: Value[Fraction] = 1.0
    source: LetteringSource
    placement: Placement = Placement()


class Backdrop(_Layer):
    """A ground that fills the frame."""

    kind: Literal["backdrop"] = "backdrop"
    source: BackdropSource = BackdropSource()


class Wash(_Layer):
    """Its steps treat all that lies beneath it."""

    kind: Literal["wash"] = "wash"


Layer = Annotated[Lettering | Backdrop | Wash, Field(discriminator="kind")]
