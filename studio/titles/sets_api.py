"""Sets of titles: a list of words in one look, and taking back what was done to many."""

from typing import Annotated

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel.compose import titles_from, word_list
from studio.errors import Fault
from studio.titles.api import SeriesName, TitleSummary
from studio.titles.documents import Document
from studio.titles.many import Changed, take_back
from studio.titles.models import Title

router = Router(tags=["sets"])


class WordList(Schema):
    """`words` are lines, or a CSV whose first line names columns; see `mabrel.compose.words`."""

    document: Document
    layer: str | None = None
    words: Annotated[str, Field(max_length=200_000)]


class MadeTitle(Schema):
    name: str
    document: EngineTitle | None
    fault: str


class KeepSet(Schema):
    documents: Annotated[list[Document], Field(min_length=1, max_length=200)]
    series: SeriesName = ""


class TakeBack(Schema):
    changed: list[Changed]


class Left(Schema):
    """Titles that were changed since, and stay as they are."""

    left: list[str]


@router.post("/look/words", response={200: list[MadeTitle], 422: Fault}, operation_id="word_list")
def set_words(request: HttpRequest, ask: WordList) -> list[MadeTitle]:
    """The look on each word of a list; nothing is kept yet."""
    rows = word_list(ask.words, ask.document)
    return [
        MadeTitle(name=made.name, document=made.title, fault=made.fault)
        for made in titles_from(ask.document, rows, ask.layer)
    ]


@router.post("/titles/set", response={201: list[TitleSummary], 422: Fault}, operation_id="keep_set")
def keep_set(request: HttpRequest, act: KeepSet):
    """Put all of them on the shelf, or none."""
    with transaction.atomic():
        kept = [Title.keep(document, act.series.strip()) for document in act.documents]
    return Status(201, [TitleSummary.of(title) for title in kept])


@router.post("/titles/take-back", response={200: Left, 422: Fault}, operation_id="take_back")
def take_titles_back(request: HttpRequest, act: TakeBack) -> Left:
    """Give titles their states before an act on many again."""
    return Left(left=take_back(act.changed))
