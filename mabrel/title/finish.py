"""A finish: a saved build, with the letter height that it was made for."""

from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Model
from mabrel.title.layers import Backdrop, Floor, Placement, Step, Wash
from mabrel.title.lights import DistantLight, TitleLight
from mabrel.title.models import Camera


class Finish(Model):
    """A look that any lettering can take.

    `letter_height` is the height in pixels of the letters on which the lengths in `build`
    look as intended. `grounds` are layers to lay beneath a new title, `washes` over it; with a
    `camera` and a `placement` of its own it is a whole scene, and a new title starts as that.
    """

    mabrel_finish: Literal[1] = 1
    name: Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=64)]
    label: Annotated[str, Field(min_length=1, max_length=100)]
    help: Annotated[str, Field(max_length=400)] = ""
    letter_height: Annotated[float, Field(gt=0, le=8000)]
    font: Annotated[str, Field(max_length=200)] = ""
    """The font that suits it, in which it is shown until another is chosen."""
    camera: Camera | None = None
    placement: Placement | None = None
    lights: Annotated[list[TitleLight], Field(max_length=16)] = Field(default=[DistantLight()])
    build: Annotated[list[Step], Field(max_length=200)]
    grounds: Annotated[list[Backdrop | Floor], Field(max_length=50)] = Field(default=[])
    washes: Annotated[list[Wash], Field(max_length=50)] = Field(default=[])
