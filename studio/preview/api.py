"""Pictures of documents that need not be saved."""

import json
from typing import Annotated, Literal
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from studio.engine.asking import answer
from studio.engine.outcome import Pixels as Picture
from studio.engine.work import BUILD_PICTURES, EXPORT, FRAME, NEAR_FRAME, PREVIEW
from studio.passing import passing_place
from studio.preview.asking import (
    Lane,
    LayerName,
    Number,
    Pixels,
    Seconds,
    Session,
    StepName,
    done,
)
from studio.titles.documents import Document, sent
from studio.web.answers import file_answer
from studio.web.errors import Fault

router = Router(tags=["preview"])
_FRAMES = {"film": FRAME, "film ahead": FRAME, "film near": NEAR_FRAME}
"""By lane: frames made ahead, and one that a hand comes near to. The hand itself is before all."""


class Part(Schema):
    """A part of the frame, in frame pixels from its upper left corner."""

    left: Number
    top: Number
    width: Annotated[float, Field(gt=0, le=100_000)]
    height: Annotated[float, Field(gt=0, le=100_000)]


class PreviewRequest(Schema):
    """`lane` names the place that the picture is for: a newer request there drops this one. With
    `part` that part of the frame is rendered alone. One that `rests`, and does not follow a hand or
    the time, is likely to be changed next: the engine keeps what it is made from."""

    session: Session
    lane: Lane = "proof"
    document: Document
    scale: Annotated[float, Field(gt=0, le=4)] = 1.0
    time: Seconds = 0.0
    tap: Literal["picture", "matte", "height", "normals", "light", "face", "behind", "front"] = (
        "picture"
    )
    layer: LayerName | None = None
    until: StepName | None = None
    part: Part | None = None
    rests: bool = False


class BuildPicturesRequest(Schema):
    session: Session
    document: Document
    layer: LayerName
    width: Pixels = 180
    height: Pixels = 100
    time: Seconds = 0.0


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
    time: Seconds = 0.0


@router.post("/preview", response={200: None, 204: None, 422: Fault}, operation_id="preview")
async def preview(request: HttpRequest, ask: PreviewRequest):
    """Raw RGBA, 8 bits, straight alpha, row by row; `X-Size` is "width height". 204 where a
    newer request took its place."""
    part = ask.part and (ask.part.left, ask.part.top, ask.part.width, ask.part.height)
    picture = await done(
        _FRAMES.get(ask.lane, PREVIEW),
        ask.session,
        ask.lane,
        **sent(ask.document),
        time=ask.time,
        scale=ask.scale,
        tap=ask.tap,
        layer=ask.layer,
        until=ask.until,
        window=part,
        rests=ask.rests,
    )
    if not isinstance(picture, Picture):
        return picture
    response = HttpResponse(picture.rgba, content_type="application/octet-stream")
    response["X-Size"] = f"{picture.width} {picture.height}"
    response["X-Notices"] = quote(json.dumps(picture.notices))
    return response


@router.post(
    "/build-pictures",
    response={200: BuildPictures, 204: None, 422: Fault},
    operation_id="build_pictures",
)
async def build_pictures(request: HttpRequest, ask: BuildPicturesRequest):
    """The work after each step of a layer, and every layer by itself."""
    return await done(
        BUILD_PICTURES,
        ask.session,
        "build",
        **sent(ask.document),
        layer=ask.layer,
        width=ask.width,
        height=ask.height,
        time=ask.time,
    )


@router.post("/export", response={200: None, 422: Fault}, operation_id="export_title")
async def export_title(request: HttpRequest, ask: ExportRequest):
    """A PNG with straight alpha."""
    path = passing_place(".png")
    try:
        name = await answer(
            EXPORT,
            "exports",
            **sent(ask.document),
            path=str(path),
            bits=ask.bits,
            scale=ask.scale,
            backdrop=ask.backdrop,
            time=ask.time,
        )
        return await file_answer(path, f"{name or 'title'}.png", "image/png", passing=True)
    finally:
        path.unlink(missing_ok=True)
