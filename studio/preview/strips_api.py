"""Pictures for the shelf: a word in each finish, and the titles that are kept."""

from typing import Annotated, Any
from uuid import UUID

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Schema
from pydantic import Field

from studio.engine.kept import kept_on_disk
from studio.engine.work import FINISH_STRIP, STRIP, Urgency, Work
from studio.preview import strips
from studio.preview.asking import Lane, LayerName, Pixels, Session, png
from studio.titles.documents import Document, sent
from studio.titles.finishes import finish_or_error
from studio.titles.models import Title
from studio.web.errors import Fault

router = Router(tags=["strips"])

FinishName = Annotated[str, Field(max_length=64)]


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
    font: Annotated[str, Field(max_length=200)] = "",
    frame_width: int = 1920,
    frame_height: int = 1080,
    picture: Annotated[str, Field(min_length=1, max_length=200)] | None = None,
    width: Pixels = 600,
    height: Pixels = 168,
):
    """A word or a picture of the library in a finish, as a strip."""
    finish = await sync_to_async(finish_or_error)(name)
    frame, size = (frame_width, frame_height), (width, height)
    key, ask = await sync_to_async(strips.of_finish)(finish, text, font, frame, picture, size)
    # Whole scenes take longest: what is quick comes first.
    urgency = Urgency.SCENE if finish.scene else Urgency.SHELF
    return await _kept(key, FINISH_STRIP, session, f"finish {name}", urgency, ask)


@router.get(
    "/titles/{title_id}/strip",
    response={200: None, 204: None, 422: Fault},
    operation_id="title_strip",
)
async def title_strip(
    request: HttpRequest,
    title_id: UUID,
    version: int = 0,
    session: Session = "shelf",
    width: Pixels = 800,
    height: Pixels = 224,
):
    """A saved title, cropped to its lettering. Give its `version`: the answer is kept."""
    title = await sync_to_async(get_object_or_404)(Title, pk=title_id)
    key, ask = await sync_to_async(strips.of_title)(title, (width, height))
    response = await _kept(key, STRIP, session, "", Urgency.SCENE, ask)
    if version == title.version and isinstance(response, HttpResponse):
        response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


async def _kept(
    key: str, work: Work, page: str, lane: str, urgency: Urgency, ask: dict[str, Any]
) -> Any:
    """A strip that was rendered before, or a new one that is then kept."""
    content = await kept_on_disk().aget(key)
    if content is not None:
        return HttpResponse(content, content_type="image/png")
    response = await png(work, page, lane, urgency, **ask)
    if isinstance(response, HttpResponse):
        await kept_on_disk().aput(key, response.content)
    return response


class StripRequest(Schema):
    """With `finish` and `layer` the strip shows that layer in the finish."""

    session: Session
    lane: Lane
    document: Document
    finish: FinishName | None = None
    layer: LayerName = ""
    width: Pixels = 400
    height: Pixels = 112


@router.post("/strip", response={200: None, 204: None, 422: Fault}, operation_id="strip")
async def strip(request: HttpRequest, ask: StripRequest):
    """A document that need not be saved, cropped to its lettering."""
    finish = None
    if ask.finish is not None:
        finish = (await sync_to_async(finish_or_error)(ask.finish)).text.encode()
    return await png(
        STRIP,
        ask.session,
        f"strip {ask.lane}",
        **sent(ask.document),
        width=ask.width,
        height=ask.height,
        finish=finish,
        layer=ask.layer,
    )
