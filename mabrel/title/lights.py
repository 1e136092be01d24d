"""The lights of a title: its rig."""

from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Colour, Model
from mabrel.title.varying import Value


class DistantLight(Model):
    """Parallel light, as in the SVG filter specification.

    `azimuth` is the direction towards the light in the picture plane, from the x axis towards
    y (down); `elevation` leads from that plane towards the viewer. Below 0 it stands behind
    the lettering and lights nothing.
    """

    kind: Literal["distant"] = "distant"
    id: Annotated[str, Field(min_length=1, max_length=64)] = "key"
    name: Annotated[str, Field(max_length=200)] = "Key"
    azimuth: Value[Annotated[float, Field(ge=-3600, le=3600)]] = 225.0
    elevation: Value[Annotated[float, Field(ge=-90, le=90)]] = 45.0
    colour: Value[Colour] = "#ffffff"
    strength: Value[Annotated[float, Field(ge=0, le=10)]] = 1.0
