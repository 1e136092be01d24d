"""Acts of the engine on a whole document that need not be saved."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from studio.engine.asking import answer_now
from studio.engine.outcome import Checked
from studio.engine.work import FINISH, RESIZE, SWAP
from studio.titles.api import FileName
from studio.titles.documents import Document, sent
from studio.titles.finishes import finish_or_error
from studio.web.answers import Text, json_answer
from studio.web.errors import Fault

router = Router(tags=["look"])

LayerName = Annotated[str, Field(max_length=200)]


class SwapWord(Schema):
    document: Document
    layer: LayerName
    text: Annotated[str, Field(max_length=2000)] | None = None
    font: FileName | None = None
    picture: FileName | None = None


class Resize(Schema):
    document: Document
    layer: LayerName
    size: Annotated[float, Field(allow_inf_nan=False)]


class UseFinish(Schema):
    document: Document
    layers: Annotated[list[LayerName], Field(min_length=1, max_length=200)]
    finish: Annotated[str, Field(max_length=64)]


@router.post("/look/swap", response={200: Document, 422: Fault}, operation_id="swap_word")
def swap_word(request: HttpRequest, act: SwapWord) -> HttpResponse:
    """The same look on another word, in another font or on a picture."""
    how = {"layer": act.layer, "text": act.text, "font": act.font, "picture": act.picture}
    return _document(answer_now(SWAP, **sent(act.document), **how))


@router.post("/look/resize", response={200: Document, 422: Fault}, operation_id="resize_look")
def resize_look(request: HttpRequest, act: Resize) -> HttpResponse:
    """Another size of the letters, the look's lengths with it."""
    how = {"layer": act.layer, "size": act.size}
    return _document(answer_now(RESIZE, **sent(act.document), **how))


@router.post("/look/finish", response={200: Document, 422: Fault}, operation_id="use_finish")
def use_finish(request: HttpRequest, act: UseFinish) -> HttpResponse:
    """The build of a finish on layers that have a size of their own."""
    of = sent(act.document)
    (found,) = answer_now(
        FINISH,
        documents=[of["document"]],
        home=of["home"],
        finish=finish_or_error(act.finish).text.encode(),
        layers=act.layers,
    )
    return _document(found)


def _document(found: Checked) -> HttpResponse:
    return json_answer(Text(found.text))
