"""The lights of a title: its rig.

Kinds and terms are those of the SVG filter specification (Filter Effects 1, light sources).
"""

from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag

from mabrel.title.kinds import Colour, Model, told
from mabrel.title.varying import Value

_Place = Annotated[float, Field(ge=-100_000, le=100_000)]


class _Light(Model):
    id: Annotated[str, Field(min_length=1, max_length=64)] = "key"
    name: Annotated[str, Field(max_length=200)] = "Key"
    colour: Value[Colour] = told("colour", "#ffffff", "What it adds to what it lights.")
    strength: Value[Annotated[float, Field(ge=0, le=10)]] = told(
        "fraction", 1.0, "How bright it is.", usual=(0, 2)
    )


class DistantLight(_Light):
    """Parallel light.

    `azimuth` is the direction towards the light in the picture plane, from the x axis towards
    y (down); `elevation` leads from that plane towards the viewer. Below 0 it stands behind
    the lettering and lights nothing.
    """

    kind: Literal["distant"] = "distant"
    azimuth: Value[Annotated[float, Field(ge=-3600, le=3600)]] = told(
        "angle", 225.0, "Where in the picture it comes from, from the right over below."
    )
    elevation: Value[Annotated[float, Field(ge=-90, le=90)]] = told(
        "angle", 45.0, "How far it stands towards the viewer; below 0 behind the lettering."
    )


class _PlacedLight(_Light):
    """Frame pixels from the frame's centre, z towards the viewer."""

    x: Value[_Place] = told(
        "length", -400.0, "To the right of the frame's centre.", label="x", usual=(-1500, 1500)
    )
    y: Value[_Place] = told(
        "length", -300.0, "Below the frame's centre.", label="y", usual=(-1500, 1500)
    )
    z: Value[_Place] = told(
        "length", 400.0, "Before the frame's plane.", label="z", usual=(-1500, 1500)
    )


class PointLight(_PlacedLight):
    """Light from a place to all sides."""

    kind: Literal["point"] = "point"


class SpotLight(_PlacedLight):
    """A point light that shines in a cone towards `to_x`, `to_y`, `to_z`.

    `cone` is the angle in degrees between its axis and its edge; a higher `tightness` gathers
    the light around the axis (the specification's specularExponent).
    """

    kind: Literal["spot"] = "spot"
    to_x: Value[_Place] = told(
        "length", 0.0, "What it shines at, to the right.", label="Aim x", usual=(-1500, 1500)
    )
    to_y: Value[_Place] = told(
        "length", 0.0, "What it shines at, below.", label="Aim y", usual=(-1500, 1500)
    )
    to_z: Value[_Place] = told(
        "length", 0.0, "What it shines at, forward.", label="Aim z", usual=(-1500, 1500)
    )
    cone: Value[Annotated[float, Field(ge=1, le=90)]] = told(
        "angle", 35.0, "From its axis to its edge."
    )
    tightness: Value[Annotated[float, Field(ge=0, le=128)]] = told(
        "number", 1.0, "How much it is gathered around its axis.", usual=(0, 32)
    )


def _kind(raw: Any) -> str | None:
    """A light without a kind is a distant one."""
    return raw.get("kind", "distant") if isinstance(raw, dict) else getattr(raw, "kind", None)


TitleLight = Annotated[
    Annotated[DistantLight, Tag("distant")]
    | Annotated[PointLight, Tag("point")]
    | Annotated[SpotLight, Tag("spot")],
    Discriminator(_kind, custom_error_type="literal_error",
                  custom_error_context={"expected": "'distant', 'point' or 'spot'"}),
]  # fmt: skip


class Rig(Model):
    """The lights turned as one: about the viewer's axis, and up or down."""

    turn: Value[Annotated[float, Field(ge=-3600, le=3600)]] = told(
        "angle", 0.0, "All lights about the viewer's axis.", usual=(-180, 180)
    )
    raised: Value[Annotated[float, Field(ge=-180, le=180)]] = told(
        "angle",
        0.0,
        "Lifts the key light over the lettering, all others with it; below 0 it goes down behind.",
        label="Raise",
    )
    strength: Value[Annotated[float, Field(ge=0, le=10)]] = told(
        "fraction", 1.0, "All lights brighter or darker.", usual=(0, 2)
    )
