"""Documents as they come from the page: their files lie in the studio's library."""

from typing import Annotated

from django.conf import settings
from pydantic import AfterValidator

from mabrel import Title


def at_home(document: Title) -> Title:
    """The document, its pictures and fonts in the studio's library."""
    return document.at_home(settings.LIBRARY_DIR)


Document = Annotated[Title, AfterValidator(at_home)]
