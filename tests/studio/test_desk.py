"""The desk: urgent first, pages in turn, newest wins, and what does not give way is ended."""

import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future

import pebble
import pytest

from studio.engine.desk import Desk
from studio.engine.line import Job
from studio.engine.outcome import End, EngineFault, LimitReached, Outcome, Refused, Superseded
from studio.engine.work import (
    CHECK,
    EXPORT,
    FILE,
    FRAME,
    NEAR_FRAME,
    PREVIEW,
    READINGS,
    SECTION,
    STRIP,
    Role,
)


class Process:
    """A process that does what a test tells it, and nothing by itself."""

    def __init__(self) -> None:
        self.up = True
        self.broken = self.failed = False
        self.pid = 1
        self.names: list[str] = []
        self.asks: list[dict] = []
        self.given_up: list[int] = []
        self.kills = 0
        self.obeys = True
        self.seconds = 0.0
        self.begun = 0
        self._future: Future | None = None
        self._run = -1

    @property
    def ready(self) -> bool:
        return self.up and self._future is None

    def start(self) -> None:
        self.begun += 1
        self.expect()

    def expect(self) -> None:
        self.broken = self.failed = False
        self._future = None

    stop = expect

    def give(self, name: str, run: int, ask: dict, deadline: float, done: Callable) -> None:
        self.names.append(name)
        self.asks.append(ask)
        self._future, self._run = Future(), run
        self._future.set_running_or_notify_cancel()
        self._future.add_done_callback(done)

    def took(self, outcome: Outcome) -> Outcome:
        self._future = None
        return outcome

    def give_up(self, run: int) -> None:
        self.given_up.append(run)
        if self.obeys and run >= self._run:
            self.ends(Outcome(End.CANCELLED))

    def computed(self) -> float:
        return self.seconds

    def kill(self) -> None:
        self.kills += 1
        future, self._future = self._future, None
        ended = Future()
        ended.cancel()
        for callback in future._done_callbacks:
            callback(ended)

    def ends(self, how: Outcome | Exception) -> None:
        assert self._future is not None
        if isinstance(how, Exception):
            self._future.set_exception(how)
        else:
            self._future.set_result(how)

    def does(self, value: object = None) -> None:
        self.ends(Outcome(End.DONE, value))


def soon(holds: Callable[[], object], seconds: float = 5.0) -> None:
    """Wait until something holds."""
    end = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < end, "it never came to that"
        time.sleep(0.005)


class Studio:
    def __init__(self) -> None:
        self.processes = {role: Process() for role in Role}
        self.desk = Desk(workers=self.processes)

    @property
    def hand(self) -> Process:
        return self.processes[Role.HAND]

    @property
    def clerk(self) -> Process:
        return self.processes[Role.CLERK]

    @property
    def background(self) -> Process:
        return self.processes[Role.BACKGROUND]

    def ask(self, work, page: str = "a", lane: str = "", **ask) -> Job:
        self.lanes = getattr(self, "lanes", 0) + 1
        return self.desk.submit(work, page, lane or f"lane {self.lanes}", ask)

    def shown(self, page: str, times: int = 2) -> None:
        """A page that was shown previews a moment ago."""
        for _ in range(times):
            before = len(self.hand.names)
            job = self.ask(PREVIEW, page)
            soon(lambda before=before: len(self.hand.names) > before)
            self.hand.does()
            job.future.result(5)


@pytest.fixture
def studio() -> Iterator[Studio]:
    studio = Studio()
    studio.desk.start()
    yield studio
    studio.desk.stop()


def names(process: Process) -> list:
    return [ask.get("name") for ask in process.asks]


def test_each_work_goes_to_the_process_that_is_for_it(studio: Studio) -> None:
    for work, process in (
        (PREVIEW, studio.hand),
        (CHECK, studio.clerk),
        (EXPORT, studio.background),
    ):
        job = studio.ask(work)
        soon(lambda process=process: process.names)
        process.does("done")
        assert job.future.result(5) == "done"


def test_a_newer_request_on_a_lane_drops_those_that_run_and_wait(studio: Studio) -> None:
    jobs = [studio.ask(PREVIEW, lane="proof", name=n) for n in range(4)]
    soon(lambda: 3 in names(studio.hand))
    studio.hand.does("newest")
    assert jobs[3].future.result(5) == "newest"
    for job in jobs[:3]:
        with pytest.raises(Superseded):
            job.future.result(5)


def test_the_most_urgent_of_the_background_comes_first(studio: Studio) -> None:
    first = studio.ask(EXPORT, name="first")
    soon(lambda: studio.background.names)
    for work in (STRIP, READINGS, EXPORT):
        studio.ask(work, name=work.what)
    for _ in range(4):
        count = len(studio.background.names)
        studio.background.does()
        soon(lambda count=count: len(studio.background.names) > count or count == 4)
    assert first.future.done()
    assert names(studio.background)[1:] == [w.what for w in (EXPORT, READINGS, STRIP)]


def test_pages_take_turns(studio: Studio) -> None:
    studio.ask(SECTION, "a", name="a0")
    soon(lambda: studio.hand.names)
    for name in ("a1", "a2", "a3"):
        studio.ask(SECTION, "a", name=name)
    studio.ask(SECTION, "b", name="b1")
    studio.hand.obeys = False  # it is asked to give way to b, and is nearly done
    for count in range(1, 6):
        soon(lambda count=count: len(studio.hand.names) == count)
        studio.hand.does()
    assert names(studio.hand) == ["a0", "b1", "a1", "a2", "a3"]


def test_a_slow_picture_gives_way_to_another_page_and_goes_on_in_the_background(
    studio: Studio,
) -> None:
    slow = studio.ask(PREVIEW, "slow", name="slow")
    soon(lambda: studio.hand.names)
    time.sleep(0.3)
    quick = studio.ask(PREVIEW, "quick", name="quick")
    soon(lambda: names(studio.hand) == ["slow", "quick"])
    studio.hand.does("quick")
    assert quick.future.result(5) == "quick"
    soon(lambda: names(studio.background) == ["slow"])
    studio.background.does("slow")
    assert slow.future.result(5) == "slow"


def test_while_a_hand_moves_other_pages_pictures_are_made_in_the_background(
    studio: Studio,
) -> None:
    studio.shown("hand")
    studio.ask(PREVIEW, "hand", name="moving")
    studio.ask(PREVIEW, "other", name="opened")
    soon(lambda: "opened" in names(studio.background))
    assert names(studio.hand)[-1] == "moving"


def test_frames_made_ahead_give_way_to_the_hand_however_many_were_shown(studio: Studio) -> None:
    for count in range(1, 4):
        frame = studio.ask(FRAME, name="frame")
        soon(lambda count=count: len(studio.hand.names) == count)
        if count < 3:
            studio.hand.does()
            frame.future.result(5)
    studio.ask(PREVIEW, lane="proof", name="looked for")
    soon(lambda: names(studio.hand)[-1] == "looked for")
    assert studio.hand.given_up
    studio.hand.does()
    soon(lambda: names(studio.hand)[-1] == "frame")  # it goes on


def test_what_a_hand_comes_near_to_is_before_frames_and_behind_what_it_sees(studio: Studio) -> None:
    for work, name in ((FRAME, "ahead"), (NEAR_FRAME, "near"), (PREVIEW, "seen")):
        studio.ask(work, name=name)
        soon(lambda name=name: names(studio.hand)[-1:] == [name])
    for name in ("near", "ahead"):
        studio.hand.does()
        soon(lambda name=name: names(studio.hand)[-1] == name)


def test_frames_made_ahead_are_no_hand_that_others_wait_for(studio: Studio) -> None:
    for count in range(1, 4):
        frame = studio.ask(FRAME, "film")
        soon(lambda count=count: len(studio.hand.names) == count)
        studio.hand.does()
        frame.future.result(5)
    studio.ask(PREVIEW, "other", name="opened")
    soon(lambda: "opened" in names(studio.hand))


def test_what_does_not_give_way_is_gone_round_and_then_ended(studio: Studio) -> None:
    studio.hand.obeys = False
    stuck = studio.ask(PREVIEW, "stuck", name="stuck")
    soon(lambda: studio.hand.names)
    time.sleep(0.3)
    began = time.monotonic()
    other = studio.ask(PREVIEW, "other", name="other")
    soon(lambda: "other" in names(studio.clerk))  # the clerk stands in
    assert time.monotonic() - began < 0.4
    studio.clerk.does("other")
    assert other.future.result(5) == "other"
    soon(lambda: studio.hand.kills == 1)
    soon(lambda: "stuck" in names(studio.background))
    studio.background.does("stuck")
    assert stuck.future.result(5) == "stuck"


def test_the_hand_stands_in_for_a_clerk_that_reads_a_file_for_too_long(studio: Studio) -> None:
    studio.ask(FILE, name="endless")
    soon(lambda: studio.clerk.names)
    time.sleep(0.15)
    studio.ask(CHECK, name="save")
    soon(lambda: "save" in names(studio.hand))


def test_what_nobody_waits_for_ends_within_a_second(studio: Studio) -> None:
    studio.background.obeys = False
    export = studio.ask(EXPORT)
    soon(lambda: studio.background.names)
    began = time.monotonic()
    studio.desk.drop(export)
    soon(lambda: studio.background.given_up)
    studio.background.seconds = 2.0  # it goes on computing
    soon(lambda: studio.background.kills == 1)
    assert time.monotonic() - began < 1.0
    with pytest.raises(Superseded):
        export.future.result(5)


def test_the_background_is_not_ended_for_what_somebody_waits_for(studio: Studio) -> None:
    studio.background.obeys = False
    studio.ask(STRIP, name="set")
    soon(lambda: studio.background.names)
    studio.ask(EXPORT, name="export")
    soon(lambda: studio.background.given_up)
    time.sleep(1.0)
    assert studio.background.kills == 0
    studio.background.ends(Outcome(End.CANCELLED))
    soon(lambda: names(studio.background) == ["set", "export"])
    studio.background.does()
    soon(lambda: names(studio.background) == ["set", "export", "set"])


def test_a_process_that_somebody_killed_costs_nobody_an_answer(studio: Studio) -> None:
    job = studio.ask(PREVIEW, name="again")
    soon(lambda: studio.hand.names)
    studio.hand.ends(pebble.ProcessExpired("gone", -9))
    soon(lambda: names(studio.hand) == ["again", "again"])
    studio.hand.does("there")
    assert job.future.result(5) == "there"


@pytest.mark.parametrize(
    ("end", "said"),
    [
        (TimeoutError(), "This picture took longer than the 90 seconds that it may take"),
        (pebble.ProcessExpired("crashed", -11), "ended the engine's process. Nothing is lost"),
        (Outcome(End.MEMORY), "needs more than the 6 GB"),
    ],
)
def test_limits_are_named_in_one_sentence_and_the_next_one_is_served(
    studio: Studio, end: Outcome | Exception, said: str
) -> None:
    job = studio.ask(PREVIEW)
    soon(lambda: studio.hand.names)
    studio.hand.ends(end)
    with pytest.raises(LimitReached, match=said):
        job.future.result(5)
    after = studio.ask(PREVIEW)
    soon(lambda: len(studio.hand.names) == 2)
    studio.hand.does("fine")
    assert after.future.result(5) == "fine"


@pytest.mark.parametrize("full", [True, False])
def test_a_process_that_stays_full_of_memory_is_begun_anew(studio: Studio, full: bool) -> None:
    job = studio.ask(PREVIEW)
    soon(lambda: studio.hand.names)
    began = studio.hand.begun
    studio.hand.ends(Outcome(End.MEMORY, full))
    with pytest.raises(LimitReached):
        job.future.result(5)
    assert studio.hand.begun - began == full


def test_refusals_and_faults_reach_the_one_who_asked(studio: Studio) -> None:
    for end, error in (
        (Outcome(End.REFUSED, ("layers[0]", "is wrong")), Refused),
        (Outcome(End.FAULT, "Traceback"), EngineFault),
    ):
        count = len(studio.clerk.names)
        job = studio.ask(CHECK)
        soon(lambda count=count: len(studio.clerk.names) > count)
        studio.clerk.ends(end)
        with pytest.raises(error):
            job.future.result(5)


def test_more_than_can_wait_is_told_so(studio: Studio) -> None:
    studio.ask(STRIP, "a")
    soon(lambda: studio.background.names)
    jobs = [studio.ask(STRIP, "a") for _ in range(100)]
    refused = [job for job in jobs if job.future.done() or _ends(job)]
    assert len(refused) == 20
    other = studio.ask(STRIP, "b")
    time.sleep(0.05)
    assert not other.future.done()


def _ends(job: Job) -> bool:
    time.sleep(0.002)
    return job.future.done()


def test_someone_who_goes_away_does_not_stop_the_desk(studio: Studio) -> None:
    running = studio.ask(PREVIEW)
    soon(lambda: studio.hand.names)
    waiting = studio.ask(PREVIEW)
    waiting.future.cancel()
    studio.desk.drop(running)
    last = studio.ask(PREVIEW, name="last")
    soon(lambda: "last" in names(studio.hand))
    studio.hand.does("fine")
    assert last.future.result(5) == "fine"


def test_a_process_that_does_not_come_up_is_begun_again(studio: Studio) -> None:
    studio.clerk.up, studio.clerk.failed = False, True
    soon(lambda: not studio.clerk.failed)
    job = studio.ask(CHECK, name="save")
    soon(lambda: "save" in names(studio.hand))
    studio.hand.does("saved")
    assert job.future.result(5) == "saved"
