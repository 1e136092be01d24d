"""Cells painted by hand, as a document has them.

Rows of characters, one a cell: a dot for none, else the letter or digit of an ink. So a painted
letter can be read, and compared, in the document itself.
"""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from mabrel.title.kinds import Colour, Model, told

INKS = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"
"""What an ink is written as, by its place in the list."""
NONE = "."
MOST_CELLS = 400_000
_LONGEST = 4096  # cells on a side
_Share = Annotated[float, Field(ge=-10, le=10)]
_ROW = Annotated[str, Field(max_length=_LONGEST, pattern=r"^[.0-9A-Za-z]*$")]


class Ink(Model):
    """What cells are painted with: a colour, and how far they rise, in frame pixels."""

    colour: Colour
    height: Annotated[float, Field(ge=-500, le=500)] = told(
        "length", 0.0, "How far cells of it rise from the face; below 0 they are dents."
    )


def _even(rows: list[str]) -> list[str]:
    if any(len(row) != len(rows[0]) for row in rows):
        raise ValueError("must have rows of one length")
    return rows


class Side(Model):
    """Which side of a body cells are painted on.

    `facing` is where it looks as its letter stands, in degrees, 0 to the right and 90 down;
    `place` is where the middle of its front edge lies in the box of its letter, 0..1 across and
    down. `letter` is the one whose side it is, such as ``O2``, where one grid lies on them all.
    """

    facing: Annotated[float, Field(ge=-3600, le=3600)]
    place: tuple[_Share, _Share]
    letter: Annotated[str, Field(max_length=40)] = ""


class Patch(Model):
    """The cells of one letter, or of all where there are no letters: on its face, or on a `side`.

    `letter` counts those of `words` in `Painted`; `divided` says into how many parts the side of
    a cell is cut; `left` and `top` are the column and row of the first one, in such parts from
    where the grid begins: for a letter at the left of its ink, on its baseline; for a side at
    its front edge, at the end that lies further left or up.
    """

    letter: Annotated[int, Field(ge=0, le=2000)] = 0
    side: Side | None = None
    divided: Literal[1, 2, 4, 8] = 1
    left: Annotated[int, Field(ge=-_LONGEST, le=_LONGEST)] = 0
    top: Annotated[int, Field(ge=-_LONGEST, le=_LONGEST)] = 0
    rows: Annotated[list[_ROW], Field(min_length=1, max_length=_LONGEST), AfterValidator(_even)]


class Painted(Model):
    """All that is painted, on the letters that were there: `words` are those, without blanks."""

    words: Annotated[str, Field(max_length=2000)] = ""
    inks: Annotated[list[Ink], Field(max_length=len(INKS))] = Field(default=[])
    letters: Annotated[list[Patch], Field(max_length=4000)] = Field(default=[])

    @model_validator(mode="after")
    def _fits(self) -> "Painted":
        known = {NONE, *INKS[: len(self.inks)]}
        cells = 0
        for patch in self.letters:
            cells += len(patch.rows) * len(patch.rows[0])
            if cells > MOST_CELLS:
                raise ValueError(f"must have at most {MOST_CELLS:,} cells")
            unknown = set().union(*patch.rows) - known
            if unknown:
                raise ValueError(
                    f"must have an ink for {min(unknown)!r}: there are {len(self.inks)}"
                )
        return self

    def __deepcopy__(self, memo: dict[int, object] | None = None) -> "Painted":
        """Itself: it can't be changed."""
        return self
