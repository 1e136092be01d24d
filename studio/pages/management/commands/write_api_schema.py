"""Write the OpenAPI document, from which the front end's types are made."""

import json
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from studio.api import api


class Command(BaseCommand):
    help = "Writes the OpenAPI document of the API to a file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("path", type=Path)

    def handle(self, *args: object, path: Path, **options: object) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(json.dumps(api.get_openapi_schema(), indent=1) + "\n")
