"""Fill an empty shelf with the demo titles."""

import shutil

from django.conf import settings
from django.core.management.base import BaseCommand

from mabrel import read_title
from studio.engine.jobs.documents import checked
from studio.library.files import PICTURES
from studio.titles.models import Title


class Command(BaseCommand):
    help = (
        "Puts the titles and pictures of demo/titles in the studio, unless it has titles already."
    )

    def handle(self, *args: object, **options: object) -> None:
        if Title.objects.exists():
            return
        folder = settings.BASE_DIR / "demo" / "titles"
        settings.LIBRARY_DIR.mkdir(parents=True, exist_ok=True)
        shots = settings.BASE_DIR / "var" / "demo"  # made at set-up
        for place in (folder, shots):
            for picture in place.iterdir() if place.is_dir() else ():
                if picture.suffix in PICTURES:
                    shutil.copy(picture, settings.LIBRARY_DIR / picture.name)
        paths = sorted(folder.glob("*.title.json"), reverse=True)
        # The opening comes last, and so stands first on the shelf.
        for path in sorted(paths, key=lambda each: each.stem.startswith("foghorn")):
            Title.keep(checked(read_title(path)))
