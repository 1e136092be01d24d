"""Nothing but the login is there for somebody who has not logged in."""

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.contrib.auth import aget_user, get_user
from django.contrib.auth.views import redirect_to_login
from django.http import HttpRequest, HttpResponseBase, JsonResponse
from django.urls import reverse


def login_first(get_response):
    """Middleware: the API answers 401, pages lead to the login."""

    if iscoroutinefunction(get_response):

        async def passed(request: HttpRequest) -> HttpResponseBase:
            if not _open(request) and not (await aget_user(request)).is_authenticated:
                return _stopped(request)
            return await get_response(request)

        markcoroutinefunction(passed)
    else:

        def passed(request: HttpRequest) -> HttpResponseBase:
            if not _open(request) and not get_user(request).is_authenticated:
                return _stopped(request)
            return get_response(request)

    return passed


login_first.sync_capable = True
login_first.async_capable = True


def _open(request: HttpRequest) -> bool:
    return request.path in (reverse("login"), reverse("logout"))


def _stopped(request: HttpRequest) -> HttpResponseBase:
    if request.path.startswith("/api/"):
        said = "Log in first."
        return JsonResponse({"message": said, "place": "", "rule": said}, status=401)
    return redirect_to_login(request.get_full_path())
