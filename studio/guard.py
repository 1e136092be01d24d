"""Keeps other web pages from writing into a studio that runs on the same machine."""

from urllib.parse import urlsplit

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import HttpRequest, HttpResponseBase, JsonResponse

_SAFE = ("GET", "HEAD", "OPTIONS")


def same_origin_only(get_response):
    """Middleware: a request that changes anything must come from one of the studio's pages."""

    if iscoroutinefunction(get_response):

        async def guarded(request: HttpRequest) -> HttpResponseBase:
            return _refusal(request) or await get_response(request)

        markcoroutinefunction(guarded)
    else:

        def guarded(request: HttpRequest) -> HttpResponseBase:
            return _refusal(request) or get_response(request)

    return guarded


same_origin_only.sync_capable = True
same_origin_only.async_capable = True


def _refusal(request: HttpRequest) -> HttpResponseBase | None:
    origin = request.headers.get("Origin")
    if request.method in _SAFE or origin is None:
        return None
    if urlsplit(origin).netloc == request.get_host():
        return None
    return JsonResponse({"message": "This request comes from another site."}, status=403)
