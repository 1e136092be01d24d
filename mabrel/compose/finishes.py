"""The finishes that ship with the engine."""

from functools import cache
from pathlib import Path

from pydantic import ValidationError

from mabrel.steps import check_build
from mabrel.title import Finish, TitleError
from mabrel.title.errors import error_of
from mabrel.title.files import load_json

FOLDER = Path(__file__).parent.parent / "finishes"


class FinishError(ValueError):
    """There is no such finish."""


@cache
def finishes() -> dict[str, Finish]:
    """All finishes that ship with the engine, by name."""
    paths = sorted(FOLDER.glob("*.finish.json"))
    found = [parse_finish(path.read_bytes(), path.name) for path in paths]
    return {finish.name: finish for finish in found}


def finish_named(name: str) -> Finish:
    """The finish of this name, such as ``ship-brass``; ``none`` is one without a step. Raises
    FinishError."""
    if name == "none":
        return Finish(name="none", label="None", letter_height=200, build=[])
    try:
        return finishes()[name]
    except KeyError:
        there = ", ".join(finishes())
        raise FinishError(f"there is no finish {name!r}; there are {there}") from None


def parse_finish(document: bytes | str, name: str = "") -> Finish:
    """A finish from JSON text, its steps held against the catalogue. Raises TitleError."""
    try:
        finish = Finish.model_validate(load_json(document))
        check_build(finish.build, ("build",))
        for kind in ("grounds", "washes"):
            for index, layer in enumerate(getattr(finish, kind)):
                check_build(layer.build, (kind, index, "build"))
    except ValidationError as invalid:
        error = error_of(invalid)
        raise TitleError(name, str(error)) from None
    return finish
