"""How the web process asks the engine."""

import asyncio
import uuid
from functools import cache
from typing import Any

from django.conf import settings

from mabrel.steps import kinds
from studio.engine.desk import Desk
from studio.engine.work import Urgency, Work


@cache
def desk() -> Desk:
    """The one desk of this web process."""
    return Desk(warm_parts=1 + len(kinds()) if settings.ENGINE_WARMS else 0)


async def answer(
    work: Work, page: str, lane: str = "", urgency: Urgency | None = None, **ask: Any
) -> Any:
    """Wait for the engine. Where the one who asked goes away, so does the job.

    Raises Refused, LimitReached, EngineFault, and Superseded where a newer request on the lane
    took its place.
    """
    job = desk().submit(work, page, lane or _own_lane(work), ask, urgency)
    try:
        return await asyncio.wrap_future(job.future)
    except asyncio.CancelledError:
        desk().drop(job)
        raise


def answer_now(work: Work, page: str = "", **ask: Any) -> Any:
    """The same for views that run in a thread."""
    return desk().submit(work, page or "anybody", _own_lane(work), ask).future.result()


def _own_lane(work: Work) -> str:
    return f"{work.name} {uuid.uuid4()}"
