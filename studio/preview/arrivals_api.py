"""What an arrival or a departure looks like on a title."""

from typing import Annotated

from asgiref.sync import sync_to_async
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from studio.engine.work import ARRIVAL_FILM
from studio.preview.asking import LayerName, Session, png
from studio.titles.arrivals import arrival_or_error
from studio.titles.documents import Document, sent
from studio.web.errors import Fault

router = Router(tags=["arrivals"])


class FilmRequest(Schema):
    """`frames` pictures of `width` × `height` pixels, at even times of its length."""

    session: Session
    document: Document
    layer: LayerName
    arrival: Annotated[str, Field(max_length=64)]
    run_back: bool = False
    frames: Annotated[int, Field(ge=2, le=48)] = 16
    width: Annotated[int, Field(ge=32, le=480)] = 136
    height: Annotated[int, Field(ge=16, le=270)] = 77


@router.post(
    "/arrivals/film", response={200: None, 204: None, 422: Fault}, operation_id="arrival_film"
)
async def arrival_film(request: HttpRequest, ask: FilmRequest):
    """The title while it arrives or departs: pictures side by side, as PNG."""
    arrival = await sync_to_async(arrival_or_error)(ask.arrival)
    lane = f"arrival {ask.arrival} {ask.run_back}"
    how = {"layer": ask.layer, "run_back": ask.run_back, "frames": ask.frames}
    return await png(
        ARRIVAL_FILM, ask.session, lane, **sent(ask.document), **how, arrival=arrival.encode(),
        width=ask.width, height=ask.height,
    )  # fmt: skip
