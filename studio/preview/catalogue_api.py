"""All that the page builds its controls from."""

from typing import Annotated, Any

from asgiref.sync import sync_to_async
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from studio.engine.shipped import shipped_families, shipped_pictures, steps_and_choices
from studio.engine.work import FONT_SAMPLES
from studio.library.facts import font_facts
from studio.library.files import own_fonts, own_pictures
from studio.preview.asking import done
from studio.titles.documents import home
from studio.web.errors import Fault

router = Router(tags=["catalogue"])


class Setting(Schema):
    """One setting of a step or of another model; `usual` are the ends of its slider where they
    are not its limits, and `moves` says whether it may change over time."""

    name: str
    label: str
    kind: str
    unit: str
    low: float | None
    high: float | None
    usual: tuple[float, float] | None
    default: Any
    choices: list[str] | None
    help: str
    when: dict[str, str] | None
    called: dict[str, dict[str, str]] | None
    grip: str | None
    group: str
    moves: bool


class StepEntry(Schema):
    step: str
    stage: str
    label: str
    help: str
    reads: list[str]
    writes: list[str]
    lit: bool
    words: str
    settings: list[Setting]


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


class FrameSize(Schema):
    sort: str
    label: str
    width: int
    height: int


class Frames(Schema):
    largest_side: int
    largest_area: int
    usual: list[FrameSize]


class Catalogue(Schema):
    """`models` are the settings of all that is no step, by the model's name."""

    stages: list[str]
    steps: list[StepEntry]
    fonts: list[FontEntry]
    pictures: list[str]
    blend_modes: list[str]
    taps: list[str]
    models: dict[str, list[Setting]]
    frames: Frames
    rates: list[float]


class FontSample(Schema):
    family: str
    path: str
    box: list[float]
    complete: bool


@router.get("/catalogue", response=Catalogue, operation_id="get_catalogue")
def get_catalogue(request: HttpRequest) -> dict[str, Any]:
    """All that the interface builds its controls from."""
    return steps_and_choices() | {
        "fonts": [*font_facts(), *shipped_families()],
        "pictures": [*shipped_pictures(), *own_pictures()],
    }


@router.get(
    "/fonts/samples",
    response={200: list[FontSample], 204: None, 422: Fault},
    operation_id="get_font_samples",
)
async def get_font_samples(
    request: HttpRequest, text: Annotated[str, Field(max_length=200)] = "Aa"
):
    """Outlines of a word in every font, as SVG paths."""
    names = await sync_to_async(own_fonts)()
    return await done(FONT_SAMPLES, "fonts", home=home(), names=names, text=text)
