"""Exports: asked for, watched, stopped, taken up again, fetched."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from asgiref.sync import sync_to_async
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema, Status
from pydantic import Field

from studio.engine.asking import answer
from studio.engine.outcome import LimitReached, Refused, Superseded
from studio.engine.shipped import Order, export_forms, export_frames
from studio.engine.work import ESTIMATE
from studio.exports.models import MOST, UNDERWAY, Export, ExportPreset, State
from studio.exports.names import file_stem, file_stems
from studio.exports.tasks import make_export
from studio.titles.documents import Document, all_checked, checked, sent
from studio.web.answers import file_answer
from studio.web.disk import enough_disk
from studio.web.errors import Fault

router = Router(tags=["exports"])
MOST_PRESETS = 50
MOST_FRAMES = 400_000
"""Of all titles of a set together."""
_ZIP = "application/zip"


class ExportState(Schema):
    """`remaining` is an estimate in seconds while it is made."""

    id: UUID
    name: str
    order: Order
    state: State
    stopping: bool
    done: int
    all: int
    remaining: float | None
    fault: str
    ending: str
    size: int
    asked_at: datetime


class AskExport(Schema):
    document: Document
    order: Order


class AskSet(Schema):
    """Titles that are exported together, in one zip; `sheet` adds a picture of all."""

    documents: Annotated[list[Document], Field(min_length=1, max_length=200)]
    order: Order
    sheet: bool = False


class AskEstimate(AskExport):
    session: Annotated[str, Field(min_length=1, max_length=64)]


class Estimate(Schema):
    """About what it will take, tried on a few frames."""

    frames: int
    seconds: float
    bytes: int


class Form(Schema):
    name: str
    label: str
    ending: str
    depths: list[str]
    alpha: bool
    lossy: bool
    scales: bool = True


class Preset(Schema):
    name: str
    label: str
    says: str
    order: Order


class OwnPreset(Schema):
    id: int
    name: str
    order: Order


class Forms(Schema):
    stills: list[Form]
    clips: list[Form]
    parts: list[Form]
    presets: list[Preset]
    own: list[OwnPreset]


class KeepPreset(Schema):
    name: Annotated[str, Field(min_length=1, max_length=100)]
    order: Order


@router.get("/exports/forms", response=Forms, operation_id="export_forms")
def forms(request: HttpRequest) -> dict[str, Any]:
    return {**export_forms(), "own": list(ExportPreset.objects.all())}


@router.post(
    "/exports/presets", response={201: OwnPreset, 422: Fault}, operation_id="keep_export_preset"
)
def keep_preset(request: HttpRequest, act: KeepPreset):
    """Keep settings under a name; one of that name is replaced."""
    if ExportPreset.objects.exclude(name=act.name).count() >= MOST_PRESETS:
        raise Refused("", f"There are {MOST_PRESETS} presets already: delete one first.")
    kept, _ = ExportPreset.objects.update_or_create(
        name=act.name, defaults={"order": act.order.model_dump()}
    )
    return Status(201, kept)


@router.delete(
    "/exports/presets/{int:preset_id}", response={204: None}, operation_id="delete_export_preset"
)
def delete_preset(request: HttpRequest, preset_id: Annotated[int, Field(ge=0, le=2**63 - 1)]):
    get_object_or_404(ExportPreset, pk=preset_id).delete()
    return Status(204, None)


@router.post(
    "/exports/estimate",
    response={200: Estimate, 204: None, 422: Fault},
    operation_id="estimate_export",
)
async def estimate(request: HttpRequest, ask: AskEstimate) -> Any:
    """What an export would take, tried on a few of its frames; nothing where the page has asked
    anew meanwhile."""
    try:
        return await answer(
            ESTIMATE, ask.session, "estimate", **sent(ask.document), order=ask.order.model_dump()
        )
    except Superseded:
        return Status(204, None)


@router.get("/exports", response=list[ExportState], operation_id="list_exports")
def list_exports(request: HttpRequest) -> Any:
    """The newest first."""
    return Export.objects.defer("document", "members")[:MOST]


@router.post("/exports", response={201: ExportState, 422: Fault}, operation_id="ask_export")
def ask_export(request: HttpRequest, ask: AskExport):
    """Begin an export in the background."""
    found = checked(ask.document)
    return Status(
        201,
        _begun(
            name=file_stem(found.name),
            document=found.text,
            order=ask.order.model_dump(),
            all=export_frames(ask.order, found.duration, found.fps),
            ending=".zip" if ask.order.several else ask.order.suffix,
            media=_ZIP if ask.order.several else ask.order.media,
        ),
    )


@router.post("/exports/set", response={201: ExportState, 422: Fault}, operation_id="ask_set")
def ask_set(request: HttpRequest, ask: AskSet):
    """Begin an export of many titles in the background."""
    found = all_checked(ask.documents)
    frames = sum(export_frames(ask.order, each.duration, each.fps) for each in found)
    if frames > MOST_FRAMES:
        raise Refused("order", f"asks for {frames:,} frames; a set has at most {MOST_FRAMES:,}")
    names = file_stems(each.name for each in found)
    return Status(
        201,
        _begun(
            name=file_stem(found[0].name) + (f" and {len(found) - 1} more" if found[1:] else ""),
            members=[[name, each.text] for name, each in zip(names, found, strict=True)],
            sheet=ask.sheet,
            order=ask.order.model_dump(),
            all=frames,
            ending=".zip",
            media=_ZIP,
        ),
    )


def _begun(**values: Any) -> Export:
    enough_disk()
    if not Export.make_room():
        raise LimitReached(f"{MOST} exports are on their way already: wait for one of them.")
    made = Export.objects.create(**values)
    make_export.enqueue(str(made.pk))
    return made


def _export(export_id: UUID) -> Export:
    return get_object_or_404(Export.objects.defer("document", "members"), pk=export_id)


@router.get("/exports/{uuid:export_id}", response=ExportState, operation_id="export_state")
def export_state(request: HttpRequest, export_id: UUID) -> Export:
    return _export(export_id)


@router.post("/exports/{uuid:export_id}/stop", response=ExportState, operation_id="stop_export")
def stop_export(request: HttpRequest, export_id: UUID) -> Export:
    """Stop it; what is made is kept, and it can be taken up again."""
    Export.objects.filter(pk=export_id, state=State.RUNNING).update(stopping=True)
    Export.objects.filter(pk=export_id, state=State.WAITING).update(state=State.STOPPED)
    return _export(export_id)


@router.post("/exports/{uuid:export_id}/again", response=ExportState, operation_id="resume_export")
def resume_export(request: HttpRequest, export_id: UUID) -> Export:
    """Take one up again that was stopped or failed: it goes on from what is made."""
    enough_disk()
    waiting = Export.objects.filter(pk=export_id, state__in=(State.STOPPED, State.FAILED))
    if waiting.update(state=State.WAITING, stopping=False, fault=""):
        make_export.enqueue(str(export_id))
    return _export(export_id)


@router.delete(
    "/exports/{uuid:export_id}",
    response={204: None, 422: Fault},
    operation_id="delete_export",
)
def delete_export(request: HttpRequest, export_id: UUID):
    """Forget one that has ended, with its file."""
    export = _export(export_id)
    if export.state in UNDERWAY:
        raise Refused("", "It is being made: stop it first.")
    export.discard()
    return Status(204, None)


@router.get("/exports/{uuid:export_id}/file", response={200: None}, operation_id="export_file")
async def export_file(request: HttpRequest, export_id: UUID):
    export = await sync_to_async(_export)(export_id)
    if export.state != State.DONE or not export.path.exists():
        raise Http404
    return await file_answer(export.path, f"{export.name}{export.ending}", export.media)
