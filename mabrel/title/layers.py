"""Layers and what stands in their builds."""

from typing import Annotated, Any, Literal

from pydantic import Field

from mabrel.title.kinds import Fraction, Model, told
from mabrel.title.playing import Play
from mabrel.title.shapes import ShapesSource
from mabrel.title.sources import (
    BackdropSource,
    CopySource,
    GroupSource,
    LetteringSource,
    PictureSource,
    PlateSource,
)
from mabrel.title.varying import Value
from mabrel.title.where import Where

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
    What a document leaves out takes its default. Clips that its settings name run as `play` says.
    """

    id: Id = ""
    step: Annotated[str, Field(min_length=1, max_length=64)]
    on: bool = True
    strength: Value[Fraction] = told(
        "fraction", 1.0, "Mixes the result of the step with what it was given."
    )
    where: Where | None = None
    play: Play | None = None
    settings: dict[str, Any] = Field(default={})


class Placement(Model):
    """Where the card stands: its place, how it is turned, and its scale.

    The frame's centre is the origin; x to the right, y down, z towards the viewer.
    """

    x: Value[Coordinate] = told(
        "length", 0.0, "To the right of the frame's centre.", label="Across", usual=(-2000, 2000)
    )
    y: Value[Coordinate] = told(
        "length", 0.0, "Below the frame's centre.", label="Down", usual=(-2000, 2000)
    )
    z: Value[Coordinate] = told(
        "length", 0.0, "Towards the viewer.", label="Forward", usual=(-2000, 1500)
    )
    turn_x: Value[Turn] = told("angle", 0.0, "About its level axis.", label="Tilt", usual=(-60, 60))
    turn_y: Value[Turn] = told(
        "angle", 0.0, "About its upright axis.", label="Swing", usual=(-60, 60)
    )
    turn_z: Value[Turn] = told("angle", 0.0, "In its own plane.", label="Turn", usual=(-180, 180))
    scale: Value[Annotated[float, Field(ge=0, le=100)]] = told(
        "fraction", 1.0, "The whole card larger or smaller, its look with it.", usual=(0, 3)
    )


class Handle(Model):
    """What several layers hang on: turned and moved, it turns and moves them as one."""

    id: Annotated[Id, Field(min_length=1)]
    name: Name = ""
    placement: Placement = Placement()


class _Layer(Model):
    id: Id = ""
    name: Name = ""
    visible: bool = True
    blend: Value[BlendMode] = told("choice", "normal", "How it mixes with what lies beneath.")
    opacity: Value[Fraction] = told("fraction", 1.0, "Fades the whole layer.")
    matte_from: Id | None = None
    build: Annotated[list[Step], Field(max_length=200)] = Field(default=[])


class _Placed(_Layer):
    """A layer on a card. `face_opacity` fades the flat fill and keeps what steps add to it.

    With a `handle` (an id) its placement is measured in that handle's axes.
    """

    face_opacity: Value[Fraction] = told(
        "fraction", 1.0, "Fades the flat face and keeps what steps add to it.", label="Face"
    )
    placement: Placement = Placement()
    handle: Id | None = None


class Lettering(_Placed):
    """Words with a build."""

    kind: Literal["lettering"] = "lettering"
    source: LetteringSource


class Picture(_Placed):
    """A picture with a build: an emblem, a photo, or what is cut out of one."""

    kind: Literal["picture"] = "picture"
    source: PictureSource


class Shapes(_Placed):
    """Shapes of one's own with a build."""

    kind: Literal["shapes"] = "shapes"
    source: ShapesSource


class Group(_Placed):
    """Several layers used as one, with a build of its own."""

    kind: Literal["group"] = "group"
    source: GroupSource


class Copy(_Placed):
    """A layer that follows another one live, and builds on."""

    kind: Literal["copy"] = "copy"
    source: CopySource


class Backdrop(_Layer):
    """A ground that fills the frame."""

    kind: Literal["backdrop"] = "backdrop"
    source: BackdropSource = BackdropSource()


class Plate(Backdrop):
    """The shot that the title is made for: a backdrop that shows a picture or a clip. An export
    has it or leaves it out."""

    kind: Literal["plate"] = "plate"  # type: ignore[assignment]
    source: PlateSource


class Floor(_Layer):
    """A level plane in perspective, as large as one sees; its build paints it.

    It lies at `level` (y in frame pixels) or, where that is null, where the lettering before it
    touches it. `far` is the distance at which it has faded away. With `hides` nothing is seen of
    what stands before it and reaches below it.
    """

    kind: Literal["floor"] = "floor"
    source: BackdropSource = BackdropSource()
    level: Value[Coordinate] | None = told(
        "length", None, "How far below the frame's centre it lies.", usual=(0, 1080)
    )
    far: Value[Annotated[float, Field(ge=100, le=1_000_000)]] = told(
        "length",
        9000.0,
        "How far from the viewer it is gone.",
        label="Fades by",
        usual=(1000, 20_000),
    )
    hides: Value[bool] = told("switch", False, "Nothing is seen of what reaches below it.")


class Wash(_Layer):
    """Its steps treat all that lies beneath it."""

    kind: Literal["wash"] = "wash"


Placed = Lettering | Picture | Shapes | Group | Copy
Layer = Annotated[
    Lettering | Picture | Shapes | Group | Copy | Backdrop | Plate | Floor | Wash,
    Field(discriminator="kind"),
]

LayerKind = Literal[
    "lettering",
    "picture",
    "copy",
    "backing",
    "backdrop",
    "plate",
    "floor",
    "wash",
    "group",
    "shapes",
]
"""What may be added to a title; a backing is a copy with a look of its own."""
