"""Which titles, marks and finishes use which file."""

from collections import defaultdict
from typing import Literal, NamedTuple
from uuid import UUID

from studio.engine.asking import answer_now
from studio.engine.work import REPLACE
from studio.titles.bulk_changes import Changed, change_all
from studio.titles.documents import home
from studio.titles.models import Finish, Mark, Title

Where = Literal["title", "removed", "mark", "finish"]
_TITLES = ("title", "removed")


class Use(NamedTuple):
    """`title` is None for a finish. Removed titles and marks can be brought back, so what they use
    is used too."""

    name: str
    where: Where
    title: UUID | None


def uses_of_files() -> dict[str, list[Use]]:
    """By the name of a file, what uses it."""
    uses: dict[str, list[Use]] = defaultdict(list)
    titles = Title.objects.order_by("-changed_at").values_list("id", "name", "files", "removed_at")
    for id, name, files, removed_at in titles:
        for file in files:
            uses[file].append(Use(name, "removed" if removed_at else "title", id))
    marks = Mark.objects.values_list("title_id", "title__name", "name", "files")
    for id, title, name, files in marks:
        for file in files:
            uses[file].append(Use(f"{title}: {name}", "mark", id))
    for label, files in Finish.objects.values_list("label", "files"):
        for file in files:
            uses[file].append(Use(label, "finish", None))
    return uses


def replace_everywhere(before: str, after: str) -> list[Changed]:
    """The file `after` in every title that uses `before`, removed ones too, all or none; and in
    their marks."""
    users = [use.title for use in uses_of_files().get(before, []) if use.where in _TITLES]
    changed = change_all([each for each in users if each], REPLACE, files={before: after})
    for mark in Mark.objects.all():
        if before in mark.files:
            how = {"documents": [mark.document.encode()], "home": home()}
            (found,) = answer_now(REPLACE, **how, files={before: after})
            mark.document, mark.files = found.text, found.files
            mark.save(update_fields=["document", "files"])
    return changed
