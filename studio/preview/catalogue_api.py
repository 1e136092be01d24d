"""All that the page builds its controls from."""

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from mabrel import catalogue, families
from mabrel.colour import MODES
from mabrel.render import TAPS
from mabrel.source import LetteringStyle, outline_text, shipped_pictures, svg_path
from mabrel.steps import STAGES
from studio.titles.documents import own_pictures

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


class StepEntry(Schema):
    step: str
    stage: str
    label: str
    help: str
    reads: list[str]
    writes: list[str]
    lit: bool
    settings: list[StepSetting]


class FontEntry(Schema):
    family: str
    kind: str
    styles: list[str]


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
    fonts = [
        {"family": each.name, "kind": each.kind, "styles": list(each.styles)}
        for each in families().values()
    ]
    return {
        "stages": list(STAGES),
        "steps": catalogue(),
        "fonts": fonts,
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
    for each in families().values():
        outline = outline_text(text, LetteringStyle(each.name, size=100))
        samples.append(
            FontSample(
                family=each.name,
                path=svg_path(outline),
                box=list(outline.bounds),
                complete=not outline.notices,
            )
        )
    return samples
