"""Readings of documents that need not be saved: sentences, the section, tones and heights."""

import base64
from dataclasses import asdict
from typing import Annotated, Any

import numpy as np
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from mabrel.colour import brightness, straight
from mabrel.reading import cut, readings, tones_before
from mabrel.render import Cancel, Renderer
from mabrel.title import Placed
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


class LayerRequest(Schema):
    session: Session
    document: Document
    layer: str


class ReadingEntry(Schema):
    """`layer`, `step` and `light` are ids of what the sentence speaks of."""

    gauge: str
    text: str
    warns: bool
    layer: str | None
    step: str | None
    light: str | None


class Strokes(Schema):
    """Frame pixels; `shares` is the distribution from 0 to `thickest`."""

    thinnest: float
    median: float
    thickest: float
    shares: list[float]


class ReadingsAnswer(Schema):
    said: list[ReadingEntry]
    strokes: Strokes | None


@router.post(
    "/readings", response={200: ReadingsAnswer, 204: None, 422: Fault}, operation_id="get_readings"
)
async def get_readings(request: HttpRequest, ask: LayerRequest):
    """What the engine has to say about the title, seen from one layer."""

    def work(renderer: Renderer, cancel: Cancel) -> ReadingsAnswer:
        found = readings(renderer, ask.document, ask.layer, cancel)
        return ReadingsAnswer(
            said=[ReadingEntry(**asdict(each)) for each in found.said],
            strokes=Strokes(**found.strokes._asdict()) if found.strokes else None,
        )

    return await done(f"{ask.session} readings", Urgency.GAUGE, checking_layer(ask, work))


class ReliefRequest(LayerRequest):
    scale: Annotated[float, Field(gt=0, le=1)] = 0.25


class ReliefAnswer(Schema):
    """Base64 of float16, row by row: height in frame pixels, and brightness 0..1 of the face,
    both NaN outside the lettering."""

    height: str
    tone: str
    columns: int
    rows: int


@router.post(
    "/relief", response={200: ReliefAnswer, 204: None, 422: Fault}, operation_id="get_relief"
)
async def get_relief(request: HttpRequest, ask: ReliefRequest):
    """Height and brightness of a layer everywhere, for the values under the pointer."""

    def work(renderer: Renderer, cancel: Cancel) -> ReliefAnswer:
        fields = renderer.fields(ask.document, ask.layer, scale=ask.scale, cancel=cancel)
        inside = fields.matte > 0.5

        def packed(values: Any) -> str:
            held = np.where(inside, np.clip(values, -6e4, 6e4), np.nan).astype("<f2")
            return base64.b64encode(held.tobytes()).decode()

        rows, columns = inside.shape
        tone = brightness(straight(fields.face))
        return ReliefAnswer(
            height=packed(fields.height), tone=packed(tone), columns=columns, rows=rows
        )

    return await done(f"{ask.session} relief", Urgency.READING, checking_layer(ask, work))


class BoxesRequest(Schema):
    """`step` is the one whose given box is asked for too."""

    session: Session
    document: Document
    layer: str
    step: str | None = None


class LayerBox(Schema):
    layer: str
    box: list[float]


class BoxesAnswer(Schema):
    """Left, top, right and bottom in frame pixels from a layer's own centre, unplaced: of each
    layer's source, and of what the step is given."""

    layers: list[LayerBox]
    given: list[float] | None


@router.post("/boxes", response={200: BoxesAnswer, 204: None, 422: Fault}, operation_id="get_boxes")
async def get_boxes(request: HttpRequest, ask: BoxesRequest):
    """Where the lettering and pictures are, for the handles that lie over them."""

    def work(renderer: Renderer, cancel: Cancel) -> BoxesAnswer:
        def box(layer: Any, before: str | None) -> list[float]:
            found = renderer.box(ask.document, layer.id, before=before, cancel=cancel)
            return [round(side, 2) for side in found]

        placed = [layer for layer in ask.document.layers if isinstance(layer, Placed)]
        boxes = [
            LayerBox(layer=layer.id, box=box(layer, layer.build[0].id if layer.build else None))
            for layer in placed
        ]
        chosen = ask.document.layer(ask.layer)
        given = ask.step in [step.id for step in chosen.build] and isinstance(chosen, Placed)
        return BoxesAnswer(layers=boxes, given=box(chosen, ask.step) if given else None)

    return await done(f"{ask.session} boxes", Urgency.READING, checking_layer(ask, work))
