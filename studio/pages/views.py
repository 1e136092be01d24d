"""The one page; its script chooses the view."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    index = settings.FRONT_DIR / "index.html"
    if not index.exists():
        return HttpResponse(
            "The front end is not built yet: run `make setup`.",
            status=503,
            content_type="text/plain",
        )
    response = HttpResponse(index.read_bytes())
    response["Cache-Control"] = "no-cache"
    return response
