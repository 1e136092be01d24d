"""Acts on many titles at once, and how they are taken back."""

from collections.abc import Callable, Iterable
from uuid import UUID

from django.db import transaction
from ninja import Schema

from mabrel import Title as Document
from studio.titles.models import Revision, Title


class Changed(Schema):
    """A title that an act changed: from `before` to `version`."""

    id: UUID
    name: str
    before: int
    version: int


def change_all(titles: Iterable[Title], change: Callable[[Document], Document]) -> list[Changed]:
    """Save a change of each title, or of none where one of them fails."""
    changed = []
    with transaction.atomic():
        for title in titles:
            before = title.version
            title.save_version(before, change(title.parsed))
            changed.append(
                Changed(id=title.id, name=title.name, before=before, version=title.version)
            )
    return changed


def take_back(changed: list[Changed]) -> list[str]:
    """Give each title its state before an act again; the names of those that were changed since
    and stay as they are."""
    left = []
    with transaction.atomic():
        for each in changed:
            title = Title.objects.present().filter(pk=each.id).first()
            before = Revision.objects.filter(title=each.id, version=each.before).first()
            if title is None or before is None or title.version != each.version:
                left.append(each.name)
                continue
            title.save_version(title.version, before.parsed)
    return left
