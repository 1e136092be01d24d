"""Pictures and readings of documents that need not be saved."""

import asyncio
import base64
import json
from typing import Annotated, Any, Literal
from urllib.parse import quote
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import aget_object_or_404
from ninja import Query, Router, Schema, Status
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel import catalogue, families, new_title
from mabrel.colour import MODES
from mabrel.export import png_bytes
from mabrel.reading import closeup_window, cut, strip_window, tones_before
from mabrel.render import TAPS, Cancel, Renderer
from mabrel.source import LetteringStyle, outline_text, shipped_pictures, svg_path
from mabrel.steps import STAGES
from mabrel.title import TitleError
from studio.errors import Fault
from studio.preview.desk import Superseded, Urgency, desk
from studio.titles.documents import Document, own_pictures
from studio.titles.finishes import finish_or_error
from studio.titles.models import Title

router = Router(tags=["preview"])

Session = Annotated[str, Field(min_length=1, max_length=64)]
Pixels = Annotated[int, Field(ge=8, le=2000)]


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


class PreviewRequest(Schema):
    """`lane` names the place that the picture is for: a newer request there drops this one."""

    session: Session
    lane: Annotated[str, Field(max_length=64)] = "proof"
    document: Document
    scale: Annotated[float, Field(gt=0, le=4)] = 1.0
    time: Annotated[float, Field(ge=0, le=86_400)] = 0.0
    tap: Literal["picture", "matte", "height", "normals", "light", "face", "behind", "front"] = (
        "picture"
    )
    layer: str | None = None
    until: str | None = None


class BuildPicturesRequest(Schema):
    session: Session
    document: Document
    layer: str
    width: Pixels = 180
    height: Pixels = 100


class BuildPicture(Schema):
    step: str
    png: str


class BuildPictures(Schema):
    """`source` is the lettering before any step; pictures are PNG in base64."""

    source: str
    steps: list[BuildPicture]
    layers: list[BuildPicture]


class SectionRequest(Schema):
    session: Session
    document: Document
    layer: str
    at: float
    samples: Annotated[int, Field(ge=16, le=2000)] = 600
    before: str | None = None


class SectionAnswer(Schema):
    """One entry for each place; null outside the lettering. Colours are codes."""

    height: list[float | None]
    tone: list[float | None]
    colours: list[str]


class TonesRequest(Schema):
    session: Session
    document: Document
    layer: str
    step: str
    scale: Annotated[float, Field(gt=0, le=1)] = 0.25


class TonesAnswer(Schema):
    """`places` is base64 of one byte a place: brightness 0 to 254, 255 outside."""

    histogram: list[float]
    places: str
    width: int
    height: int


class ExportRequest(Schema):
    document: Document
    bits: Literal[8, 16] = 8
    scale: Annotated[float, Field(ge=0.5, le=4)] = 1.0
    backdrop: bool = True
    time: Annotated[float, Field(ge=0, le=86_400)] = 0.0


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


@router.post("/preview", response={200: None, 204: None, 422: Fault}, operation_id="preview")
async def preview(request: HttpRequest, ask: PreviewRequest):
    """Raw RGBA, 8 bits, straight alpha, row by row; `X-Size` is "width height". 204 where a
    newer request took its place."""

    def work(renderer: Renderer, cancel: Cancel) -> HttpResponse:
        picture = renderer.render(
            ask.document,
            time=ask.time,
            scale=ask.scale,
            tap=ask.tap,
            layer=ask.layer,
            until=ask.until,
            cancel=cancel,
        )
        response = HttpResponse(
            picture.to_uint8().tobytes(), content_type="application/octet-stream"
        )
        response["X-Size"] = f"{picture.width} {picture.height}"
        response["X-Notices"] = quote(json.dumps(picture.notices))
        return response

    return await _done(f"{ask.session} {ask.lane}", Urgency.PROOF, work)


@router.post(
    "/build-pictures",
    response={200: BuildPictures, 204: None, 422: Fault},
    operation_id="build_pictures",
)
async def build_pictures(request: HttpRequest, ask: BuildPicturesRequest):
    """The work after each step of a layer, and every layer by itself."""

    def work(renderer: Renderer, cancel: Cancel) -> BuildPictures:
        window = closeup_window(ask.document, ask.layer, ask.width / ask.height)
        scale = ask.width / window.width
        document, layer = ask.document, ask.document.layer(ask.layer)

        def shot(shown: Document, **how: Any) -> str:
            picture = renderer.render(shown, scale=scale, window=window, cancel=cancel, **how)
            return base64.b64encode(png_bytes(picture, level=1)).decode()

        steps = [
            BuildPicture(step=step.id, png=shot(document, until=step.id, tap=_telling(step.step)))
            for step in layer.build
        ]
        alone = [
            BuildPicture(step=each.id, png=shot(document, layer=each.id, alone=True))
            for each in document.layers
        ]
        bare = layer.model_copy(update={"build": []})
        return BuildPictures(source=shot(_with(document, bare)), steps=steps, layers=alone)

    return await _done(f"{ask.session} build", Urgency.THUMBNAIL, _checking_layer(ask, work))


def _telling(step: str) -> Literal["height", "picture"]:
    """What shows best what a step did."""
    return "height" if step.startswith("relief.") else "picture"


def _hidden_backdrop(layer: Any) -> Any:
    """Hidden, not taken away: others may show it or take its matte."""
    return layer.model_copy(update={"visible": False}) if layer.kind == "backdrop" else layer


def _with(document: EngineTitle, layer: Any) -> EngineTitle:
    layers = [layer if each.id == layer.id else each for each in document.layers]
    return document.model_copy(update={"layers": layers})


@router.post(
    "/section", response={200: SectionAnswer, 204: None, 422: Fault}, operation_id="get_section"
)
async def get_section(request: HttpRequest, ask: SectionRequest):
    """The relief cut open along a horizontal line."""

    def work(renderer: Renderer, cancel: Cancel) -> SectionAnswer:
        section = cut(
            renderer,
            ask.document,
            ask.layer,
            at=ask.at,
            samples=ask.samples,
            before=ask.before,
            cancel=cancel,
        )
        levels = (section.colours * 255).round().astype(int)
        return SectionAnswer(
            height=_or_none(section.height),
            tone=_or_none(section.tone),
            colours=[f"#{r:02x}{g:02x}{b:02x}" for r, g, b in levels.tolist()],
        )

    return await _done(f"{ask.session} section", Urgency.READING, _checking_layer(ask, work))


def _or_none(values: Any) -> list[float | None]:
    return [None if value != value else round(value, 4) for value in values.tolist()]


@router.post("/tones", response={200: TonesAnswer, 204: None, 422: Fault}, operation_id="get_tones")
async def get_tones(request: HttpRequest, ask: TonesRequest):
    """Brightness before a step, everywhere and in all."""

    def work(renderer: Renderer, cancel: Cancel) -> TonesAnswer:
        tones = tones_before(
            renderer, ask.document, ask.layer, ask.step, scale=ask.scale, cancel=cancel
        )
        height, width = tones.places.shape
        return TonesAnswer(
            histogram=[round(share, 5) for share in tones.histogram.tolist()],
            places=base64.b64encode(tones.places.tobytes()).decode(),
            width=width,
            height=height,
        )

    return await _done(f"{ask.session} tones", Urgency.READING, _checking_layer(ask, work))


@router.post("/export", response={200: None, 422: Fault}, operation_id="export_title")
async def export_title(request: HttpRequest, ask: ExportRequest):
    """A PNG with straight alpha."""
    document = ask.document
    if not ask.backdrop:
        layers = [_hidden_backdrop(layer) for layer in document.layers]
        document = document.model_copy(update={"layers": layers})

    def work(renderer: Renderer, cancel: Cancel) -> HttpResponse:
        picture = renderer.render(document, time=ask.time, scale=ask.scale, cancel=cancel)
        response = HttpResponse(png_bytes(picture, ask.bits), content_type="image/png")
        name = (document.name or "title").replace("/", "-")
        response["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(name)}.png"
        return response

    return await _done(f"export {id(work)}", Urgency.EXPORT, work)


@router.get(
    "/finishes/{name}/picture",
    response={200: None, 204: None, 422: Fault},
    operation_id="finish_picture",
)
async def finish_picture(
    request: HttpRequest,
    name: str,
    session: Query[Session],
    text: Annotated[str, Field(max_length=2000)] = "Mabrel",
    font: str = "Titan One",
    frame_width: int = 1920,
    frame_height: int = 1080,
    width: Pixels = 600,
    height: Pixels = 168,
):
    """A word in a finish, as a strip."""
    finish = await asyncio.to_thread(finish_or_error, name)
    frame = (frame_width, frame_height)
    home = settings.LIBRARY_DIR
    document = new_title(text or " ", font=font, finish=finish, frame=frame, home=home)
    lane = f"{session} finish {name}"
    return await _done(lane, Urgency.SHELF, _strip(document, width, height))


@router.get("/titles/{title_id}/strip", response={200: None, 204: None}, operation_id="title_strip")
async def title_strip(
    request: HttpRequest,
    title_id: UUID,
    version: int = 0,
    width: Pixels = 800,
    height: Pixels = 224,
):
    """A saved title, cropped to its lettering. Give its `version`: the answer is kept."""
    title = await aget_object_or_404(Title, pk=title_id)
    lane = f"strip {title_id} {width} {id(request)}"
    response = await _done(lane, Urgency.THUMBNAIL, _strip(title.parsed, width, height))
    if version == title.version:
        response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


def _strip(document: EngineTitle, width: int, height: int) -> Any:
    def work(renderer: Renderer, cancel: Cancel) -> HttpResponse:
        window = strip_window(document, width / height)
        picture = renderer.render(
            document, scale=width / window.width, window=window, cancel=cancel
        )
        return HttpResponse(png_bytes(picture, level=1), content_type="image/png")

    return work


def _checking_layer(ask: Any, work: Any) -> Any:
    """A layer that is not there is the asker's fault, not the server's."""

    def checked(renderer: Renderer, cancel: Cancel) -> Any:
        try:
            ask.document.layer(ask.layer)
        except KeyError:
            raise TitleError("layer", f"there is no layer {ask.layer!r}") from None
        return work(renderer, cancel)

    return checked


async def _done(lane: str, urgency: Urgency, work: Any) -> Any:
    """Wait for the desk; 204 where a newer request took this one's place."""
    job = desk.submit(lane, urgency, work)
    try:
        return await asyncio.wrap_future(job.future)
    except Superseded:
        return Status(204, None)
    except asyncio.CancelledError:  # the page has gone
        job.drop()
        raise
