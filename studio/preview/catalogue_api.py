"""All that the page builds its controls from."""

from collections.abc import Iterator
from typing import Annotated, Any

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from mabrel import catalogue, families
from mabrel.colour import MODES
from mabrel.render import TAPS
from mabrel.source import (
    Family,
    FontError,
    LetteringStyle,
    LibraryError,
    axes_of,
    family_for,
    is_font_file,
    library_at,
    outline_text,
    shipped_pictures,
    svg_path,
)
from mabrel.steps import STAGES
from studio.library.files import own_fonts, own_pictures

router = Router(tags=["catalogue"])


class StepSetting(Schema):
    name: str
    label: str
    kind: str
    unit: str
    low: float | None
    high: float | None
    default: Any
    choices: list[str] | None
    help: str
    when: dict[str, str] | None
    grip: str | None


class StepEntry(Schema):
    step: str
    stage: str
    label: str
    help: str
    reads: list[str]
    writes: list[str]
    lit: bool
    words: str
    settings: list[StepSetting]


class FontAxis(Schema):
    tag: str
    low: float
    default: float
    high: float


class FontEntry(Schema):
    """`family` is what a title names: a family that ships, or the file of one's own."""

    family: str
    kind: str
    styles: list[str]
    axes: list[FontAxis]


class Catalogue(Schema):
    stages: list[str]
    steps: list[StepEntry]
    fonts: list[FontEntry]
    pictures: list[str]
    blend_modes: list[str]
    taps: list[str]


class FontSample(Schema):
    family: str
    path: str
    box: list[float]
    complete: bool


@router.get("/catalogue", response=Catalogue, operation_id="get_catalogue")
def get_catalogue(request: HttpRequest) -> dict[str, Any]:
    """All that the interface builds its controls from."""
    return {
        "stages": list(STAGES),
        "steps": catalogue(),
        "fonts": [_entry(each) for each in [*_own_families(), *families().values()]],
        "pictures": [*shipped_pictures(), *own_pictures()],
        "blend_modes": list(MODES),
        "taps": list(TAPS),
    }


@router.get("/fonts/samples", response=list[FontSample], operation_id="get_font_samples")
def get_font_samples(
    request: HttpRequest, text: Annotated[str, Field(max_length=200)] = "Aa"
) -> list[FontSample]:
    """Outlines of a word in every font, as SVG paths."""
    samples = []
    for each in [*_own_families(), *families().values()]:
        outline = outline_text(text, LetteringStyle(each.name, size=100), each)
        samples.append(
            FontSample(
                family=each.name,
                path=svg_path(outline),
                box=list(outline.bounds),
                complete=not outline.notices,
            )
        )
    return samples


def _own_families() -> Iterator[Family]:
    """The fonts of the library; one that was damaged since it was kept is left out."""
    for name in own_fonts():
        try:
            yield family_for(name, library_at(settings.LIBRARY_DIR))
        except (FontError, LibraryError):
            continue


def _entry(family: Family) -> FontEntry:
    axes = {}
    if is_font_file(family.name):
        axes = axes_of(library_at(settings.LIBRARY_DIR).read(family.name), family.name)
    return FontEntry(
        family=family.name,
        kind=family.kind,
        styles=list(family.styles),
        axes=[
            FontAxis(tag=tag, low=low, default=default, high=high)
            for tag, (low, default, high) in axes.items()
        ],
    )
