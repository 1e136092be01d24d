"""What the pictures and readings share."""

from typing import Annotated, Any

from django.http import HttpResponse
from ninja import Status
from pydantic import Field

from studio.engine.asking import answer
from studio.engine.outcome import Superseded
from studio.engine.work import Urgency, Work

Session = Annotated[str, Field(min_length=1, max_length=64)]
Lane = Annotated[str, Field(max_length=64)]
LayerName = Annotated[str, Field(max_length=200)]
StepName = Annotated[str, Field(max_length=64)]
Pixels = Annotated[int, Field(ge=8, le=2000)]
Seconds = Annotated[float, Field(ge=0, le=86_400)]
Number = Annotated[float, Field(allow_inf_nan=False)]


async def done(
    work: Work, page: str, lane: str = "", urgency: Urgency | None = None, **ask: Any
) -> Any:
    """The engine's answer; 204 where a newer request took this one's place."""
    try:
        return await answer(work, page, f"{page} {lane}" if lane else "", urgency, **ask)
    except Superseded:
        return Status(204, None)


async def png(
    work: Work, page: str, lane: str = "", urgency: Urgency | None = None, **ask: Any
) -> Any:
    """The same for a picture."""
    content = await done(work, page, lane, urgency, **ask)
    return (
        HttpResponse(content, content_type="image/png") if isinstance(content, bytes) else content
    )
