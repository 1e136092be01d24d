"""A title as a clip."""

from typing import Annotated, Literal

from asgiref.sync import sync_to_async
from django.http import Http404, HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from studio.engine.outcome import Refused
from studio.engine.shipped import clip_times
from studio.exports.clips import MOST_FRAMES, ClipJob, workshop
from studio.exports.state import MakingState, known
from studio.titles.documents import Document, checked
from studio.web.answers import file_answer
from studio.web.errors import Fault

router = Router(tags=["exports"])

Seconds = Annotated[float, Field(ge=0, le=3600)]


class ClipRequest(Schema):
    """From `start` to `end` seconds, at `rate` frames a second; without them, all of it at its
    own."""

    document: Document
    form: Literal["webm", "frames"] = "webm"
    start: Seconds = 0.0
    end: Seconds | None = None
    rate: Annotated[float, Field(gt=0, le=240)] | None = None
    scale: Annotated[float, Field(ge=0.1, le=4)] = 1.0
    bits: Literal[8, 16] = 8
    backdrop: bool = True


@router.post("/clips", response={202: MakingState, 422: Fault}, operation_id="start_clip")
def start_clip(request: HttpRequest, ask: ClipRequest):
    """Render every frame in the background: VP9 with alpha in WebM, or PNGs in a zip."""
    found = checked(ask.document)
    rate, times = clip_times(
        ask.start, found.duration if ask.end is None else ask.end, ask.rate or found.fps
    )
    if len(times) > MOST_FRAMES:
        raise Refused("end", f"makes {len(times):,} frames; a clip has at most {MOST_FRAMES:,}")
    job = ClipJob(
        len(times),
        document=found.text.encode(),
        times=times,
        rate=rate,
        scale=ask.scale,
        bits=ask.bits,
        backdrop=ask.backdrop,
        form=ask.form,
    )
    return Status(202, MakingState.of(workshop.start(job)))


def _job(clip_id: str) -> ClipJob:
    return known(workshop.find(clip_id))


@router.get("/clips/{clip_id}", response=MakingState, operation_id="clip_state")
def clip_state(request: HttpRequest, clip_id: str) -> MakingState:
    return MakingState.of(_job(clip_id))


@router.delete("/clips/{clip_id}", response={204: None}, operation_id="stop_clip")
def stop_clip(request: HttpRequest, clip_id: str):
    _job(clip_id).stop()
    return Status(204, None)


@router.get("/clips/{clip_id}/file", response={200: None}, operation_id="clip_file")
async def clip_file(request: HttpRequest, clip_id: str):
    job = await sync_to_async(_job)(clip_id)
    if job.path is None:
        raise Http404
    if job.form == "webm":
        return await file_answer(job.path, "title.webm", "video/webm")
    return await file_answer(job.path, "frames.zip", "application/zip")
