"""Titles: the shelf and saving."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema, Status
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel import new_title
from studio.errors import Fault
from studio.titles.documents import Document
from studio.titles.finishes import finish_or_error
from studio.titles.models import Revision, Stale, Title

router = Router(tags=["titles"])

SeriesName = Annotated[str, Field(max_length=100)]
FileName = Annotated[str, Field(min_length=1, max_length=200)]


class TitleSummary(Schema):
    id: UUID
    name: str
    version: int
    changed_at: datetime
    width: int
    height: int
    duration: float
    series: str

    @classmethod
    def of(cls, title: Title) -> "TitleSummary":
        frame = title.document["frame"]
        return cls(
            id=title.id,
            name=title.name,
            version=title.version,
            changed_at=title.changed_at,
            width=frame["width"],
            height=frame["height"],
            duration=frame["duration"],
            series=title.series,
        )


class SavedTitle(Schema):
    id: UUID
    version: int
    document: Document


class Saved(Schema):
    version: int


class NewTitle(Schema):
    text: str
    font: str = "Titan One"
    finish: str = "ship-brass"
    width: int = 1920
    height: int = 1080
    transparent: bool = False
    picture: FileName | None = None
    series: SeriesName = ""


class SeriesOf(Schema):
    series: SeriesName


class Save(Schema):
    version: int
    document: Document


class RevisionSummary(Schema):
    version: int
    saved_at: datetime


def present_title(title_id: UUID) -> Title:
    """A title on the shelf. Raises Http404."""
    return get_object_or_404(Title.objects.present(), pk=title_id)


@router.get("/titles", response=list[TitleSummary], operation_id="list_titles")
def list_titles(request: HttpRequest) -> list[TitleSummary]:
    return [TitleSummary.of(title) for title in Title.objects.present()]


@router.post("/titles", response={201: SavedTitle, 422: Fault}, operation_id="create_title")
def create_title(request: HttpRequest, new: NewTitle):
    document = new_title(
        new.text,
        font=new.font,
        finish=finish_or_error(new.finish),
        frame=(new.width, new.height),
        transparent=new.transparent,
        home=settings.LIBRARY_DIR,
        picture=new.picture,
    )
    return Status(201, saved(Title.keep(document, new.series.strip())))


@router.get("/titles/{title_id}", response=SavedTitle, operation_id="get_title")
def get_title(request: HttpRequest, title_id: UUID) -> SavedTitle:
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
        title.save_version(save.version, save.document)
    except Stale as stale:
        return Status(409, saved(stale.current))
    return Saved(version=title.version)


@router.post(
    "/titles/{title_id}/duplicate", response={201: TitleSummary}, operation_id="duplicate_title"
)
def duplicate_title(request: HttpRequest, title_id: UUID):
    return Status(201, TitleSummary.of(present_title(title_id).duplicate()))


@router.put("/titles/{title_id}/series", response=TitleSummary, operation_id="put_in_series")
def put_in_series(request: HttpRequest, title_id: UUID, act: SeriesOf) -> TitleSummary:
    """Put a title in a series, or with an empty name in none."""
    title = present_title(title_id)
    title.series = act.series.strip()
    title.save(update_fields=["series"])
    return TitleSummary.of(title)


@router.delete("/titles/{title_id}", response={204: None}, operation_id="remove_title")
def remove_title(request: HttpRequest, title_id: UUID):
    present_title(title_id).remove()
    return Status(204, None)


@router.post("/titles/{title_id}/restore", response=TitleSummary, operation_id="restore_title")
def restore_title(request: HttpRequest, title_id: UUID) -> TitleSummary:
    title = get_object_or_404(Title, pk=title_id)
    title.restore()
    return TitleSummary.of(title)


@router.get(
    "/titles/{title_id}/revisions", response=list[RevisionSummary], operation_id="list_revisions"
)
def list_revisions(request: HttpRequest, title_id: UUID) -> list[Revision]:
    return list(present_title(title_id).revisions.order_by("-version"))


@router.get(
    "/titles/{title_id}/revisions/{version}", response=EngineTitle, operation_id="get_revision"
)
def get_revision(request: HttpRequest, title_id: UUID, version: int) -> EngineTitle:
    return get_object_or_404(present_title(title_id).revisions, version=version).parsed


def saved(title: Title) -> SavedTitle:
    """What a page needs to open it."""
    return SavedTitle(id=title.id, version=title.version, document=title.parsed)
