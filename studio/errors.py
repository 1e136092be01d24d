"""How faults are told to the page: always a place, a rule and a sentence."""

from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import HttpError, ValidationError

from mabrel.compose.finishes import FinishError
from mabrel.render import RenderError
from mabrel.source import FontError, LibraryError, PictureError
from mabrel.title import TitleError
from mabrel.title.errors import place_of, rule_of


class Fault(Schema):
    """What went wrong. `place` is a path in what was sent, or empty."""

    message: str
    place: str = ""
    rule: str = ""


def add_handlers(api: NinjaAPI) -> None:
    """Turn the engine's errors into answers, so that bad input never ends in a server error."""

    def fault(request: HttpRequest, place: str, rule: str, status: int = 422) -> HttpResponse:
        message = f"{place}: {rule}" if place else rule
        return api.create_response(
            request, Fault(message=message, place=place, rule=rule).model_dump(), status=status
        )

    @api.exception_handler(TitleError)
    def title_error(request: HttpRequest, error: TitleError) -> HttpResponse:
        return fault(request, error.place, error.rule)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first: Any = error.errors[0]
        # ninja's place starts with "body" and the parameter's name
        return fault(request, place_of(first["loc"][2:]), rule_of(first))

    for kind in (RenderError, FontError, PictureError, LibraryError, FinishError):

        @api.exception_handler(kind)
        def refused(request: HttpRequest, error: Exception) -> HttpResponse:
            return fault(request, "", str(error))

    for kind in (OperationalError, OSError):

        @api.exception_handler(kind)
        def unwritten(request: HttpRequest, error: Exception) -> HttpResponse:
            return fault(request, "", f"The studio could not read or write: {error}.", 503)

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        cause = error.__cause__  # ninja hides what the parser said
        rule = str(cause) if isinstance(cause, TitleError) else str(error)
        return fault(request, "", rule, error.status_code)
