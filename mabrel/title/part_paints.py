"""Parts of a lettering that are painted one by one, as a document has them.

A part is known by what it is, the letter that it belongs to, which way it faces and where in its
letter it lies: so a paint finds it again where the words, the font or the build have changed.
"""

from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Colour, Fraction, Model, told

PartKind = Literal["front", "facet", "side", "outline"]
Fill = Literal["colour", "gradient", "pattern", "picture"]
Pattern = Literal[
    "brushed", "clouds", "veins", "wood", "marble", "plaster", "stripes", "checker", "dots"
]
MOST_PARTS = 2000
_Angle = Annotated[float, Field(ge=-3600, le=3600)]
_Share = Annotated[float, Field(ge=-10, le=10)]


class Brush(Model):
    """What a part is painted with. Lengths are in frame pixels."""

    fill: Fill = told("choice", "colour", "What it shows.", label="Paint")
    colour: Colour = told(
        "colour",
        "#e0a54a",
        "Its colour; where a gradient begins, and the light of a pattern.",
        when={"fill": "colour|gradient|pattern"},
    )
    second: Colour = told(
        "colour",
        "#6a3c1c",
        "Where a gradient ends, and the dark of a pattern.",
        label="To",
        when={"fill": "gradient|pattern"},
    )
    pattern: Pattern = told(
        "choice", "brushed", "Which pattern it shows.", when={"fill": "pattern"}
    )
    angle: _Angle = told(
        "angle",
        90.0,
        "Where a gradient runs, and how a pattern or a picture is turned.",
        usual=(-180, 180),
        when={"fill": "gradient|pattern|picture"},
    )
    size: Annotated[float, Field(ge=0.5, le=8000)] = told(
        "length",
        160.0,
        "How wide a pattern's parts, or a picture's tiles, are.",
        usual=(4, 400),
        when={"fill": "pattern|picture"},
    )
    shading: Fraction = told(
        "fraction", 0.8, "How much of the light and shade that lie there it keeps."
    )


class PartPaint(Brush):
    """A brush, and what it paints.

    `letter` is a character and which of them it is, such as ``O2``; "" is every letter. `facing`
    is in degrees, 0 to the right and 90 down; None is whichever way. `place` is where its middle
    lies in its letter's box, 0..1 across and down; without one it paints all that it fits.
    """

    kind: PartKind = "front"
    letter: Annotated[str, Field(max_length=40)] = ""
    facing: _Angle | None = None
    place: tuple[_Share, _Share] | None = None


class PartPaints(Model):
    """All that is painted part by part."""

    parts: Annotated[list[PartPaint], Field(max_length=MOST_PARTS)] = Field(default=[])

    def __deepcopy__(self, memo: dict[int, object] | None = None) -> "PartPaints":
        """Itself: it can't be changed."""
        return self
