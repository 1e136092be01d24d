"""The render desk: urgent first, newest wins, nothing lost."""

import threading
import time

import pytest

from mabrel import Renderer
from studio.preview.desk import Desk, Superseded, Urgency


@pytest.fixture
def desk() -> Desk:
    return Desk(Renderer())


class Slow:
    """Work that runs until it is let go, and looks at its cancel token meanwhile."""

    def __init__(self, result: str) -> None:
        self.result = result
        self.started = threading.Event()
        self.free = threading.Event()
        self.runs = 0

    def __call__(self, renderer, cancel) -> str:
        self.runs += 1
        self.started.set()
        while not self.free.wait(0.005):
            cancel.check()
        return self.result


def at_once(result: str):
    return lambda renderer, cancel: result


def test_a_newer_request_on_a_lane_drops_the_one_that_runs(desk: Desk) -> None:
    old = Slow("old")
    first = desk.submit("proof", Urgency.PROOF, old)
    assert old.started.wait(5)
    second = desk.submit("proof", Urgency.PROOF, at_once("new"))
    assert second.future.result(5) == "new"
    with pytest.raises(Superseded):
        first.future.result(5)


def test_a_newer_request_drops_those_that_wait(desk: Desk) -> None:
    blocking = Slow("blocking")
    desk.submit("other", Urgency.PROOF, blocking)
    assert blocking.started.wait(5)
    waiting = [desk.submit("strip", Urgency.SHELF, at_once(str(i))) for i in range(4)]
    blocking.free.set()
    assert waiting[-1].future.result(5) == "3"
    for job in waiting[:-1]:
        with pytest.raises(Superseded):
            job.future.result(5)


def test_a_proof_interrupts_thumbnails_which_are_done_afterwards(desk: Desk) -> None:
    thumbnails = Slow("thumbnails")
    later = desk.submit("build", Urgency.THUMBNAIL, thumbnails)
    assert thumbnails.started.wait(5)
    assert desk.submit("proof", Urgency.PROOF, at_once("proof")).future.result(5) == "proof"
    thumbnails.free.set()
    assert later.future.result(5) == "thumbnails"
    assert thumbnails.runs == 2


def test_errors_reach_the_one_who_asked_and_the_desk_goes_on(desk: Desk) -> None:
    def fail(renderer, cancel):
        raise ValueError("no such thing")

    with pytest.raises(ValueError, match="no such thing"):
        desk.submit("a", Urgency.PROOF, fail).future.result(5)
    assert desk.submit("b", Urgency.PROOF, at_once("fine")).future.result(5) == "fine"


def test_someone_who_goes_away_does_not_stop_the_desk(desk: Desk) -> None:
    blocking = Slow("blocking")
    running = desk.submit("a", Urgency.PROOF, blocking)
    assert blocking.started.wait(5)
    waiting = desk.submit("b", Urgency.PROOF, at_once("never"))
    waiting.future.cancel()
    running.drop()
    assert desk.submit("c", Urgency.PROOF, at_once("fine")).future.result(5) == "fine"


def test_the_most_urgent_comes_first(desk: Desk) -> None:
    done: list[str] = []
    blocking = Slow("blocking")
    desk.submit("first", Urgency.PROOF, blocking)
    assert blocking.started.wait(5)

    def note(name: str):
        return lambda renderer, cancel: done.append(name)

    jobs = [
        desk.submit(urgency.name, urgency, note(urgency.name))
        for urgency in (Urgency.THUMBNAIL, Urgency.SHELF, Urgency.READING, Urgency.EXPORT)
    ]
    time.sleep(0.02)
    blocking.free.set()
    for job in jobs:
        job.future.result(5)
    assert done == ["EXPORT", "READING", "SHELF", "THUMBNAIL"]
