"""Where a step counts: a part of the picture, with a soft edge."""

from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Fraction, Model
from mabrel.title.varying import Value

_Place = Annotated[float, Field(ge=-100_000, le=100_000)]
_Size = Annotated[float, Field(ge=0, le=100_000)]
_Turn = Annotated[float, Field(ge=-3600, le=3600)]


class _Where(Model):
    inverted: bool = False


class _Placed(_Where):
    """Lengths in frame pixels from the layer's own centre; `feather` is the width over which
    the edge fades, half on each side of it."""

    feather: Value[_Size] = 20.0


class _Box(_Placed):
    """Around `x`, `y`, turned by `turn` degrees."""

    x: Value[_Place] = 0.0
    y: Value[_Place] = 0.0
    width: Value[_Size] = 400.0
    height: Value[_Size] = 200.0
    turn: Value[_Turn] = 0.0


class Ellipse(_Box):
    """An ellipse, as large as its turned box."""

    kind: Literal["ellipse"] = "ellipse"


class Rectangle(_Box):
    """A rectangle: the turned box itself."""

    kind: Literal["rectangle"] = "rectangle"


class Polygon(_Placed):
    """A free polygon, closed by itself; where it crosses itself the even-odd rule holds."""

    kind: Literal["polygon"] = "polygon"
    points: Value[Annotated[list[tuple[_Place, _Place]], Field(min_length=3, max_length=500)]]


class Tones(_Where):
    """The parts of the face whose brightness lies between `low` and `high`; beyond them it
    fades over `soft`."""

    kind: Literal["tones"] = "tones"
    low: Value[Fraction] = 0.5
    high: Value[Fraction] = 1.0
    soft: Value[Fraction] = 0.2


class LayerMatte(_Where):
    """Where another layer covers the picture."""

    kind: Literal["matte"] = "matte"
    layer: Annotated[str, Field(min_length=1, max_length=64)]


Where = Annotated[Ellipse | Rectangle | Polygon | Tones | LayerMatte, Field(discriminator="kind")]
