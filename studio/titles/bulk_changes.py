"""Acts on many titles at once, and how they are taken back."""

from collections.abc import Iterable
from pathlib import Path
from typing import Annotated, Any
from uuid import UUID

from django.db import transaction
from ninja import Schema
from pydantic import Field

from studio.engine.asking import answer_now
from studio.engine.outcome import Checked, Refused
from studio.engine.work import CHECK, Work
from studio.titles.documents import home
from studio.titles.models import Revision, Stale, Title

_TRIES = 3


class Changed(Schema):
    """A title that an act changed: from `before` to `version`."""

    id: UUID
    name: str
    before: Annotated[int, Field(ge=0, le=2**31 - 1)]
    version: Annotated[int, Field(ge=0, le=2**31 - 1)]


def change_all(ids: Iterable[UUID], work: Work, **ask: Any) -> list[Changed]:
    """Let the engine change each title, and save them all, or none where one of them fails.

    While it works nothing is locked; where a title was saved meanwhile, it is done again. Raises
    Refused.
    """
    wanted = list(ids)
    for _ in range(_TRIES):
        titles = list(Title.objects.filter(pk__in=wanted))
        if not titles:
            return []
        documents = [title.document.encode() for title in titles]
        found: list[Checked] = answer_now(work, documents=documents, home=home(), **ask)
        try:
            with transaction.atomic():
                return [_changed(*each) for each in zip(titles, found, strict=True)]
        except Stale:
            continue
    raise Refused("", "these titles are being changed by somebody else just now: try it again")


def _changed(title: Title, checked: Checked) -> Changed:
    before = title.version
    title.save_version(before, checked)
    return Changed(id=title.id, name=title.name, before=before, version=title.version)


def take_back(changed: list[Changed]) -> list[str]:
    """Give each title its state before an act again; the names of those that stay as they are,
    since they were changed meanwhile or need what was deleted."""
    left = []
    for each in changed:
        title = Title.objects.filter(pk=each.id).first()
        before = Revision.objects.filter(title=each.id, version=each.before).first()
        if title is None or before is None or title.version != each.version:
            left.append(each.name)
            continue
        try:
            (checked,) = answer_now(CHECK, documents=[before.document.encode()], home=home())
            if not all((Path(home()) / name).is_file() for name in checked.files):
                raise Refused("", "a file that it used was deleted")
            title.save_version(each.version, checked)
        except (Refused, Stale):
            left.append(each.name)
    return left
