"""A list of words, and the set of titles that it makes of one."""

import csv
import io
from typing import NamedTuple

from mabrel.compose.making import swap
from mabrel.source import FontError, LibraryError, PictureError
from mabrel.title import Lettering, Title, TitleError

MOST_ROWS = 200
_NAME_COLUMNS = ("name", "title")
_WORD_COLUMNS = ("word", "words", "text")

Row = dict[str, str]


class Made(NamedTuple):
    """One title of a set; where a row could not be used, None and why."""

    name: str
    title: Title | None
    fault: str = ""


def word_list(text: str, title: Title) -> list[Row]:
    """The rows of pasted lines or of a CSV (comma, semicolon or tab).

    Lines are words, one each, for the front lettering (column ``""``). It is read as a CSV where
    its first line names columns, at least two: a lettering layer of `title` by its name,
    ``word``, or ``name`` for what the new title is called. ``\\n`` in a word begins a new line.
    Raises TitleError.
    """
    plain = text.replace("\r\n", "\n").replace("\r", "\n")
    lines = [line for line in plain.split("\n") if line.strip()]
    if not lines:
        raise TitleError("words", "there is no word in it")
    rows = _table(lines, title) or [{"": line.strip()} for line in lines]
    if len(rows) > MOST_ROWS:
        raise TitleError("words", f"has {len(rows)} rows; at most {MOST_ROWS} make one set")
    return [{name: cell.replace("\\n", "\n") for name, cell in row.items()} for row in rows]


def _table(lines: list[str], title: Title) -> list[Row]:
    """The rows by column, or none where the first line does not name two columns or more."""
    for delimiter in ("\t", ";", ","):
        try:
            table = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter))
        except csv.Error as broken:
            raise TitleError("words", f"can't be read as a table: {broken}") from None
        columns = [_column(cell, title) for cell in table[0]]
        if len(columns) > 1 and None not in columns:
            return [_row(columns, cells, number) for number, cells in enumerate(table[1:], 2)]
    return []


def _column(cell: str, title: Title) -> str | None:
    said = cell.strip()
    if said.lower() in _NAME_COLUMNS:
        return "name"
    if said.lower() in _WORD_COLUMNS:
        return ""
    words = (layer for layer in title.layers if isinstance(layer, Lettering))
    return next((f"layer {layer.id}" for layer in words if layer.name == said), None)


def _row(columns: list[str | None], cells: list[str], number: int) -> Row:
    if len(cells) > len(columns):
        raise TitleError(f"row {number}", f"has {len(cells)} cells, but {len(columns)} columns")
    pairs = zip(columns, cells, strict=False)
    return {column or "": cell.strip() for column, cell in pairs if cell.strip()}


def titles_from(title: Title, rows: list[Row], layer: str | None = None) -> list[Made]:
    """The look of `title` on each row's words; one row's fault spoils no other.

    `layer` is the lettering that the plain column means; without it the front one.
    """
    return [_made(title, row, layer) for row in rows]


def _made(title: Title, row: Row, layer: str | None) -> Made:
    words = [cell for column, cell in row.items() if column != "name"]
    name = row.get("name") or (words[0].replace("\n", " ").capitalize() if words else "")
    made = title
    try:
        if not words:
            raise TitleError("", "there is no word in it")
        for column, cell in row.items():
            if column != "name":
                meant = column.removeprefix("layer ") if column else layer
                made = swap(made, text=cell, layer=meant)
    except (TitleError, FontError, LibraryError, PictureError) as fault:
        return Made(name[:200], None, str(fault))
    except KeyError:
        return Made(name[:200], None, "the title has no lettering for it")
    return Made(name[:200], made.model_copy(update={"name": name[:200]}))
