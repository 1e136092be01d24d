"""Readings of documents that need not be saved: sentences, the section, tones and heights."""

from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from studio.engine.work import BOXES, CELLS, MOTION, PARTS, READINGS, RELIEF, SECTION, TONES
from studio.preview.asking import LayerName, Number, Seconds, Session, StepName, done
from studio.titles.documents import Document, sent
from studio.web.errors import Fault

router = Router(tags=["readings"])

Scale = Annotated[float, Field(gt=0, le=1)]


class SectionRequest(Schema):
    session: Session
    document: Document
    layer: LayerName
    at: Number
    samples: Annotated[int, Field(ge=16, le=2000)] = 600
    before: StepName | None = None
    time: Seconds = 0.0


class SectionAnswer(Schema):
    """One entry for each place; null outside the lettering. Colours are codes."""

    height: list[float | None]
    tone: list[float | None]
    colours: list[str]


class TonesRequest(Schema):
    session: Session
    document: Document
    layer: LayerName
    step: StepName
    scale: Scale = 0.25
    time: Seconds = 0.0


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
    how = {"layer": ask.layer, "at": ask.at, "samples": ask.samples, "before": ask.before}
    how["time"] = ask.time
    return await done(SECTION, ask.session, "section", **sent(ask.document), **how)


@router.post("/tones", response={200: TonesAnswer, 204: None, 422: Fault}, operation_id="get_tones")
async def get_tones(request: HttpRequest, ask: TonesRequest):
    """Brightness before a step, everywhere and in all."""
    how = {"layer": ask.layer, "step": ask.step, "scale": ask.scale, "time": ask.time}
    return await done(TONES, ask.session, "tones", **sent(ask.document), **how)


class LayerRequest(Schema):
    session: Session
    document: Document
    layer: LayerName
    time: Seconds = 0.0


class ReadingEntry(Schema):
    """`layer`, `step` and `light` are ids of what the sentence speaks of; `time` is in seconds,
    and `place` leads to a value that moves."""

    gauge: str
    text: str
    warns: bool
    layer: str | None
    step: str | None
    light: str | None
    time: float | None
    place: str | None


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
    how = sent(ask.document) | {"layer": ask.layer, "time": ask.time}
    return await done(READINGS, ask.session, "readings", **how)


class MotionRequest(Schema):
    session: Session
    document: Document


@router.post(
    "/readings/motion",
    response={200: list[ReadingEntry], 204: None, 422: Fault},
    operation_id="get_motion_readings",
)
async def get_motion_readings(request: HttpRequest, ask: MotionRequest):
    """What the engine has to say about how the title moves."""
    return await done(MOTION, ask.session, "motion", **sent(ask.document))


class ReliefRequest(LayerRequest):
    scale: Scale = 0.25


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
    how = {"layer": ask.layer, "scale": ask.scale, "time": ask.time}
    return await done(RELIEF, ask.session, "relief", **sent(ask.document), **how)


class BoxesRequest(Schema):
    """`step` is the one whose given box is asked for too."""

    session: Session
    document: Document
    layer: LayerName
    step: StepName | None = None
    time: Seconds = 0.0


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
    how = {"layer": ask.layer, "step": ask.step, "time": ask.time}
    return await done(BOXES, ask.session, "boxes", **sent(ask.document), **how)


class CellsRequest(Schema):
    session: Session
    document: Document
    layer: LayerName
    step: StepName
    divided: Literal[1, 2, 4, 8] = 1
    time: Seconds = 0.0


class CellSide(Schema):
    """A side of a body, as `mabrel.title.painted.Side` has it."""

    facing: float
    place: tuple[float, float]
    letter: str


class CellGrid(Schema):
    """Cells of one letter, or of all, or of one side: lengths in frame pixels from the layer's own
    centre, unplaced.

    Cell (column, row) begins at `corner` + (column · `across`, row · `down`), which `turned`
    (2 × 2), `shift` and `vanish` bring to where it is: a place p to (`turned` · p + `shift`) /
    (1 + `vanish` · p). `ink` says from column `left` and row `top` on which cells have any ("#"),
    each cut into parts; `painted` is the letter of the step's hand-painted ones that lies here.
    A `side` belongs to the letter whose grid is number `of`, and its cells were painted on the
    side `kept`.
    """

    letter: str
    corner: list[float]
    across: float
    down: float
    left: int
    top: int
    columns: int
    rows: int
    turned: list[float]
    shift: list[float]
    vanish: list[float]
    ink: list[str]
    painted: int | None
    side: CellSide | None
    of: int
    kept: CellSide | None


class CellsAnswer(Schema):
    divided: int
    grids: list[CellGrid]


@router.post("/cells", response={200: CellsAnswer, 204: None, 422: Fault}, operation_id="get_cells")
async def get_cells(request: HttpRequest, ask: CellsRequest):
    """The grids in which a step paints cells, for painting in them by hand."""
    how = {"layer": ask.layer, "step": ask.step, "divided": ask.divided, "time": ask.time}
    return await done(CELLS, ask.session, "cells", **sent(ask.document), **how)


class PartsRequest(Schema):
    """`coloured` asks for the colours too that the picture has there."""

    session: Session
    document: Document
    layer: LayerName
    step: StepName
    coloured: bool = False
    time: Seconds = 0.0


class BrokenPart(Schema):
    """A flat shape that the steps before the one that was asked for have made.

    `path` is the `d` of its outline, and `middle` a place in it, in frame pixels from the frame's
    upper left corner; `facing` is in degrees as its letter stands, 0 to the right and 90 down;
    `place` is its middle in shares of its letter's box. `painted` is the paint of the step that
    falls on it. Of two `colours` the second lies at the end of `line`, the first at its beginning.
    """

    name: str
    kind: Literal["shadow", "outline", "back", "side", "facet", "front"]
    letter: str
    number: int
    facing: float | None
    place: list[float]
    middle: list[float]
    path: str
    painted: int | None
    colours: list[str] | None = None
    line: list[float] | None = None


class PartsAnswer(Schema):
    """`parts` from the back to the front; `lost` are the step's paints that find no part."""

    parts: list[BrokenPart]
    lost: list[int]


@router.post("/parts", response={200: PartsAnswer, 204: None, 422: Fault}, operation_id="get_parts")
async def get_parts(request: HttpRequest, ask: PartsRequest):
    """What a layer breaks into before a step, for looking at its parts and painting them."""
    how = {"layer": ask.layer, "step": ask.step, "coloured": ask.coloured, "time": ask.time}
    return await done(PARTS, ask.session, "parts", **sent(ask.document), **how)
