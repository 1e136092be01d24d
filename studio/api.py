"""The API under /api, put together from the apps."""

from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.parser import Parser

from mabrel.title.files import load_json
from studio.accounts.views import router as accounts_router
from studio.bundles.api import router as bundles_router
from studio.exports.jobs_api import router as jobs_router
from studio.library.api import router as library_router
from studio.library.arriving_api import router as arriving_router
from studio.preview.api import router as preview_router
from studio.preview.arrivals_api import router as arrival_films_router
from studio.preview.catalogue_api import router as catalogue_router
from studio.preview.readings_api import router as readings_router
from studio.preview.strips_api import router as strips_router
from studio.titles.api import router as titles_router
from studio.titles.arrival_api import router as arrival_router
from studio.titles.finish_api import router as finish_router
from studio.titles.look_api import router as look_router
from studio.titles.marks_api import router as marks_router
from studio.titles.sets_api import router as sets_router
from studio.web.errors import add_handlers
from studio.web.limits import MOST_VALUES


class StrictParser(Parser):
    """JSON without NaN and infinity; TitleError names the line."""

    def parse_body(self, request: HttpRequest) -> Any:
        return load_json(request.body, MOST_VALUES)


api = NinjaAPI(title="Mabrel", version="1", parser=StrictParser(), docs_url=None)
add_handlers(api)
# Fixed paths come before those with a title's id, or a name.
for router in (
    accounts_router,
    sets_router,
    bundles_router,
    titles_router,
    marks_router,
    look_router,
    finish_router,
    arrival_films_router,
    arrival_router,
    library_router,
    arriving_router,
    catalogue_router,
    preview_router,
    readings_router,
    strips_router,
    jobs_router,
):
    api.add_router("", router)
