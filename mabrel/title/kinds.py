"""The kinds of settings: each number knows what it measures.

A setting is a field of a pydantic model, declared by one of these functions. What the
interface shows and what a finish scales follow from the kind, never from the field's name.
With ``when={"other": "value"}`` a setting counts only while another has that value, or one of
several parted by bars.
With ``grip`` a setting can be dragged on the picture: ``place`` is a point from the layer's
centre (what points are unless said otherwise), ``corner left top`` one from that corner of the
lettering's box; ``turn`` is the direction of an arm, ``tip`` its length, ``end`` its length as a
share of the box along it, ``reach`` its length as a share of a fixed one; ``pull`` grows as it is
dragged upwards. ``contact`` is a level under the lettering's box, ``fade`` a level under that.
Where there are many, ``GROUPS`` of the model says which of them are folded together, by sense.
Lengths are in frame pixels, angles in degrees, fractions from 0 to 1 unless said otherwise.
Models of documents say the same of their fields with `told`.
"""

import itertools
import re
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

_COLOUR = re.compile(r"#(?:[0-9a-fA-F]{3}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})")


class Model(BaseModel):
    """What all models of documents share: unknown fields are errors, numbers are finite."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)


def _checked_colour(code: str) -> str:
    if not _COLOUR.fullmatch(code):
        raise ValueError("must be a colour code such as #b4471f")
    return code.lower()


Colour = Annotated[str, AfterValidator(_checked_colour)]
Fraction = Annotated[float, Field(ge=0, le=1)]


def _checked_curve(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    inputs = [point[0] for point in points]
    if any(after <= before for before, after in itertools.pairwise(inputs)):
        raise ValueError("must have its points in order of their input, no two at the same place")
    return points


CurvePoints = Annotated[
    list[tuple[Fraction, Fraction]],
    Field(min_length=2, max_length=64),
    AfterValidator(_checked_curve),
]


class Stop(Model):
    """One stop of a gradient; `midpoint` is where the mix to the next stop is even."""

    place: Fraction
    colour: Colour
    midpoint: Annotated[float, Field(gt=0, lt=1)] = 0.5

    def __deepcopy__(self, memo: dict[int, Any] | None = None) -> "Stop":
        """Itself: it can't be changed. Defaults are copied each time that settings are made."""
        return self


def _checked_stops(stops: list[Stop]) -> list[Stop]:
    if any(b.place < a.place for a, b in itertools.pairwise(stops)):
        raise ValueError("must have its stops in order of their place")
    return stops


Stops = Annotated[list[Stop], Field(min_length=1, max_length=64), AfterValidator(_checked_stops)]


class Spot(Model):
    """A colour at a place: shares of the lettering's width and height, beyond it too."""

    x: Annotated[float, Field(ge=-10, le=10)]
    y: Annotated[float, Field(ge=-10, le=10)]
    colour: Colour


Spots = Annotated[list[Spot], Field(min_length=1, max_length=32)]


def _setting(kind: str, default: Any, help: str, **extra: Any) -> Any:
    limits = {name: extra.pop(name) for name in ("ge", "le") if name in extra}
    return Field(default, description=help, json_schema_extra={"kind": kind, **extra}, **limits)


UNITS = {"length": "px", "point": "px", "points": "px", "angle": "°", "fraction": "%", "count": "×"}
SCALED = ("length", "point", "points")
"""What follows the size of the lettering."""


def told(kind: str, default: Any, help: str, **extra: Any) -> Any:
    """A field of a model of documents, whose limits stand in its type; ``...`` for no default.

    `usual` are the ends of its slider, where the limits are wider than what is usual; `label` is
    what it is called, where that is not its name.
    """
    told = {"kind": kind, "unit": UNITS.get(kind, ""), **extra}
    return Field(default, description=help, json_schema_extra=told)


def length(default: float, low: float, high: float, help: str, **extra: Any) -> Any:
    """Frame pixels; scales with the render and with the lettering."""
    return _setting("length", default, help, ge=low, le=high, unit="px", **extra)


def angle(default: float, low: float, high: float, help: str, **extra: Any) -> Any:
    """Degrees; as a direction in the picture, from the x axis towards y (down)."""
    return _setting("angle", default, help, ge=low, le=high, unit="°", **extra)


def fraction(default: float, help: str, low: float = 0, high: float = 1, **extra: Any) -> Any:
    """A share, shown as per cent."""
    return _setting("fraction", default, help, ge=low, le=high, unit="%", **extra)


def number(default: float, low: float, high: float, help: str, **extra: Any) -> Any:
    """A plain number without a unit."""
    return _setting("number", default, help, ge=low, le=high, unit="", **extra)


def count(default: int, low: int, high: int, help: str, **extra: Any) -> Any:
    """How many."""
    return _setting("count", default, help, ge=low, le=high, unit="×", **extra)


def seed(default: int, help: str, **extra: Any) -> Any:
    """Another seed, another draw of the same noise."""
    return _setting("seed", default, help, ge=0, le=999_999, unit="", **extra)


def colour(default: str, help: str, **extra: Any) -> Any:
    """A colour code: #rgb, #rrggbb or #rrggbbaa."""
    return _setting("colour", default, help, **extra)


def curve(default: list[tuple[float, float]], help: str, **extra: Any) -> Any:
    """Pairs of input and output, both 0 to 1."""
    return _setting("curve", default, help, **extra)


def stops(default: list[Stop], help: str, **extra: Any) -> Any:
    """The stops of a gradient."""
    return _setting("stops", default, help, **extra)


def switch(default: bool, help: str, **extra: Any) -> Any:
    """On or off."""
    return _setting("switch", default, help, **extra)


def choice(default: str, help: str, **extra: Any) -> Any:
    """One of the values of a `Literal`."""
    return _setting("choice", default, help, **extra)


def point(default: tuple[float, float], help: str, **extra: Any) -> Any:
    """A place in frame pixels from the layer's own centre; scales like a length."""
    return _setting("point", default, help, unit="px", **extra)


IMAGE_OF_LAYER = "layer:"
"""What an image setting begins with that shows a layer; else it is the name of a file."""

FileOrLayer = Annotated[str, Field(max_length=210)]
Reference = Annotated[str, Field(max_length=64)]


def image(default: str, help: str, **extra: Any) -> Any:
    """A picture by the name of its file, or ``layer:ID`` for what a layer shows; "" is none."""
    return _setting("image", default, help, **extra)


def step_reference(help: str, **extra: Any) -> Any:
    """The id of an earlier step in the same build; "" is none."""
    return _setting("step", "", help, **extra)


def light_reference(help: str, **extra: Any) -> Any:
    """The id of a light of the title; "" is all of them."""
    return _setting("light", "", help, **extra)


def spots(default: list[Spot], help: str, **extra: Any) -> Any:
    """Colours at places."""
    return _setting("spots", default, help, **extra)


def painted(default: Any, help: str, **extra: Any) -> Any:
    """Cells painted by hand: a `mabrel.title.painted.Painted`."""
    return _setting("painted", default, help, **extra)


def part_paints(default: Any, help: str, **extra: Any) -> Any:
    """Parts painted by hand: `mabrel.title.part_paints.PartPaints`."""
    return _setting("part paints", default, help, **extra)
