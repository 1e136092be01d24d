"""Fill an empty shelf with the demo titles."""

from django.conf import settings
from django.core.management.base import BaseCommand

from mabrel import read_title
from studio.titles.models import Title


class Command(BaseCommand):
    help = "Puts the titles of demo/titles on the shelf, unless there are titles already."

    def handle(self, *args: object, **options: object) -> None:
        if Title.objects.exists():
            return
        paths = sorted((settings.BASE_DIR / "demo" / "titles").glob("*.title.json"), reverse=True)
        # The opening comes last, and so stands first on the shelf.
        for path in sorted(paths, key=lambda each: each.stem.startswith("foghorn")):
            Title.keep(read_title(path))
