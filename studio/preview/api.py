"""Pictures of documents that need not be saved."""

import base64
import json
from typing import Annotated, Any, Literal
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel.export import png_bytes
from mabrel.reading import closeup_window
from mabrel.render import Cancel, Renderer
from studio.errors import Fault
from studio.preview.asking import Pixels, Session, checking_layer, done
from studio.preview.desk import Urgency
from studio.preview.without import without_backdrops
from studio.titles.documents import Document

router = Router(tags=["preview"])


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


class ExportRequest(Schema):
    document: Document
    bits: Literal[8, 16] = 8
    scale: Annotated[float, Field(ge=0.5, le=4)] = 1.0
    backdrop: bool = True
    time: Annotated[float, Field(ge=0, le=86_400)] = 0.0


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

    return await done(f"{ask.session} {ask.lane}", Urgency.PROOF, work)


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

    return await done(f"{ask.session} build", Urgency.THUMBNAIL, checking_layer(ask, work))


def _telling(step: str) -> Literal["height", "picture"]:
    """What shows best what a step did."""
    return "height" if step.startswith("relief.") else "picture"


def _with(document: EngineTitle, layer: Any) -> EngineTitle:
    layers = [layer if each.id == layer.id else each for each in document.layers]
    return document.model_copy(update={"layers": layers})


@router.post("/export", response={200: None, 422: Fault}, operation_id="export_title")
async def export_title(request: HttpRequest, ask: ExportRequest):
    """A PNG with straight alpha."""
    document = ask.document
    if not ask.backdrop:
        document = without_backdrops(document)

    def work(renderer: Renderer, cancel: Cancel) -> HttpResponse:
        picture = renderer.render(document, time=ask.time, scale=ask.scale, cancel=cancel)
        response = HttpResponse(png_bytes(picture, ask.bits), content_type="image/png")
        name = (document.name or "title").replace("/", "-")
        response["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(name)}.png"
        return response

    return await done(f"export {id(work)}", Urgency.EXPORT, work)
