"""How far something is that is made in the background."""

from typing import TypeVar

from django.http import Http404
from ninja import Schema

from studio.exports.background import Making

M = TypeVar("M", bound=Making)


def known(job: M | None) -> M:
    """What was found under an id. Raises Http404 where that is nothing."""
    if job is None:
        raise Http404
    return job


class MakingState(Schema):
    """`remaining` is an estimate in seconds; `ready` says that it can be fetched."""

    id: str
    done: int
    all: int
    remaining: float | None
    ready: bool
    fault: str

    @classmethod
    def of(cls, job: Making) -> "MakingState":
        return cls(
            id=job.id,
            done=job.done,
            all=job.all,
            remaining=job.remaining,
            ready=job.path is not None,
            fault=job.fault,
        )
