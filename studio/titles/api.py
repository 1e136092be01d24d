"""Titles: the shelf, saving, and acts on a whole document."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema, Status
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel import new_title
from mabrel.compose import apply_finish, resized_look, swap
from mabrel.title import Lettering, Picture, Placed, TitleError, value_at
from studio.errors import Fault
from studio.titles.documents import Document, at_home
from studio.titles.finishes import finish_or_error
from studio.titles.models import Revision, Stale, Title

router = Router(tags=["titles"])


class TitleSummary(Schema):
    id: UUID
    name: str
    version: int
    changed_at: datetime
    width: int
    height: int
    duration: float

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


class Save(Schema):
    version: int
    document: Document


class SwapWord(Schema):
    document: Document
    layer: str
    text: str | None = None
    font: str | None = None
    picture: Annotated[str, Field(min_length=1, max_length=200)] | None = None


class Resize(Schema):
    document: Document
    layer: str
    size: float


class UseFinish(Schema):
    document: Document
    layer: str
    finish: str


class RevisionSummary(Schema):
    version: int
    saved_at: datetime


def _present(title_id: UUID) -> Title:
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
    )
    return Status(201, _saved(Title.keep(document)))


@router.get("/titles/{title_id}", response=SavedTitle, operation_id="get_title")
def get_title(request: HttpRequest, title_id: UUID) -> SavedTitle:
    return _saved(_present(title_id))


@router.put(
    "/titles/{title_id}",
    response={200: Saved, 409: SavedTitle, 422: Fault},
    operation_id="save_title",
)
def save_title(request: HttpRequest, title_id: UUID, save: Save):
    """Save over `version`; 409 with what is there where that is not the current one."""
    title = _present(title_id)
    try:
        title.save_version(save.version, save.document)
    except Stale as stale:
        return Status(409, _saved(stale.current))
    return Saved(version=title.version)


@router.post(
    "/titles/{title_id}/duplicate", response={201: TitleSummary}, operation_id="duplicate_title"
)
def duplicate_title(request: HttpRequest, title_id: UUID):
    return Status(201, TitleSummary.of(_present(title_id).duplicate()))


@router.delete("/titles/{title_id}", response={204: None}, operation_id="remove_title")
def remove_title(request: HttpRequest, title_id: UUID):
    _present(title_id).remove()
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
    return list(_present(title_id).revisions.order_by("-version"))


@router.get(
    "/titles/{title_id}/revisions/{version}", response=EngineTitle, operation_id="get_revision"
)
def get_revision(request: HttpRequest, title_id: UUID, version: int) -> EngineTitle:
    revision = get_object_or_404(_present(title_id).revisions, version=version)
    return at_home(EngineTitle.model_validate(revision.document))


@router.post("/look/swap", response={200: EngineTitle, 422: Fault}, operation_id="swap_word")
def swap_word(request: HttpRequest, act: SwapWord) -> EngineTitle:
    """The same look on another word, in another font or on a picture."""
    layer_of(act.document, act.layer, Lettering | Picture)
    return swap(act.document, text=act.text, font=act.font, picture=act.picture, layer=act.layer)


@router.post("/look/resize", response={200: EngineTitle, 422: Fault}, operation_id="resize_look")
def resize_look(request: HttpRequest, act: Resize) -> EngineTitle:
    """Another size of the letters, the look's lengths with it."""
    lettering = layer_of(act.document, act.layer, Lettering)
    if not 1 <= act.size <= 8000:
        raise TitleError("size", "must be at least 1 and at most 8000")
    changed = resized_look(lettering, act.size / value_at(lettering.source.size, 0.0))
    layers = [changed if each.id == changed.id else each for each in act.document.layers]
    return act.document.model_copy(update={"layers": layers})


@router.post("/look/finish", response={200: EngineTitle, 422: Fault}, operation_id="use_finish")
def use_finish(request: HttpRequest, act: UseFinish) -> EngineTitle:
    """The build of a finish on one layer that has a size of its own."""
    layer_of(act.document, act.layer, Placed)
    return apply_finish(act.document, act.layer, finish_or_error(act.finish))


def layer_of(document: EngineTitle, layer: str, kinds: Any) -> Any:
    """A layer of one of these kinds. Raises TitleError."""
    try:
        found = document.layer(layer)
    except KeyError:
        found = None
    if not isinstance(found, kinds):
        raise TitleError("layer", f"there is no layer {layer!r} for this")
    return found


def _saved(title: Title) -> SavedTitle:
    return SavedTitle(id=title.id, version=title.version, document=title.parsed)
