"""Arrivals and departures: listing them, and keeping one's own."""

from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Body, Router, Schema, Status
from pydantic import Field
from pydantic_core import to_json

from mabrel.title.files import load_json
from studio.engine.asking import answer_now
from studio.engine.outcome import Refused
from studio.engine.shipped import shipped_arrivals
from studio.engine.work import CHECK_ARRIVAL, KEEP_ARRIVAL
from studio.titles.arrivals import (
    KnownArrival,
    all_arrivals,
    arrival_or_error,
    free_arrival_name,
    own_arrival,
)
from studio.titles.documents import ArrivalDocument, Document, sent
from studio.titles.finish_api import Label, Relabel
from studio.titles.models import Arrival
from studio.web.answers import Text, attachment, json_answer
from studio.web.errors import Fault

router = Router(tags=["arrivals"])

Seconds = Annotated[float, Field(ge=0, le=3600)]


class ArrivalSummary(Schema):
    name: str
    label: str
    help: str
    way: Literal["arrival", "departure"]
    length: float
    own: bool


class KeepArrival(Schema):
    """What of a layer moves between `start` and `end`."""

    document: Document
    layer: Annotated[str, Field(max_length=200)]
    label: Label
    way: Literal["arrival", "departure"] = "arrival"
    start: Seconds
    end: Seconds


@router.get("/arrivals", response=list[ArrivalSummary], operation_id="list_arrivals")
def list_arrivals(request: HttpRequest) -> list[KnownArrival]:
    return all_arrivals()


@router.post("/arrivals", response={201: ArrivalSummary, 422: Fault}, operation_id="keep_arrival")
def keep_arrival(request: HttpRequest, act: KeepArrival):
    """Keep the motion of a layer as an arrival or departure of one's own."""
    label = act.label.strip()
    how = {"layer": act.layer, "way": act.way, "start": act.start, "end": act.end}
    made = answer_now(
        KEEP_ARRIVAL, **sent(act.document), **how, name=free_arrival_name(label), label=label
    )
    return Status(201, _kept(made))


@router.post(
    "/arrivals/import", response={201: ArrivalSummary, 422: Fault}, operation_id="import_arrival"
)
def import_arrival(request: HttpRequest, arrival: Body[ArrivalDocument]):
    """Keep one that was exported; one of the same name that is one's own is replaced."""
    return Status(201, _kept(answer_now(CHECK_ARRIVAL, arrival=to_json(arrival))))


def _kept(text: str) -> KnownArrival:
    """Save what the engine has checked. Raises Refused."""
    document: dict[str, Any] = load_json(text)
    name, label, help, way, length = (
        document[key] for key in ("name", "label", "help", "way", "length")
    )
    if name in shipped_arrivals():
        raise Refused("", f"there is already an arrival {name!r} that ships with Mabrel")
    columns = {"label": label, "help": help, "way": way, "length": length, "document": text}
    Arrival.objects.update_or_create(name=name, defaults=columns)
    return KnownArrival(name, label, help, way, length, own=True)


@router.get("/arrivals/{name}/file", response={200: None, 422: Fault}, operation_id="arrival_file")
def arrival_file(request: HttpRequest, name: str) -> HttpResponse:
    """One as a file that can be imported elsewhere."""
    response = json_answer(Text(arrival_or_error(name)))
    response["Content-Disposition"] = attachment(f"{name}.arrival.json")
    return response


@router.patch(
    "/arrivals/{name}", response={200: ArrivalSummary, 422: Fault}, operation_id="rename_arrival"
)
def rename_arrival(request: HttpRequest, name: str, act: Relabel):
    """Another label for one of one's own; its name stays."""
    renamed = load_json(own_arrival(name).document) | {"label": act.label.strip()}
    return _kept(answer_now(CHECK_ARRIVAL, arrival=to_json(renamed)))


@router.delete("/arrivals/{name}", response={204: None, 422: Fault}, operation_id="drop_arrival")
def drop_arrival(request: HttpRequest, name: str):
    """Delete one of one's own; titles that move by it keep their pegs."""
    own_arrival(name).delete()
    return Status(204, None)
