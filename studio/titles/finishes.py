"""All finishes that a user can choose: those that ship and the user's own."""

import re

from mabrel.compose import finishes as shipped
from mabrel.compose import look_height
from mabrel.compose.finishes import FinishError, parse_finish
from mabrel.steps import build_refers_to
from mabrel.title import Backdrop, Camera, Floor, Placed, Placement, Title, Wash
from mabrel.title import Finish as FinishDocument
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


def finish_from_layer(document: Title, lettering: Placed, label: str) -> FinishDocument:
    """A finish made of a layer's build and the title's lights, grounds, washes and camera.

    Raises FinishError.
    """
    name = _free_name(label)
    grounds = [layer for layer in document.layers if isinstance(layer, Backdrop | Floor)]
    washes = [layer for layer in document.layers if isinstance(layer, Wash)]
    for layer in (lettering, *grounds, *washes):
        if next(build_refers_to(layer.build, ()), None) is not None:
            raise FinishError("this look shows another layer, which a finish can't bring along")
    stands = document.camera != Camera() or lettering.placement != Placement()
    return FinishDocument(
        name=name,
        label=label.strip()[:100],
        letter_height=look_height(document, lettering),
        lights=document.lights,
        build=lettering.build,
        grounds=grounds,
        washes=washes,
        camera=document.camera if stands else None,
        placement=lettering.placement if stands else None,
    )


def _free_name(label: str) -> str:
    name = re.sub(r"[^a-z0-9]+", "-", label.lower()).strip("-")[:64].strip("-")
    if not name:
        raise FinishError("a finish needs a name with letters or digits")
    if name in shipped():
        raise FinishError(f"there is already a finish {label!r} that ships with Mabrel")
    return name


def checked_finish(finish: FinishDocument) -> FinishDocument:
    """A finish from elsewhere, its steps held against the catalogue. Raises TitleError and
    FinishError."""
    if finish.name in shipped():
        raise FinishError(f"there is already a finish {finish.name!r} that ships with Mabrel")
    return parse_finish(finish.model_dump_json(), finish.name)


def relabelled(name: str, label: str) -> FinishDocument:
    """One's own finish under another label. Raises FinishError."""
    try:
        kept = Finish.objects.get(name=name)
    except Finish.DoesNotExist:
        raise FinishError(f"there is no finish of your own called {name!r}") from None
    finish = kept.parsed.model_copy(update={"label": label.strip()[:100]})
    Finish.keep(finish)
    return finish
