"""Finishes: listing them, and keeping one's own."""

from django.http import HttpRequest
from ninja import Router, Schema, Status

from mabrel.compose.finishes import FinishError
from mabrel.title import Placed
from studio.errors import Fault
from studio.titles.api import layer_of
from studio.titles.documents import Document
from studio.titles.finishes import all_finishes, finish_from_layer
from studio.titles.models import Finish

router = Router(tags=["finishes"])


class FinishSummary(Schema):
    name: str
    label: str
    help: str
    own: bool


class KeepFinish(Schema):
    document: Document
    layer: str
    label: str


@router.get("/finishes", response=list[FinishSummary], operation_id="list_finishes")
def list_finishes(request: HttpRequest) -> list[FinishSummary]:
    return [
        FinishSummary(name=finish.name, label=finish.label, help=finish.help, own=own)
        for finish, own in all_finishes()
    ]


@router.post("/finishes", response={201: FinishSummary, 422: Fault}, operation_id="keep_finish")
def keep_finish(request: HttpRequest, act: KeepFinish):
    """Keep a layer's build as a finish of one's own."""
    finish = finish_from_layer(act.document, layer_of(act.document, act.layer, Placed), act.label)
    Finish.keep(finish)
    return Status(
        201, FinishSummary(name=finish.name, label=finish.label, help=finish.help, own=True)
    )


@router.delete("/finishes/{name}", response={204: None, 422: Fault}, operation_id="drop_finish")
def drop_finish(request: HttpRequest, name: str):
    """Delete one of the user's own finishes; titles made with it keep their look."""
    deleted, _ = Finish.objects.filter(name=name).delete()
    if not deleted:
        raise FinishError(f"there is no finish of your own called {name!r}")
    return Status(204, None)
