"""Acts of the engine on a whole document that need not be saved."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from mabrel.title.layers import LayerKind
from studio.engine.asking import answer_now
from studio.engine.outcome import Checked
from studio.engine.work import ADD_LAYER, ADD_STEP, ARRIVE, FINISH, RESIZE, SWAP
from studio.titles.api import FileName
from studio.titles.arrivals import arrival_or_error
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


class AddStep(Schema):
    document: Document
    layer: LayerName
    step: Annotated[str, Field(max_length=64)]
    at: Annotated[int, Field(ge=0, le=2000)]


class AddLayer(Schema):
    """`of` are the layers that a copy follows or that make a group."""

    document: Document
    kind: LayerKind
    of: Annotated[list[LayerName], Field(max_length=200)] = Field(default=[])
    picture: FileName | None = None


class Arrive(Schema):
    """`at` and `length` are in seconds; without a length it is the arrival's own."""

    document: Document
    layer: LayerName
    arrival: Annotated[str, Field(max_length=64)]
    at: Annotated[float, Field(ge=0, le=3600)] = 0.0
    length: Annotated[float, Field(gt=0, le=3600)] | None = None
    run_back: bool = False


@router.post("/look/step", response={200: Document, 422: Fault}, operation_id="add_step")
def add_step(request: HttpRequest, act: AddStep) -> HttpResponse:
    """One step more in a layer's build, its lengths fitted to the letters."""
    how = {"layer": act.layer, "step": act.step, "at": act.at}
    return _document(answer_now(ADD_STEP, **sent(act.document), **how))


@router.post("/look/layer", response={200: Document, 422: Fault}, operation_id="add_layer")
def add_layer(request: HttpRequest, act: AddLayer) -> HttpResponse:
    """One layer more, where layers of its kind belong."""
    how = {"kind": act.kind, "of": act.of, "picture": act.picture}
    return _document(answer_now(ADD_LAYER, **sent(act.document), **how))


@router.post("/look/arrival", response={200: Document, 422: Fault}, operation_id="use_arrival")
def use_arrival(request: HttpRequest, act: Arrive) -> HttpResponse:
    """An arrival or a departure laid into a layer, as pegs."""
    how = {"layer": act.layer, "at": act.at, "length": act.length, "run_back": act.run_back}
    arrival = arrival_or_error(act.arrival).encode()
    return _document(answer_now(ARRIVE, **sent(act.document), **how, arrival=arrival))


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
