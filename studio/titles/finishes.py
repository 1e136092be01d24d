"""All finishes that a user can choose: those that ship and the user's own."""

import re

from mabrel.compose import finishes as shipped
from mabrel.compose.finishes import FinishError
from mabrel.source import letter_height
from mabrel.title import Finish as FinishDocument
from mabrel.title import Lettering, Title, value_at
from studio.titles.models import Finish


def all_finishes() -> list[tuple[FinishDocument, bool]]:
    """Each finish, and whether it is the user's own. Brass comes first."""
    first = sorted(shipped().values(), key=lambda each: (each.name != "ship-brass", each.label))
    own = [kept.parsed for kept in Finish.objects.order_by("-created_at")]
    return [(finish, False) for finish in first] + [(finish, True) for finish in own]


def finish_or_error(name: str) -> FinishDocument:
    """The finish of this name. Raises FinishError."""
    if name in shipped():
        return shipped()[name]
    try:
        return Finish.objects.get(name=name).parsed
    except Finish.DoesNotExist:
        raise FinishError(f"there is no finish {name!r}") from None


def finish_from_layer(document: Title, lettering: Lettering, label: str) -> FinishDocument:
    """A finish made of a layer's build and the title's lights. Raises FinishError."""
    name = re.sub(r"[^a-z0-9]+", "-", label.lower()).strip("-")[:64].strip("-")
    if not name:
        raise FinishError("a finish needs a name with letters or digits")
    if name in shipped():
        raise FinishError(f"there is already a finish {label!r} that ships with Mabrel")
    source = lettering.source
    tall = letter_height(source.font, source.style, value_at(source.size, 0.0))
    return FinishDocument(
        name=name,
        label=label.strip()[:100],
        letter_height=tall,
        lights=document.lights,
        build=lettering.build,
        grounds=[layer for layer in document.layers if layer.kind == "backdrop"],
    )
