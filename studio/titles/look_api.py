"""Acts of the engine on a whole document that need not be saved."""

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from mabrel import Title as EngineTitle
from mabrel.compose import apply_finish, resized_look, swap
from mabrel.title import Lettering, Picture, Placed, TitleError, value_at
from studio.errors import Fault
from studio.titles.api import FileName
from studio.titles.documents import Document
from studio.titles.finishes import finish_or_error

router = Router(tags=["look"])


class SwapWord(Schema):
    document: Document
    layer: str
    text: str | None = None
    font: str | None = None
    picture: FileName | None = None


class Resize(Schema):
    document: Document
    layer: str
    size: float


class UseFinish(Schema):
    document: Document
    layers: Annotated[list[str], Field(min_length=1, max_length=200)]
    finish: str


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
    """The build of a finish on layers that have a size of their own."""
    document, finish = act.document, finish_or_error(act.finish)
    for layer in act.layers:
        layer_of(document, layer, Placed)
        document = apply_finish(document, layer, finish)
    return document


def layer_of(document: EngineTitle, layer: str, kinds: Any) -> Any:
    """A layer of one of these kinds. Raises TitleError."""
    try:
        found = document.layer(layer)
    except KeyError:
        found = None
    if not isinstance(found, kinds):
        raise TitleError("layer", f"there is no layer {layer!r} for this")
    return found
