"""What gets the look: the sources of layers."""

from typing import Annotated, Literal

from pydantic import Field

from mabrel.title.kinds import Colour, Fraction, Model, told
from mabrel.title.letters import InTurn
from mabrel.title.playing import Play
from mabrel.title.shapes import Along
from mabrel.title.varying import Value

FileName = Annotated[str, Field(min_length=1, max_length=200)]
_Id = Annotated[str, Field(min_length=1, max_length=64)]
Axis = Annotated[str, Field(pattern=r"^[ -~]{4}$")]


class LetteringSource(Model):
    """Words: lines are parted by a line break.

    `font` is a family that ships, or the name of a font file; `axes` set one that varies. With
    `in_turn` its letters, words or lines move apart, one after the other; with `along` they are
    set along a line.
    """

    text: Value[Annotated[str, Field(max_length=2000)]] = told("words", ..., "What it says.")
    font: Annotated[str, Field(min_length=1, max_length=200)] = "Titan One"
    style: Annotated[str, Field(max_length=200)] = ""
    axes: dict[Axis, Value[Annotated[float, Field(ge=-100_000, le=100_000)]]] = Field(default={})
    size: Value[Annotated[float, Field(ge=1, le=8000)]] = told(
        "length", 300.0, "The font's size; the look keeps its own.", usual=(20, 1000)
    )
    letter_spacing: Value[Annotated[float, Field(ge=-2000, le=4000)]] = told(
        "length", 0.0, "More room between letters, or less.", usual=(-40, 200)
    )
    line_spacing: Value[Annotated[float, Field(ge=0, le=10)]] = told(
        "number", 1.0, "From line to line, in lines.", usual=(0.5, 2)
    )
    align: Value[Literal["left", "centre", "right"]] = told(
        "choice", "centre", "How lines are set."
    )
    in_turn: InTurn | None = None
    along: Along | None = None


class Pick(Model):
    """A place in a picture, as shares of its width and height."""

    x: Fraction
    y: Fraction


class ColourCut(Model):
    """Cut out by colours that were picked in the picture.

    `tolerance` is a distance in OKLab (0.02 is just seen, 1 is black to white); `contiguous`
    takes only what hangs together with a pick; `soft` blurs the edge, in the picture's pixels.
    """

    kind: Literal["colours"] = "colours"
    picks: Annotated[list[Pick], Field(min_length=1, max_length=64)]
    tolerance: Value[Fraction] = told(
        "fraction", 0.1, "How far a colour may be from what was picked.", usual=(0, 0.5)
    )
    soft: Value[Annotated[float, Field(ge=0, le=200)]] = told(
        "number",
        0.7,
        "Blurs the edge, in the picture's own pixels.",
        label="Soft edge",
        unit="px",
        usual=(0, 20),
    )
    keep: Value[Literal["picked", "rest"]] = told("choice", "picked", "What stays.")
    contiguous: Value[bool] = told(
        "switch",
        True,
        "Only what hangs together with a pick.",
        label="Only what hangs together",
    )


class ScreenCut(Model):
    """Cut out everything before a backdrop of one colour.

    What is within `tolerance` of the backdrop is gone; `softness` says how much of the way to
    no backdrop at all the matte fades over; `spill` takes the backdrop's colour out of the rest,
    held below the other two channels at `balance` between the weaker and the stronger of them.
    `choke` takes away what is faintly covered, `inside` colours the edge from inside.
    """

    kind: Literal["screen"] = "screen"
    colour: Value[Colour] = told("colour", "#00b140", "The backdrop's colour.", label="Screen")
    tolerance: Value[Fraction] = told(
        "fraction", 0.1, "What is so near to it is gone.", usual=(0, 0.5)
    )
    softness: Value[Fraction] = told("fraction", 1.0, "How far the matte fades.")
    spill: Value[Fraction] = told(
        "fraction", 1.0, "Takes the backdrop's colour out of the rest.", label="Spill away"
    )
    balance: Value[Fraction] = told(
        "fraction",
        0.5,
        "How much of it is natural: as much as the weaker of the other two channels has, or as the "
        "stronger.",
        label="Spill balance",
    )
    choke: Value[Annotated[float, Field(ge=-0.9, le=0.9)]] = told(
        "fraction", 0.0, "Takes away what is faintly covered; below 0 makes more of it whole."
    )
    inside: Value[Fraction] = told(
        "fraction",
        0.0,
        "Gives what is half covered the colour of what is whole beside it.",
        label="Edge from inside",
    )


Cut = Annotated[ColourCut | ScreenCut, Field(discriminator="kind")]


class PictureSource(Model):
    """A picture, `height` frame pixels high from the top to the bottom of its ink; or a clip,
    whose whole frame is that high and which runs as `play` says.

    `matte` says what of it is the shape; `cut` takes a part of it first.
    """

    picture: Value[FileName] = told("picture", ..., "The file that is shown.")
    height: Value[Annotated[float, Field(ge=1, le=16_000)]] = told(
        "length", 300.0, "Of its ink, from top to bottom.", usual=(10, 1080)
    )
    matte: Value[Literal["alpha", "brightness", "darkness"]] = told(
        "choice",
        "alpha",
        "What of the picture is the shape: what is not see-through, what is bright, or what is "
        "dark.",
        label="Shape",
    )
    cut: Cut | None = None
    play: Play = Play()


class GroupSource(Model):
    """Layers used as one: they are drawn in the group only, in their order in the title."""

    layers: Annotated[list[_Id], Field(min_length=1, max_length=200)]


class CopySource(Model):
    """Another layer, live: all that its build made, its face alone, or only its outline."""

    layer: _Id
    take: Value[Literal["everything", "face", "outline"]] = told(
        "choice", "everything", "What it takes of the layer.", label="Takes"
    )


class BackdropSource(Model):
    """A plain ground, as large as the frame."""

    colour: Value[Colour] = told("colour", "#8d8f8f", "Of the bare ground.")


class ShotLight(Model):
    """Where the light in a shot comes from, as it was seen there."""

    azimuth: Annotated[float, Field(ge=-3600, le=3600)] = told(
        "angle", 315.0, "Where it comes from, clockwise from the right.", usual=(0, 360)
    )
    elevation: Annotated[float, Field(ge=0, le=90)] = told(
        "angle", 45.0, "How high it stands over the picture.", usual=(0, 90)
    )


class PlateSource(BackdropSource):
    """A shot that fills the frame. What it leaves free has the ground's colour. With `light` the
    readings hold the title's lights against it."""

    picture: Value[FileName] = told("picture", ..., "The shot: a picture or a clip.")
    fit: Literal["cover", "fit", "stretch"] = told(
        "choice", "cover", "How it fills the frame: covering it, whole, or stretched."
    )
    play: Play = Play()
    light: ShotLight | None = None
