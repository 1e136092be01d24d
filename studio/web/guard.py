"""Keeps other web pages, and other machines, out of a studio that is meant for one person."""

from ipaddress import ip_address
from urllib.parse import urlsplit

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponseBase, JsonResponse

from studio.web.limits import ARRIVING

_SAFE = ("GET", "HEAD", "OPTIONS")
_JSON = "application/json"
_FORM = "multipart/form-data"
_PIECE = "application/offset+octet-stream"
_UPLOADS = ("/api/library", "/api/titles/import")


def same_origin_only(get_response):
    """Middleware: what the API is asked must come from one of the studio's pages, or from no page
    at all; what it is sent must be what it says. Without a login, from this machine alone."""

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
    try:
        request.get_host()  # a name of somebody else's may lead to this machine (DNS rebinding)
    except DisallowedHost:
        return _said("This studio is not reached under that name.", 400)
    if not settings.LOGIN_NEEDED and not _is_here(request.META.get("REMOTE_ADDR", "")):
        return _said("This studio is for the machine that it runs on.", 403)
    if not request.path.startswith("/api/") and request.method in _SAFE:
        return None
    if _from_elsewhere(request):
        return _said("This request comes from another site.", 403)
    if request.path.startswith("/api/") and request.method not in _SAFE:
        return _wrong_kind(request)
    return None


def _is_here(address: str) -> bool:
    """Whether an address is this machine's own; none at all is a socket of its own."""
    try:
        return not address or ip_address(address).is_loopback
    except ValueError:
        return False


def _from_elsewhere(request: HttpRequest) -> bool:
    """By what browsers say of a request (Fetch Metadata, and RFC 6454)."""
    if request.headers.get("Sec-Fetch-Site", "none") not in ("same-origin", "none"):
        return True
    origin = request.headers.get("Origin")
    return origin is not None and urlsplit(origin).netloc != request.get_host()


def _wrong_kind(request: HttpRequest) -> HttpResponseBase | None:
    """A form that another site's page could send without asking is no JSON."""
    kind = request.headers.get("Content-Type", "").partition(";")[0].strip().lower()
    if not kind and request.headers.get("Content-Length", "0") == "0":
        return None
    wanted = _JSON
    if request.method == "POST" and request.path in _UPLOADS:
        wanted = _FORM
    elif request.method == "PATCH" and request.path.startswith(ARRIVING):
        wanted = _PIECE
    if kind == wanted:
        return None
    return _said(f"This must be sent as {wanted}, not as {kind or 'nothing'}.", 415)


def _said(message: str, status: int) -> JsonResponse:
    return JsonResponse({"message": message, "place": "", "rule": message}, status=status)
