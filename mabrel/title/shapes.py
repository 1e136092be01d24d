"""Shapes of one's own: what a layer of shapes is made of."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, model_validator

from mabrel.title.kinds import Fraction, Model, told
from mabrel.title.varying import Value

_Way = Annotated[float, Field(ge=-100_000, le=100_000)]
_Size = Annotated[float, Field(ge=0, le=20_000)]
_Turn = Annotated[float, Field(ge=-3600, le=3600)]
Node = tuple[_Way, _Way, _Way, _Way, _Way, _Way]
"""A place on a drawn path (x, y), and how far off the ends of its handles lie: of the one before
it (x, y) and of the one after it (x, y)."""
Nodes = Annotated[list[Node], Field(min_length=2, max_length=500)]
_BENT = "rectangle|polygon|star|gear|swirl|splash|ribbon"


class Shape(Model):
    """One shape, around `x`, `y` in frame pixels from the layer's centre.

    Each is joined to those before it, cut out of them, or leaves of them what lies under it. A
    `frame` goes around the ink of the lettering `around`, or is as large as it says.
    """

    id: Annotated[str, Field(max_length=64)] = ""
    form: Literal[
        "rectangle",
        "ellipse",
        "polygon",
        "star",
        "gear",
        "ring",
        "swirl",
        "drop",
        "splash",
        "ribbon",
        "arrow",
        "frame",
        "path",
    ] = told("choice", "rectangle", "What it is.")
    combine: Literal["join", "cut", "overlap"] = told(
        "choice", "join", "Joined to the shapes before it, cut out of them, or what both cover."
    )
    x: Value[_Way] = told("length", 0.0, "Its middle.", label="Across", usual=(-1000, 1000))
    y: Value[_Way] = told("length", 0.0, "Its middle.", label="Down", usual=(-600, 600))
    width: Value[_Size] = told(
        "length",
        400.0,
        "How wide it is.",
        usual=(0, 2000),
        when={"form": f"{_BENT}|ellipse|ring|drop|arrow|frame"},
    )
    height: Value[_Size] = told(
        "length",
        300.0,
        "How high it is.",
        usual=(0, 1200),
        when={"form": f"{_BENT}|ellipse|ring|drop|arrow|frame"},
    )
    turn: Value[_Turn] = told("angle", 0.0, "About its middle.", usual=(-180, 180))
    points: Value[Annotated[int, Field(ge=3, le=60)]] = told(
        "count",
        6,
        "Corners, tips, teeth or arms.",
        usual=(3, 24),
        when={"form": "polygon|star|gear|swirl|splash"},
        called={"form": {"polygon": "Corners", "gear": "Teeth", "swirl": "Arms", "splash": "Arms"}},
    )
    inner: Value[Fraction] = told(
        "fraction",
        0.5,
        "How far in it goes: between the tips, its hole, its middle, its notches.",
        when={"form": "star|gear|ring|swirl|drop|ribbon|arrow"},
        called={
            "form": {
                "star": "Between its tips", "gear": "Hole", "ring": "Hole", "swirl": "Middle",
                "drop": "Pointed", "ribbon": "Notches", "arrow": "Shaft",
            }
        },
    )  # fmt: skip
    twist: Value[Annotated[float, Field(ge=-720, le=720)]] = told(
        "angle",
        0.0,
        "Bends its arms: turns its tips against its middle.",
        usual=(-180, 180),
        when={"form": _BENT},
        called={"form": {"ribbon": "Wave"}},
    )
    rounded: Value[Fraction] = told(
        "fraction",
        0.0,
        "How round its corners are.",
        when={"form": "rectangle|polygon|star|gear|ribbon|arrow|frame|path"},
    )
    line: Value[_Size] = told(
        "length", 0.0, "A line along its edge, so wide; 0 fills it.", usual=(0, 200)
    )
    seed: Annotated[int, Field(ge=0, le=999_999)] = told(
        "seed", 3, "Another draw of its arms.", when={"form": "splash"}
    )
    around: Annotated[str, Field(max_length=64)] | None = None
    margin: Value[_Way] = told(
        "length",
        60.0,
        "How far around the lettering it goes.",
        usual=(-100, 400),
        when={"form": "frame"},
    )
    nodes: Value[Nodes] = told(
        "points",
        [(-200.0, 80.0, 0.0, 0.0, 80.0, -160.0), (200.0, 80.0, -80.0, -160.0, 0.0, 0.0)],
        "Its places, each with the ends of its two handles.",
        when={"form": "path"},
    )
    closed: bool = told(
        "switch", True, "Its end runs back to its beginning.", when={"form": "path"}
    )


class ShapesSource(Model):
    """Shapes joined to one another; the layer's centre is theirs."""

    shapes: Annotated[list[Shape], Field(min_length=1, max_length=64)]

    @model_validator(mode="after")
    def _apart(self) -> "ShapesSource":
        """Each has an id, and no two the same."""
        taken = {shape.id for shape in self.shapes}
        names = (f"shape-{number}" for number in itertools.count(1))
        free = (name for name in names if name not in taken)
        named = [
            shape if shape.id else shape.model_copy(update={"id": next(free)})
            for shape in self.shapes
        ]
        object.__setattr__(self, "shapes", named)
        ids = [shape.id for shape in named]
        if len(set(ids)) < len(ids):
            raise ValueError("has two shapes with the same id")
        return self


class Along(Model):
    """What words run along: a circle, a drawn line, or the edge of a layer of shapes.

    The middle of the words is at `start`, a share of the way from the middle of a line, or from
    the top of a circle or an edge, which it runs round. `inside` sets them on the other side, the
    other way round, and from the foot.
    """

    on: Literal["circle", "line", "shapes"] = told("choice", "circle", "What the words run along.")
    radius: Value[Annotated[float, Field(ge=1, le=20_000)]] = told(
        "length", 400.0, "Of the circle.", usual=(50, 1500), when={"on": "circle"}
    )
    start: Value[Annotated[float, Field(ge=-100, le=100)]] = told(
        "fraction",
        0.0,
        "Where the middle of the words is; round a circle from its top.",
        usual=(-1, 1),
    )
    away: Value[_Way] = told("length", 0.0, "How far off the line they stand.", usual=(-200, 200))
    inside: bool = told("switch", False, "On its other side, the other way round.")
    nodes: Value[Nodes] = told(
        "points",
        [(-500.0, 60.0, 0.0, 0.0, 250.0, -200.0), (500.0, 60.0, -250.0, -200.0, 0.0, 0.0)],
        "The line's places, each with the ends of its two handles.",
        when={"on": "line"},
    )
    layer: Annotated[str, Field(max_length=64)] | None = None
