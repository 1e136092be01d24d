"""How a job ends: what the one who asked for it is told."""

import logging
from concurrent.futures import CancelledError, InvalidStateError
from concurrent.futures.process import BrokenProcessPool

import pebble

from studio.engine.limits import LIMITS
from studio.engine.line import Job
from studio.engine.outcome import End, EngineFault, LimitReached, Outcome, Refused, Superseded

_LOG = logging.getLogger(__name__)
_KILLED = (-9, -15, 9, 15, 137, 143)


def ended_by_others(why: BaseException) -> bool:
    """Whether a process was ended from outside, not by what it did."""
    if isinstance(why, pebble.ProcessExpired):
        return why.exitcode in _KILLED
    return isinstance(why, BrokenProcessPool)


def limit_of(job: Job, why: BaseException) -> LimitReached:
    """What a job is told that was ended with its process."""
    what = job.work.what.capitalize()
    if isinstance(why, TimeoutError):
        return LimitReached(
            f"{what} took longer than the {job.work.deadline:g} seconds that it may take. Make the "
            "frame smaller, or take out steps that work far or fine."
        )
    if isinstance(why, CancelledError):
        return LimitReached(f"{what} kept others waiting for too long and was ended. Try it again.")
    _LOG.error("an engine process ended on %s: %r", job.work.name, why)
    return LimitReached(
        f"{what} ended the engine's process. Nothing is lost; take back the last change."
    )


def settle(job: Job, end: Outcome | Exception) -> None:
    """Tell the one who asked, if anybody still waits."""
    try:
        if isinstance(end, Exception):
            job.future.set_exception(end)
        elif end.end is End.DONE:
            job.future.set_result(end.value)
        elif end.end is End.REFUSED:
            job.future.set_exception(Refused(*end.value))
        elif end.end is End.MEMORY:
            limit = LIMITS[job.role].memory / 2**30
            job.future.set_exception(
                LimitReached(
                    f"{job.work.what.capitalize()} needs more than the {limit:g} GB that the "
                    "engine may take. Make the frame, the scale or the files smaller."
                )
            )
        elif end.end is End.CANCELLED:
            job.future.set_exception(Superseded())
        else:
            job.future.set_exception(EngineFault(end.value))
    except InvalidStateError:
        pass
