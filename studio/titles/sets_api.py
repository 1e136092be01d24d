"""Sets of titles: a list of words in one look, and taking back what was done to many."""

from typing import Annotated, Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from studio.engine.asking import answer_now
from studio.engine.work import WORDS
from studio.titles.api import SeriesName, TitleSummary
from studio.titles.bulk_changes import Changed, take_back
from studio.titles.documents import Document, all_checked, sent
from studio.titles.look_api import LayerName
from studio.titles.models import Title
from studio.web.answers import Text, json_answer
from studio.web.errors import Fault

router = Router(tags=["sets"])


class WordList(Schema):
    """`words` are lines, or a CSV whose first line names columns; see `mabrel.compose.words`.

    With `one_size` all are as large as the longest bears, else each is as large as it may be; a
    `margin` is a share of the frame that stays free at its edges.
    """

    document: Document
    layer: LayerName | None = None
    words: Annotated[str, Field(max_length=200_000)]
    one_size: bool = False
    margin: Annotated[float, Field(ge=0, le=0.45)] | None = None


class MadeTitle(Schema):
    name: str
    document: Document | None
    fault: str


class KeepSet(Schema):
    documents: Annotated[list[Document], Field(min_length=1, max_length=200)]
    series: SeriesName = ""


class TakeBack(Schema):
    changed: Annotated[list[Changed], Field(max_length=1000)]


class Left(Schema):
    """Titles that were changed since, and stay as they are."""

    left: list[str]


@router.post("/look/words", response={200: list[MadeTitle], 422: Fault}, operation_id="word_list")
def set_words(request: HttpRequest, ask: WordList) -> HttpResponse:
    """The look on each word of a list; nothing is kept yet."""
    made: list[dict[str, Any]] = answer_now(
        WORDS,
        **sent(ask.document),
        layer=ask.layer,
        words=ask.words,
        one_size=ask.one_size,
        margin=ask.margin,
    )
    return json_answer(
        [each | {"document": each["document"] and Text(each["document"])} for each in made]
    )


@router.post("/titles/set", response={201: list[TitleSummary], 422: Fault}, operation_id="keep_set")
def keep_set(request: HttpRequest, act: KeepSet):
    """Put all of them on the shelf, or none."""
    found = all_checked(act.documents)
    with transaction.atomic():
        kept = [Title.keep(each, act.series.strip()) for each in found]
    return Status(201, kept)


@router.post("/titles/take-back", response={200: Left, 422: Fault}, operation_id="take_back")
def take_titles_back(request: HttpRequest, act: TakeBack) -> Left:
    """Give titles their states before an act on many again."""
    return Left(left=take_back(act.changed))
