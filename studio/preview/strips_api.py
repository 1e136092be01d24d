"""Pictures for the shelf: a word in each finish, and the titles that are kept."""

import asyncio
from typing import Annotated, Any
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import aget_object_or_404
from ninja import Query, Router, Schema
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel import new_title
from mabrel.compose import apply_finish
from mabrel.export import png_bytes
from mabrel.reading import strip_window
from mabrel.render import Cancel, Renderer
from mabrel.title import Placed
from studio.errors import Fault
from studio.preview.asking import Pixels, Session, done
from studio.preview.desk import Urgency
from studio.titles.documents import Document
from studio.titles.finishes import finish_or_error
from studio.titles.look_api import layer_of
from studio.titles.models import Title

router = Router(tags=["strips"])


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
    picture: Annotated[str, Field(min_length=1, max_length=200)] | None = None,
    width: Pixels = 600,
    height: Pixels = 168,
):
    """A word or a picture of the library in a finish, as a strip."""
    finish = await asyncio.to_thread(finish_or_error, name)
    document = await asyncio.to_thread(
        new_title,
        text or " ",
        font=font,
        finish=finish,
        frame=(frame_width, frame_height),
        home=settings.LIBRARY_DIR,
        picture=picture,
    )
    lane = f"{session} finish {name}"
    # Whole scenes take longest: what is quick comes first.
    urgency = Urgency.SHELF if finish.camera is None else Urgency.SCENE
    return await done(lane, urgency, _strip(document, width, height))


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
    response = await done(lane, Urgency.THUMBNAIL, _strip(title.parsed, width, height))
    if version == title.version:
        response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


class StripRequest(Schema):
    """With `finish` and `layer` the strip shows that layer in the finish."""

    session: Session
    lane: Annotated[str, Field(max_length=64)]
    document: Document
    finish: str | None = None
    layer: str = ""
    width: Pixels = 400
    height: Pixels = 112


@router.post("/strip", response={200: None, 204: None, 422: Fault}, operation_id="strip")
async def strip(request: HttpRequest, ask: StripRequest):
    """A document that need not be saved, cropped to its lettering."""
    document = ask.document
    if ask.finish is not None:
        finish = await asyncio.to_thread(finish_or_error, ask.finish)
        layer_of(document, ask.layer, Placed)
        document = await asyncio.to_thread(apply_finish, document, ask.layer, finish)
    lane = f"{ask.session} strip {ask.lane}"
    return await done(lane, Urgency.SHELF, _strip(document, ask.width, ask.height))


def _strip(document: EngineTitle, width: int, height: int) -> Any:
    def work(renderer: Renderer, cancel: Cancel) -> HttpResponse:
        window = strip_window(document, width / height)
        picture = renderer.render(
            document, scale=width / window.width, window=window, cancel=cancel
        )
        return HttpResponse(png_bytes(picture, level=1), content_type="image/png")

    return work
