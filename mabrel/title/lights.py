"""The lights of a title: its rig.

Kinds and terms are those of the SVG filter specification (Filter Effects 1, light sources).
"""

from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag

from mabrel.title.kinds import Colour, Model
from mabrel.title.varying import Value

_Place = Annotated[float, Field(ge=-100_000, le=100_000)]


class _Light(Model):
    id: Annotated[str, Field(min_length=1, max_length=64)] = "key"
    name: Annotated[str, Field(max_length=200)] = "Key"
    colour: Value[Colour] = "#ffffff"
    strength: Value[Annotated[float, Field(ge=0, le=10)]] = 1.0


class DistantLight(_Light):
    """Parallel light.

    `azimuth` is the direction towards the light in the picture plane, from the x axis towards
    y (down); `elevation` leads from that plane towards the viewer. Below 0 it stands behind
    the lettering and lights nothing.
    """

    kind: Literal["distant"] = "distant"
    azimuth: Value[Annotated[float, Field(ge=-3600, le=3600)]] = 225.0
    elevation: Value[Annotated[float, Field(ge=-90, le=90)]] = 45.0


class _PlacedLight(_Light):
    """Frame pixels from the frame's centre, z towards the viewer."""

    x: Value[_Place] = -400.0
    y: Value[_Place] = -300.0
    z: Value[_Place] = 400.0


class PointLight(_PlacedLight):
    """Light from a place to all sides."""

    kind: Literal["point"] = "point"


class SpotLight(_PlacedLight):
    """A point light that shines in a cone towards `to_x`, `to_y`, `to_z`.

    `cone` is the angle in degrees between its axis and its edge; a higher `tightness` gathers
    the light around the axis (the specification's specularExponent).
    """

    kind: Literal["spot"] = "spot"
    to_x: Value[_Place] = 0.0
    to_y: Value[_Place] = 0.0
    to_z: Value[_Place] = 0.0
    cone: Value[Annotated[float, Field(ge=1, le=90)]] = 35.0
    tightness: Value[Annotated[float, Field(ge=0, le=128)]] = 1.0


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

    turn: Value[Annotated[float, Field(ge=-3600, le=3600)]] = 0.0
    raised: Value[Annotated[float, Field(ge=-180, le=180)]] = 0.0
    strength: Value[Annotated[float, Field(ge=0, le=10)]] = 1.0
