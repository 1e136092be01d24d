"""How faults are told to the page: always a place, a rule and a sentence."""

import logging
import uuid
from typing import Any

from django.core.exceptions import SuspiciousOperation
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI, Schema
from ninja.errors import HttpError, ValidationError

from mabrel.title import TitleError
from mabrel.title.errors import place_of, rule_of
from studio.engine.outcome import EngineFault, LimitReached, Refused, Superseded

_LOG = logging.getLogger("studio.faults")


class Fault(Schema):
    """What went wrong. `place` is a path in what was sent, or empty."""

    message: str
    place: str = ""
    rule: str = ""


def add_handlers(api: NinjaAPI) -> None:
    """Turn errors into answers, so that bad input never ends in a server error."""

    def fault(request: HttpRequest, place: str, rule: str, status: int = 422) -> HttpResponse:
        message = f"{place}: {rule}" if place else rule
        return api.create_response(
            request, Fault(message=message, place=place, rule=rule).model_dump(), status=status
        )

    for kind in (TitleError, Refused):

        @api.exception_handler(kind)
        def refused(request: HttpRequest, error: Any) -> HttpResponse:
            return fault(request, error.place, error.rule)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first: Any = error.errors[0]
        # ninja's place starts with "body" and the parameter's name
        return fault(request, place_of(first["loc"][2:]), rule_of(first))

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return fault(request, "", "This is not there, or not any more.", 404)

    @api.exception_handler(LimitReached)
    def limited(request: HttpRequest, error: LimitReached) -> HttpResponse:
        return fault(request, "", str(error), 503)

    @api.exception_handler(Superseded)
    def stopping(request: HttpRequest, error: Superseded) -> HttpResponse:
        return fault(request, "", "The studio stops just now: try it again in a moment.", 503)

    for kind in (OperationalError, OSError):

        @api.exception_handler(kind)
        def unwritten(request: HttpRequest, error: Exception) -> HttpResponse:
            _LOG.error("%s %s: %s", request.method, request.path, error)
            said = "The studio could not read or write: is its disk full, or is it busy?"
            return fault(request, "", f"{said} ({_reason(error)})", 503)

    for kind in (SuspiciousOperation, MultiPartParserError):

        @api.exception_handler(kind)
        def malformed(request: HttpRequest, error: Exception) -> HttpResponse:
            """A form that is none, or that has more parts than it may."""
            return fault(request, "", f"This can't be read: {error}", 400)

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        cause = error.__cause__  # ninja hides what the parser said
        rule = str(cause) if isinstance(cause, TitleError) else str(error)
        return fault(request, "", rule, error.status_code)

    @api.exception_handler(Exception)
    def faulty(request: HttpRequest, error: Exception) -> HttpResponse:
        """A fault of ours: the log has all of it, the page a number to ask for."""
        number = uuid.uuid4().hex[:12]
        told = error.args[0] if isinstance(error, EngineFault) else ""
        _LOG.error(
            "fault %s at %s %s\n%s", number, request.method, request.path, told, exc_info=error
        )
        said = f"Something went wrong in the studio, not in your work. Its log has it as {number}."
        return fault(request, "", said, 500)


def _reason(error: Exception) -> str:
    """In words, without a path of this machine."""
    return error.strerror or "" if isinstance(error, OSError) else str(error)
