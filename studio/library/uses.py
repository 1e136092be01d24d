"""Which titles and finishes use which file."""

from collections import defaultdict
from typing import NamedTuple
from uuid import UUID

from mabrel.steps import files_of, files_of_build, with_file
from studio.titles.many import Changed, change_all
from studio.titles.models import Finish, Title


class Use(NamedTuple):
    """`title` is None for a finish."""

    name: str
    title: UUID | None


def uses_of_files() -> dict[str, list[Use]]:
    """By the name of a file, what uses it: titles on the shelf and finishes of one's own."""
    uses: dict[str, list[Use]] = defaultdict(list)
    for title in Title.objects.present():
        for name in files_of(title.parsed):
            uses[name].append(Use(title.name, title.id))
    for finish in Finish.objects.all():
        for name in files_of_build(finish.parsed.build):
            uses[name].append(Use(finish.parsed.label, None))
    return uses


def replace_everywhere(before: str, after: str) -> list[Changed]:
    """The file `after` in every title that uses `before`, all or none."""
    users = {use.title for use in uses_of_files().get(before, [])}
    titles = Title.objects.present().filter(pk__in=[each for each in users if each])
    return change_all(titles, lambda document: with_file(document, before, after))
