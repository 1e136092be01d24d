"""What the pictures and readings share: asking the desk, and what is asked for."""

import asyncio
from typing import Annotated, Any

from ninja import Status
from pydantic import Field

from mabrel.render import Cancel, Renderer
from mabrel.title import TitleError
from studio.preview.desk import Superseded, Urgency, desk

Session = Annotated[str, Field(min_length=1, max_length=64)]
Pixels = Annotated[int, Field(ge=8, le=2000)]


def checking_layer(ask: Any, work: Any) -> Any:
    """A layer that is not there is the asker's fault, not the server's."""

    def checked(renderer: Renderer, cancel: Cancel) -> Any:
        try:
            ask.document.layer(ask.layer)
        except KeyError:
            raise TitleError("layer", f"there is no layer {ask.layer!r}") from None
        return work(renderer, cancel)

    return checked


async def done(lane: str, urgency: Urgency, work: Any) -> Any:
    """Wait for the desk; 204 where a newer request took this one's place."""
    job = desk.submit(lane, urgency, work)
    try:
        return await asyncio.wrap_future(job.future)
    except Superseded:
        return Status(204, None)
    except asyncio.CancelledError:  # the page has gone
        job.drop()
        raise
