"""Reading, writing and migrating title documents (`*.title.json`)."""

import codecs
import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

from pydantic import ValidationError
from pydantic_core import from_json

from mabrel.title.atomic import write_atomically
from mabrel.title.errors import TitleError, check_switches, error_of
from mabrel.title.models import VERSION, Title

LARGEST_FILE = 16 * 1024 * 1024
MOST_VALUES = 150_000
"""In a document; a title of 2,000 steps with all their settings has about 60,000."""

MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}
"""From a version to the next: takes and returns a whole document. None is needed yet."""


def read_title(path: str | Path) -> Title:
    """Read a title from a file.

    Raises TitleError that names the file and, inside it, the place and the rule; OSError
    where the file can't be read.
    """
    path = Path(path)
    if path.stat().st_size > LARGEST_FILE:
        raise TitleError(path.name, f"is larger than {LARGEST_FILE // 2**20} MiB")
    try:
        return parse_title(path.read_bytes()).at_home(path.parent)
    except TitleError as error:
        raise TitleError(path.name, str(error)) from None


def parse_title(document: bytes | str | dict[str, Any]) -> Title:
    """A title from JSON text or from its parsed object. Raises TitleError."""
    raw = document if isinstance(document, dict) else load_json(document)
    if not isinstance(raw, dict):
        raise TitleError("", "must be a JSON object")
    try:
        title = Title.model_validate(_migrated(raw))
    except ValidationError as invalid:
        raise error_of(invalid) from None
    check_switches(raw, title)
    return title


def load_json(text: bytes | str, most: int = MOST_VALUES) -> Any:
    """Strict JSON in UTF-8: no NaN, no infinity, no half of a surrogate pair, at most 200 deep and
    with at most so many values; the error gives line and column. Raises TitleError."""
    try:
        content = text.encode() if isinstance(text, str) else text
    except UnicodeEncodeError:
        raise TitleError("", "must be JSON text in UTF-8") from None
    if content.count(b",") > most:  # counted before they take memory
        raise TitleError("", f"must have at most {most:,} values")
    try:
        return from_json(content.removeprefix(codecs.BOM_UTF8), allow_inf_nan=False)
    except ValueError as broken:
        if not _is_utf8(content):
            raise TitleError("", "must be JSON text in UTF-8") from None
        said, _, place = str(broken).rpartition(" at ")
        line_and_column = place.replace(" column", ", column")
        if said == "recursion limit exceeded":
            raise TitleError(line_and_column, "is nested too deeply") from None
        raise TitleError(line_and_column, f"is not valid JSON: {said}") from None


def _is_utf8(content: bytes) -> bool:
    try:
        content.decode()
    except UnicodeDecodeError:
        return False
    return True


def _migrated(raw: dict[str, Any]) -> dict[str, Any]:
    version = raw.get("mabrel")
    if type(version) is not int or version < 1:
        raise TitleError("mabrel", "must be the version of the document, such as 1")
    if version > VERSION:
        raise TitleError("mabrel", f"is {version}, newer than this program, which reads {VERSION}")
    while version < VERSION:
        raw = MIGRATIONS[version](raw)
        version += 1
    return raw


def title_to_json(title: Title) -> str:
    """The document as text, with a line break at its end."""
    return json.dumps(title.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def write_title(title: Title, path: str | Path) -> None:
    """Write the document; the file holds the old state or the new, never half of one."""
    write_atomically(Path(path), title_to_json(title).encode())
