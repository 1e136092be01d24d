"""Marks: named states of a title."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Path, Router, Schema, Status
from pydantic import Field

from studio.titles.api import present_title
from studio.titles.documents import Document, checked, opened
from studio.titles.models import Mark
from studio.web.answers import json_answer
from studio.web.errors import Fault

router = Router(tags=["marks"])

MarkName = Annotated[str, Field(min_length=1, max_length=100)]
MarkId = Annotated[int, Path(ge=0, le=2**63 - 1)]


class MarkSummary(Schema):
    id: int
    name: str
    set_at: datetime


class SetMark(Schema):
    name: MarkName
    document: Document


class RenameMark(Schema):
    name: MarkName


@router.get("/titles/{title_id}/marks", response=list[MarkSummary], operation_id="list_marks")
def list_marks(request: HttpRequest, title_id: UUID) -> list[Mark]:
    """The newest first."""
    return list(present_title(title_id).marks.order_by("-id").defer("document"))


@router.post(
    "/titles/{title_id}/marks", response={201: MarkSummary, 422: Fault}, operation_id="set_mark"
)
def set_mark(request: HttpRequest, title_id: UUID, act: SetMark):
    """Keep a state of the title under a name."""
    title = present_title(title_id)
    found = checked(act.document)
    return Status(201, title.marks.create(name=act.name, document=found.text, files=found.files))


def _mark(title_id: UUID, mark_id: int) -> Mark:
    return get_object_or_404(present_title(title_id).marks, pk=mark_id)


@router.get(
    "/titles/{title_id}/marks/{mark_id}",
    response={200: Document, 422: Fault},
    operation_id="get_mark",
)
def get_mark(request: HttpRequest, title_id: UUID, mark_id: MarkId) -> HttpResponse:
    return json_answer(opened(_mark(title_id, mark_id).document))


@router.patch(
    "/titles/{title_id}/marks/{mark_id}", response=MarkSummary, operation_id="rename_mark"
)
def rename_mark(request: HttpRequest, title_id: UUID, mark_id: MarkId, act: RenameMark) -> Mark:
    mark = _mark(title_id, mark_id)
    mark.name = act.name
    mark.save(update_fields=["name"])
    return mark


@router.delete(
    "/titles/{title_id}/marks/{mark_id}", response={204: None}, operation_id="delete_mark"
)
def delete_mark(request: HttpRequest, title_id: UUID, mark_id: MarkId):
    _mark(title_id, mark_id).delete()
    return Status(204, None)
