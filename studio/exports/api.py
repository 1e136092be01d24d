"""One zip of many titles."""

from typing import Annotated, Literal

from asgiref.sync import sync_to_async
from django.http import Http404, HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from studio.exports import zips
from studio.exports.state import MakingState, known
from studio.titles.documents import Document, all_checked
from studio.web.answers import file_answer
from studio.web.errors import Fault

router = Router(tags=["exports"])


class ZipRequest(Schema):
    documents: Annotated[list[Document], Field(min_length=1, max_length=200)]
    bits: Literal[8, 16] = 8
    scale: Annotated[float, Field(ge=0.1, le=4)] = 1.0
    backdrop: bool = True


@router.post("/zips", response={202: MakingState, 422: Fault}, operation_id="start_zip")
def start_zip(request: HttpRequest, ask: ZipRequest):
    """Render each title as PNG into one zip, in the background."""
    found = all_checked(ask.documents)
    documents = [each.text.encode() for each in found]
    names = [each.name for each in found]
    job = zips.start(documents, names, ask.scale, ask.bits, ask.backdrop)
    return Status(202, MakingState.of(job))


def _job(zip_id: str) -> zips.ZipJob:
    return known(zips.find(zip_id))


@router.get("/zips/{zip_id}", response=MakingState, operation_id="zip_state")
def zip_state(request: HttpRequest, zip_id: str) -> MakingState:
    return MakingState.of(_job(zip_id))


@router.delete("/zips/{zip_id}", response={204: None}, operation_id="stop_zip")
def stop_zip(request: HttpRequest, zip_id: str):
    _job(zip_id).stop()
    return Status(204, None)


@router.get("/zips/{zip_id}/file", response={200: None}, operation_id="zip_file")
async def zip_file(request: HttpRequest, zip_id: str):
    path = (await sync_to_async(_job)(zip_id)).path
    if path is None:
        raise Http404
    return await file_answer(path, "titles.zip", "application/zip")
