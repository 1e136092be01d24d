"""Finishes: listing them, keeping one's own, and using one on many titles."""

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel.compose import apply_finish
from mabrel.compose.finishes import FinishError
from mabrel.title import Finish as FinishDocument
from mabrel.title import Placed, TitleError
from studio.errors import Fault
from studio.titles.documents import Document
from studio.titles.finishes import (
    all_finishes,
    checked_finish,
    finish_from_layer,
    finish_or_error,
    relabelled,
)
from studio.titles.look_api import layer_of
from studio.titles.many import Changed, change_all
from studio.titles.models import Finish, Title

router = Router(tags=["finishes"])


class FinishSummary(Schema):
    name: str
    label: str
    help: str
    own: bool

    @classmethod
    def of(cls, finish: FinishDocument, own: bool) -> "FinishSummary":
        return cls(name=finish.name, label=finish.label, help=finish.help, own=own)


class Relabel(Schema):
    label: Annotated[str, Field(min_length=1, max_length=100)]


class UseOnTitles(Schema):
    titles: Annotated[list[UUID], Field(min_length=1, max_length=200)]


class KeepFinish(Schema):
    document: Document
    layer: str
    label: str


@router.get("/finishes", response=list[FinishSummary], operation_id="list_finishes")
def list_finishes(request: HttpRequest) -> list[FinishSummary]:
    return [FinishSummary.of(finish, own) for finish, own in all_finishes()]


@router.post("/finishes", response={201: FinishSummary, 422: Fault}, operation_id="keep_finish")
def keep_finish(request: HttpRequest, act: KeepFinish):
    """Keep a layer's build as a finish of one's own."""
    finish = finish_from_layer(act.document, layer_of(act.document, act.layer, Placed), act.label)
    Finish.keep(finish)
    return Status(201, FinishSummary.of(finish, own=True))


@router.post(
    "/finishes/import", response={201: FinishSummary, 422: Fault}, operation_id="import_finish"
)
def import_finish(request: HttpRequest, finish: FinishDocument):
    """Keep a finish that was exported; one of the same name that is one's own is replaced."""
    checked = checked_finish(finish)
    Finish.keep(checked)
    return Status(201, FinishSummary.of(checked, own=True))


@router.get("/finishes/{name}/file", response={200: None, 422: Fault}, operation_id="finish_file")
def finish_file(request: HttpRequest, name: str):
    """A finish as a file that can be imported elsewhere."""
    finish = finish_or_error(name)
    response = HttpResponse(finish.model_dump_json(indent=1), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{name}.finish.json"'
    return response


@router.patch(
    "/finishes/{name}", response={200: FinishSummary, 422: Fault}, operation_id="rename_finish"
)
def rename_finish(request: HttpRequest, name: str, act: Relabel) -> FinishSummary:
    """Another label for a finish of one's own; its name stays."""
    return FinishSummary.of(relabelled(name, act.label), own=True)


@router.post(
    "/finishes/{name}/titles",
    response={200: list[Changed], 422: Fault},
    operation_id="use_finish_on_titles",
)
def use_finish_on_titles(request: HttpRequest, name: str, act: UseOnTitles) -> list[Changed]:
    """A finish on the front lettering or picture of each title, on all of them or on none; the
    answer is what takes it back."""
    finish = finish_or_error(name)

    def finished(document: EngineTitle) -> EngineTitle:
        placed = [layer for layer in document.layers if isinstance(layer, Placed)]
        if not placed:
            raise TitleError("layers", f"{document.name} has no lettering")
        return apply_finish(document, placed[-1].id, finish)

    return change_all(Title.objects.present().filter(pk__in=act.titles), finished)


@router.delete("/finishes/{name}", response={204: None, 422: Fault}, operation_id="drop_finish")
def drop_finish(request: HttpRequest, name: str):
    """Delete one of the user's own finishes; titles made with it keep their look."""
    deleted, _ = Finish.objects.filter(name=name).delete()
    if not deleted:
        raise FinishError(f"there is no finish of your own called {name!r}")
    return Status(204, None)
