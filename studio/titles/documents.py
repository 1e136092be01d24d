"""Documents as they come from the page: one door for all of them.

The web process passes them on as they were sent; an engine process reads and checks them. What it
gives back is what is kept and what the page sees.
"""

from collections.abc import Sequence
from typing import Annotated, Any

from django.conf import settings
from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import core_schema, to_json

from mabrel.title import Finish, Title
from mabrel.title.arrival import Arrival
from studio.engine.asking import answer_now
from studio.engine.outcome import Checked
from studio.engine.work import CHECK
from studio.web.answers import Text


class _Sent:
    """An object as it was sent. In the API's description it is the engine's own model."""

    def __init__(self, model: Any) -> None:
        self._model = model

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> Any:
        return core_schema.dict_schema()

    def __get_pydantic_json_schema__(self, schema: Any, handler: GetJsonSchemaHandler) -> Any:
        return handler(self._model.__pydantic_core_schema__)


Document = Annotated[dict[str, Any], _Sent(Title)]
FinishDocument = Annotated[dict[str, Any], _Sent(Finish)]
ArrivalDocument = Annotated[dict[str, Any], _Sent(Arrival)]


def home() -> str:
    """The folder in which the pictures and fonts of all titles lie."""
    return str(settings.LIBRARY_DIR)


def sent(document: dict[str, Any]) -> dict[str, Any]:
    """What the engine is asked about a document that a page has sent."""
    return {"document": to_json(document), "home": home()}


def all_checked(documents: Sequence[dict[str, Any]]) -> list[Checked]:
    """Documents that a page has sent, read and checked. Raises Refused with the first fault."""
    return list(answer_now(CHECK, documents=[to_json(each) for each in documents], home=home()))


def checked(document: dict[str, Any]) -> Checked:
    """One of them."""
    (found,) = all_checked([document])
    return found


def opened(text: str) -> Text:
    """A document that is kept, as it is now: migrated, and checked again. Raises Refused."""
    (found,) = answer_now(CHECK, documents=[text.encode()], home=home())
    return Text(found.text)
