"""Render what the shelf shows first, so that nobody has to wait for it."""

from collections.abc import Callable
from functools import partial

from django.core.management.base import BaseCommand, CommandParser

from studio.engine.jobs.pictures import finish_strip, strip
from studio.engine.kept import kept_on_disk
from studio.engine.limits import LIMITS
from studio.engine.process import new_tools
from studio.engine.shipped import shipped_finishes
from studio.engine.work import Role
from studio.preview import strips
from studio.titles.finishes import finish_or_error
from studio.titles.models import Title

# As frontend/src/views/Shelf.vue and its cards ask for them.
WORD, FONT, FRAME = "HARBOUR", "Titan One", (1920, 1080)
FINISH_SIZE, TITLE_SIZE = (600, 168), (800, 224)


class Command(BaseCommand):
    help = "Renders the strips of the shelf that are not kept yet: a word in every finish, titles."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--word", default=WORD)

    def handle(self, *args: object, word: str, **options: object) -> None:
        tools = new_tools(LIMITS[Role.BACKGROUND])
        for name in shipped_finishes():
            finish = finish_or_error(name)
            key, ask = strips.of_finish(finish, word, FONT, FRAME, None, FINISH_SIZE)
            _keep(key, partial(finish_strip, tools, **ask))
        for title in Title.objects.present():
            key, ask = strips.of_title(title, TITLE_SIZE)
            _keep(key, partial(strip, tools, **ask))


def _keep(key: str, render: Callable[[], bytes]) -> None:
    if kept_on_disk().get(key) is None:
        kept_on_disk().put(key, render())
