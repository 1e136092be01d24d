"""What every answer tells the browser about who may use it."""

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import HttpRequest, HttpResponseBase

POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)
_ALWAYS = {
    "Content-Security-Policy": POLICY,
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "same-origin",
    "Permissions-Policy": "camera=(), microphone=(), geolocation=()",
}


def protecting_headers(get_response):
    """Middleware: the page's policy on every answer, also on files; a view may set one of its
    own."""

    def protected(response: HttpResponseBase) -> HttpResponseBase:
        for name, value in _ALWAYS.items():
            response.headers.setdefault(name, value)
        return response

    if iscoroutinefunction(get_response):

        async def answered(request: HttpRequest) -> HttpResponseBase:
            return protected(await get_response(request))

        markcoroutinefunction(answered)
    else:

        def answered(request: HttpRequest) -> HttpResponseBase:
            return protected(get_response(request))

    return answered


protecting_headers.sync_capable = True
protecting_headers.async_capable = True
