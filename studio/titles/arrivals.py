"""All arrivals and departures that a user can choose: those that ship and the user's own."""

from typing import NamedTuple

from studio.engine.outcome import Refused
from studio.engine.shipped import shipped_arrivals
from studio.titles.finishes import slug
from studio.titles.models import Arrival


class KnownArrival(NamedTuple):
    """What a list needs of one; `length` is in seconds."""

    name: str
    label: str
    help: str
    way: str
    length: float
    own: bool


def all_arrivals() -> list[KnownArrival]:
    """Those that ship, then one's own, the last kept first."""
    shipped = [
        KnownArrival(each.name, each.label, each.help, each.way, each.length, own=False)
        for each in shipped_arrivals().values()
    ]
    columns = ("name", "label", "help", "way", "length")
    own = Arrival.objects.order_by("-created_at").values_list(*columns)
    return shipped + [KnownArrival(*row, own=True) for row in own]


def arrival_or_error(name: str) -> str:
    """The document of the one with this name. Raises Refused."""
    shipped = shipped_arrivals().get(name)
    if shipped is not None:
        return shipped.model_dump_json()
    return own_arrival(name).document


def own_arrival(name: str) -> Arrival:
    """One's own. Raises Refused."""
    own = Arrival.objects.filter(name=name).first()
    if own is None:
        raise Refused("", f"there is no arrival of your own called {name!r}")
    return own


def free_arrival_name(label: str) -> str:
    """A name made of a label, which none that ships has. Raises Refused."""
    name = slug(label, "an arrival")
    if name in shipped_arrivals():
        raise Refused("", f"there is already an arrival {label!r} that ships with Mabrel")
    return name
