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


class Patch(Model):
    """The cells of one letter, or of all where there are no letters.

    `letter` counts those of `words` in `Painted`; `divided` says into how many parts the side of
    a cell is cut; `left` and `top` are the column and row of the first one, in such parts from
    where the grid begins: for a letter at the left of its ink, on its baseline.
    """

    letter: Annotated[int, Field(ge=0, le=2000)] = 0
    divided: Literal[1, 2, 4, 8] = 1
    left: Annotated[int, Field(ge=-_LONGEST, le=_LONGEST)] = 0
    top: Annotated[int, Field(ge=-_LONGEST, le=_LONGEST)] = 0
    rows: Annotated[list[_ROW], Field(min_length=1, max_length=_LONGEST), AfterValidator(_even)]


class Painted(Model):
    """All that is painted, on the letters that were there: `words` are those, without blanks."""

    words: Annotated[str, Field(max_length=2000)] = ""
    inks: Annotated[list[Ink], Field(max_length=len(INKS))] = Field(default=[])
    letters: Annotated[list[Patch], Field(max_length=2000)] = Field(default=[])

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
