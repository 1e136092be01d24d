"""Where a step counts: a part of the picture, with a soft edge."""

from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Fraction, Model, switch, told
from mabrel.title.varying import Value

_Place = Annotated[float, Field(ge=-100_000, le=100_000)]
_Size = Annotated[float, Field(ge=0, le=100_000)]
_Turn = Annotated[float, Field(ge=-3600, le=3600)]


class _Where(Model):
    inverted: bool = switch(False, "Everywhere else instead.", label="Everywhere else instead")


class _Placed(_Where):
    """Lengths in frame pixels from the layer's own centre; `feather` is the width over which
    the edge fades, half on each side of it."""

    feather: Value[_Size] = told("length", 20.0, "How wide its edge fades.", usual=(0, 300))


class _Box(_Placed):
    """Around `x`, `y`, turned by `turn` degrees."""

    x: Value[_Place] = told("length", 0.0, "Its middle.", label="Across", usual=(-1000, 1000))
    y: Value[_Place] = told("length", 0.0, "Its middle.", label="Down", usual=(-600, 600))
    width: Value[_Size] = told("length", 400.0, "How wide it is.", usual=(0, 2000))
    height: Value[_Size] = told("length", 200.0, "How high it is.", usual=(0, 1000))
    turn: Value[_Turn] = told("angle", 0.0, "About its middle.", usual=(-180, 180))


class Ellipse(_Box):
    """An ellipse, as large as its turned box."""

    kind: Literal["ellipse"] = "ellipse"


class Rectangle(_Box):
    """A rectangle: the turned box itself."""

    kind: Literal["rectangle"] = "rectangle"


class HalfPlane(_Placed):
    """All on one side of a line through `x`, `y`: it lies in the direction `turn` from there."""

    kind: Literal["half"] = "half"
    x: Value[_Place] = told(
        "length", 0.0, "A place on its edge.", label="Across", usual=(-1000, 1000)
    )
    y: Value[_Place] = told("length", 0.0, "A place on its edge.", label="Down", usual=(-600, 600))
    turn: Value[_Turn] = told(
        "angle", 90.0, "Where it lies from its edge: 90° is below.", usual=(-180, 180)
    )


class Outline(_Where):
    """Inside the lettering's own outline."""

    kind: Literal["outline"] = "outline"
    grow: Value[Annotated[float, Field(ge=-10_000, le=10_000)]] = told(
        "length", 0.0, "How far it reaches beyond the outline; below 0 it begins so far inside.",
        usual=(-100, 100),
    )  # fmt: skip
    feather: Value[_Size] = told("length", 1.0, "How wide its edge fades.", usual=(0, 300))


class Polygon(_Placed):
    """A free polygon, closed by itself; where it crosses itself the even-odd rule holds."""

    kind: Literal["polygon"] = "polygon"
    points: Value[Annotated[list[tuple[_Place, _Place]], Field(min_length=3, max_length=500)]] = (
        told("points", ..., "Its corners.")
    )


class Tones(_Where):
    """The parts of the face whose brightness lies between `low` and `high`; beyond them it
    fades over `soft`."""

    kind: Literal["tones"] = "tones"
    low: Value[Fraction] = told("fraction", 0.5, "The darkest that counts.", label="From")
    high: Value[Fraction] = told("fraction", 1.0, "The brightest that counts.", label="To")
    soft: Value[Fraction] = told("fraction", 0.2, "Over how much it fades.")


class LayerMatte(_Where):
    """Where another layer covers the picture."""

    kind: Literal["matte"] = "matte"
    layer: Annotated[str, Field(min_length=1, max_length=64)]


Where = Annotated[
    Ellipse | Rectangle | HalfPlane | Outline | Polygon | Tones | LayerMatte,
    Field(discriminator="kind"),
]
