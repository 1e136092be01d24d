"""The API under /api, put together from the apps."""

from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.parser import Parser

from mabrel.title.files import load_json
from studio.errors import add_handlers
from studio.preview.api import router as preview_router
from studio.preview.catalogue_api import router as catalogue_router
from studio.preview.readings_api import router as readings_router
from studio.preview.strips_api import router as strips_router
from studio.titles.api import router as titles_router
from studio.titles.finish_api import router as finish_router


class StrictParser(Parser):
    """JSON without NaN and infinity; TitleError names the line."""

    def parse_body(self, request: HttpRequest) -> Any:
        return load_json(request.body)


api = NinjaAPI(title="Mabrel", version="1", parser=StrictParser(), docs_url=None)
add_handlers(api)
api.add_router("", titles_router)
api.add_router("", finish_router)
api.add_router("", catalogue_router)
api.add_router("", preview_router)
api.add_router("", readings_router)
api.add_router("", strips_router)
