"""All finishes that a user can choose: those that ship and the user's own."""

import re
from typing import NamedTuple

from studio.engine.outcome import Refused
from studio.engine.shipped import shipped_finishes
from studio.titles.models import Finish


class KnownFinish(NamedTuple):
    """What a list needs of a finish."""

    name: str
    label: str
    help: str
    own: bool
    scene: bool


class ChosenFinish(NamedTuple):
    """A finish to be used; `text` is its document."""

    name: str
    text: str
    scene: bool


def all_finishes() -> list[KnownFinish]:
    """Brass comes first, one's own last."""
    first = [
        KnownFinish(each.name, each.label, each.help, own=False, scene=each.camera is not None)
        for each in shipped_finishes().values()
    ]
    own = Finish.objects.order_by("-created_at").values_list("name", "label", "help", "scene")
    return first + [KnownFinish(name, label, help, True, scene) for name, label, help, scene in own]


def finish_or_error(name: str) -> ChosenFinish:
    """The finish of this name. Raises Refused."""
    shipped = shipped_finishes().get(name)
    if shipped is not None:
        return ChosenFinish(name, shipped.model_dump_json(), shipped.camera is not None)
    own = Finish.objects.filter(name=name).first()
    if own is None:
        raise Refused("", f"there is no finish {name!r}")
    return ChosenFinish(name, own.document, own.scene)


def slug(label: str, what: str) -> str:
    """A name made of a label. Raises Refused where it has neither letters nor digits."""
    name = re.sub(r"[^a-z0-9]+", "-", label.lower()).strip("-")[:64].strip("-")
    if not name:
        raise Refused("", f"{what} needs a name with letters or digits")
    return name


def free_name(label: str) -> str:
    """A name made of a label, which no finish that ships has. Raises Refused."""
    name = slug(label, "a finish")
    if name in shipped_finishes():
        raise Refused("", f"there is already a finish {label!r} that ships with Mabrel")
    return name


def own_or_error(name: str) -> Finish:
    """One's own finish. Raises Refused."""
    own = Finish.objects.filter(name=name).first()
    if own is None:
        raise Refused("", f"there is no finish of your own called {name!r}")
    return own
