"""Finishes: listing them, keeping one's own, and using one on many titles."""

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Body, Router, Schema, Status
from pydantic import Field
from pydantic_core import to_json

from mabrel.title.files import load_json
from studio.engine.asking import answer_now
from studio.engine.outcome import Refused
from studio.engine.shipped import shipped_finishes
from studio.engine.work import CHECK_FINISH, FINISH, KEEP_FINISH
from studio.titles.bulk_changes import Changed, change_all
from studio.titles.documents import Document, FinishDocument, sent
from studio.titles.finishes import (
    KnownFinish,
    all_finishes,
    finish_or_error,
    free_name,
    own_or_error,
)
from studio.titles.models import Finish, Title
from studio.web.answers import Text, attachment, json_answer
from studio.web.errors import Fault

router = Router(tags=["finishes"])

Label = Annotated[str, Field(min_length=1, max_length=100)]


class FinishSummary(Schema):
    name: str
    label: str
    help: str
    own: bool


class Relabel(Schema):
    label: Label


class UseOnTitles(Schema):
    titles: Annotated[list[UUID], Field(min_length=1, max_length=200)]


class KeepFinish(Schema):
    document: Document
    layer: Annotated[str, Field(max_length=200)]
    label: Label


@router.get("/finishes", response=list[FinishSummary], operation_id="list_finishes")
def list_finishes(request: HttpRequest) -> list[KnownFinish]:
    return all_finishes()


@router.post("/finishes", response={201: FinishSummary, 422: Fault}, operation_id="keep_finish")
def keep_finish(request: HttpRequest, act: KeepFinish):
    """Keep a layer's build as a finish of one's own."""
    label = act.label.strip()
    made = answer_now(
        KEEP_FINISH, **sent(act.document), layer=act.layer, name=free_name(label), label=label
    )
    return Status(201, _kept(made))


@router.post(
    "/finishes/import", response={201: FinishSummary, 422: Fault}, operation_id="import_finish"
)
def import_finish(request: HttpRequest, finish: Body[FinishDocument]):
    """Keep a finish that was exported; one of the same name that is one's own is replaced."""
    made = answer_now(CHECK_FINISH, finish=to_json(finish))
    return Status(201, _kept(made))


def _kept(made: dict[str, Any]) -> KnownFinish:
    """Save what the engine has checked; one of the same name is replaced. Raises Refused."""
    document = load_json(made["text"])
    name, label, help = (document[key] for key in ("name", "label", "help"))
    if name in shipped_finishes():
        raise Refused("", f"there is already a finish {name!r} that ships with Mabrel")
    columns = {
        "label": label,
        "help": help,
        "scene": made["scene"],
        "document": made["text"],
        "files": made["files"],
    }
    Finish.objects.update_or_create(name=name, defaults=columns)
    return KnownFinish(name, label, help, True, made["scene"])


@router.get("/finishes/{name}/file", response={200: None, 422: Fault}, operation_id="finish_file")
def finish_file(request: HttpRequest, name: str) -> HttpResponse:
    """A finish as a file that can be imported elsewhere."""
    response = json_answer(Text(finish_or_error(name).text))
    response["Content-Disposition"] = attachment(f"{name}.finish.json")
    return response


@router.patch(
    "/finishes/{name}", response={200: FinishSummary, 422: Fault}, operation_id="rename_finish"
)
def rename_finish(request: HttpRequest, name: str, act: Relabel):
    """Another label for a finish of one's own; its name stays."""
    own = own_or_error(name)
    renamed = load_json(own.document) | {"label": act.label.strip()}
    return _kept(answer_now(CHECK_FINISH, finish=to_json(renamed)))


@router.post(
    "/finishes/{name}/titles",
    response={200: list[Changed], 422: Fault},
    operation_id="use_finish_on_titles",
)
def use_finish_on_titles(request: HttpRequest, name: str, act: UseOnTitles) -> list[Changed]:
    """A finish on the front lettering or picture of each title, on all of them or on none; the
    answer is what takes it back."""
    finish = finish_or_error(name).text.encode()
    there = Title.objects.present().filter(pk__in=act.titles).values_list("id", flat=True)
    return change_all(there, FINISH, finish=finish, layers=None)


@router.delete("/finishes/{name}", response={204: None, 422: Fault}, operation_id="drop_finish")
def drop_finish(request: HttpRequest, name: str):
    """Delete one of the user's own finishes; titles made with it keep their look."""
    own_or_error(name).delete()
    return Status(204, None)
