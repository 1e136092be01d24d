"""Logging in and out, and who is there."""

import re

from django.conf import settings
from django.contrib.auth.views import LoginView
from django.http import HttpRequest
from ninja import Router, Schema

router = Router(tags=["accounts"])


class Person(Schema):
    """`name` is null in a studio without a login."""

    name: str | None


@router.get("/person", response=Person, operation_id="get_person")
def get_person(request: HttpRequest) -> Person:
    """Who asks."""
    user = getattr(request, "user", None)
    return Person(name=user.get_username() if user is not None else None)


class Login(LoginView):
    """Looks like the page it leads to: with the built front end's own style sheet."""

    template_name = "accounts/login.html"
    redirect_authenticated_user = True

    def get_context_data(self, **context):
        index = settings.FRONT_DIR / "index.html"
        page = index.read_text() if index.exists() else ""
        sheets = re.findall(r'<link[^>]*rel="stylesheet"[^>]*href="([^"]+)"', page)
        return super().get_context_data(sheets=sheets, **context)
