"""Readings of documents that need not be saved: the section, and the tones before a step."""

import base64
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from mabrel.reading import cut, tones_before
from mabrel.render import Cancel, Renderer
from studio.errors import Fault
from studio.preview.asking import Session, checking_layer, done
from studio.preview.desk import Urgency
from studio.titles.documents import Document

router = Router(tags=["readings"])


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

    return await done(f"{ask.session} section", Urgency.READING, checking_layer(ask, work))


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

    return await done(f"{ask.session} tones", Urgency.READING, checking_layer(ask, work))
