"""Titles: the shelf and saving."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Path, Router, Schema, Status
from pydantic import Field

from mabrel.title.files import load_json
from studio.engine.asking import answer_now
from studio.engine.work import MAKE
from studio.titles.documents import Document, checked, home, opened
from studio.titles.finishes import finish_or_error
from studio.titles.models import Revision, Stale, Title
from studio.web.answers import json_answer
from studio.web.errors import Fault

router = Router(tags=["titles"])

SeriesName = Annotated[str, Field(max_length=100)]
FileName = Annotated[str, Field(min_length=1, max_length=200)]
Version = Annotated[int, Field(ge=0, le=2**31 - 1)]
NamedVersion = Annotated[int, Path(ge=0, le=2**31 - 1)]


class TitleSummary(Schema):
    id: UUID
    name: str
    version: int
    changed_at: datetime
    width: int
    height: int
    duration: float
    series: str


class SavedTitle(Schema):
    id: UUID
    version: int
    document: Document


class Saved(Schema):
    version: int


class NewTitle(Schema):
    text: Annotated[str, Field(max_length=2000)]
    font: Annotated[str, Field(max_length=200)] = ""
    finish: Annotated[str, Field(max_length=64)] = "ship-brass"
    width: int = 1920
    height: int = 1080
    transparent: bool = False
    picture: FileName | None = None
    series: SeriesName = ""


class SeriesOf(Schema):
    series: SeriesName


class Save(Schema):
    version: Version
    document: Document


class RevisionSummary(Schema):
    version: int
    saved_at: datetime


def present_title(title_id: UUID) -> Title:
    """A title on the shelf. Raises Http404."""
    return get_object_or_404(Title.objects.present(), pk=title_id)


@router.get("/titles", response=list[TitleSummary], operation_id="list_titles")
def list_titles(request: HttpRequest) -> Any:
    return Title.objects.present().defer("document")


@router.post("/titles", response={201: SavedTitle, 422: Fault}, operation_id="create_title")
def create_title(request: HttpRequest, new: NewTitle) -> HttpResponse:
    made = answer_now(
        MAKE,
        text=new.text,
        font=new.font,
        finish=finish_or_error(new.finish).text.encode(),
        frame=(new.width, new.height),
        transparent=new.transparent,
        home=home(),
        picture=new.picture,
    )
    return saved(Title.keep(made, new.series.strip()), 201)


@router.get("/titles/{title_id}", response={200: SavedTitle, 422: Fault}, operation_id="get_title")
def get_title(request: HttpRequest, title_id: UUID) -> HttpResponse:
    return saved(present_title(title_id))


@router.put(
    "/titles/{title_id}",
    response={200: Saved, 409: SavedTitle, 422: Fault},
    operation_id="save_title",
)
def save_title(request: HttpRequest, title_id: UUID, save: Save):
    """Save over `version`; 409 with what is there where that is not the current one."""
    title = present_title(title_id)
    try:
        title.save_version(save.version, checked(save.document))
    except Stale as stale:
        return saved(stale.current, 409)
    return Saved(version=title.version)


@router.post(
    "/titles/{title_id}/duplicate",
    response={201: TitleSummary, 422: Fault},
    operation_id="duplicate_title",
)
def duplicate_title(request: HttpRequest, title_id: UUID):
    title = present_title(title_id)
    document = load_json(opened(title.document))
    document["name"] = f"{title.name} copy"[:200]
    return Status(201, Title.keep(checked(document), title.series))


@router.put("/titles/{title_id}/series", response=TitleSummary, operation_id="put_in_series")
def put_in_series(request: HttpRequest, title_id: UUID, act: SeriesOf) -> Title:
    """Put a title in a series, or with an empty name in none."""
    title = present_title(title_id)
    title.series = act.series.strip()
    title.save(update_fields=["series"])
    return title


@router.delete("/titles/{title_id}", response={204: None}, operation_id="remove_title")
def remove_title(request: HttpRequest, title_id: UUID):
    present_title(title_id).remove()
    return Status(204, None)


@router.post("/titles/{title_id}/restore", response=TitleSummary, operation_id="restore_title")
def restore_title(request: HttpRequest, title_id: UUID) -> Title:
    title = get_object_or_404(Title, pk=title_id)
    title.restore()
    return title


@router.get(
    "/titles/{title_id}/revisions", response=list[RevisionSummary], operation_id="list_revisions"
)
def list_revisions(request: HttpRequest, title_id: UUID) -> list[Revision]:
    return list(present_title(title_id).revisions.order_by("-version").defer("document"))


@router.get(
    "/titles/{title_id}/revisions/{version}",
    response={200: Document, 422: Fault},
    operation_id="get_revision",
)
def get_revision(request: HttpRequest, title_id: UUID, version: NamedVersion) -> HttpResponse:
    revision = get_object_or_404(present_title(title_id).revisions, version=version)
    return json_answer(opened(revision.document))


def saved(title: Title, status: int = 200) -> HttpResponse:
    """What a page needs to open it."""
    document = opened(title.document)
    fields = {"id": str(title.id), "version": title.version, "document": document}
    return json_answer(fields, status)
