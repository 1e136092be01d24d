"""Real engine processes: killed, out of memory, out of time, and told to stop."""

import gc
import os
import signal
import time
from collections.abc import Iterator
from concurrent.futures import Future
from pathlib import Path

import psutil
import pytest

from mabrel import new_title
from studio.engine import process
from studio.engine.asking import answer_now, desk
from studio.engine.jobs.warming import warm
from studio.engine.outcome import End, LimitReached, Outcome
from studio.engine.process import Limits
from studio.engine.work import CHECK, EXPORT, PREVIEW, Role
from studio.engine.worker import Worker
from studio.titles.documents import home
from tests.studio.test_desk import soon

SMALL = new_title("KELP", frame=(320, 180)).model_dump_json().encode()
VAST = new_title("MMMM", finish="mooring-quay", frame=(3840, 2160)).model_dump_json().encode()
MB = 2**20
MEMORY = 1400 * MB
"""Room for all kernels (some 600 MB) and what SMALL needs, not for VAST as large as its frame."""


def preview(document: bytes = SMALL, **how):
    return answer_now(PREVIEW, document=document, home=home(), scale=0.5, **how)


@pytest.fixture
def worker() -> Iterator[Worker]:
    worker = Worker(Limits(memory=MEMORY, cache=64 * MB))
    worker.start()
    soon(lambda: worker.up, 60)
    yield worker
    worker.stop()


def given(worker: Worker, name: str, run: int = 1, deadline: float = 60, **ask) -> Future:
    found: Future = Future()

    def done(future: Future) -> None:
        found.set_result(None if future.cancelled() else future.exception() or future.result())

    worker.give(name, run, ask, deadline, done)
    return found


def test_a_killed_process_is_replaced_and_nobody_notices() -> None:
    preview()
    for role in (Role.HAND, Role.CLERK, Role.BACKGROUND):
        soon(lambda role=role: desk().pids()[role], 60)
        before = desk().pids()[role]
        os.kill(before, signal.SIGKILL)
        assert preview().width == 160
        assert answer_now(CHECK, documents=[SMALL], home=home())[0].name == "Kelp"
        soon(lambda role=role, before=before: desk().pids()[role] not in (None, before), 60)


def test_one_killed_in_the_middle_of_its_work_costs_no_answer(tmp_path: Path) -> None:
    job = desk().submit(
        EXPORT,
        "a",
        "killed",
        {
            "document": new_title("MAST", frame=(1920, 1080)).model_dump_json().encode(),
            "home": home(),
            "path": str(tmp_path / "x.png"),
            "bits": 8,
            "scale": 1.0,
            "backdrop": True,
        },
    )
    soon(lambda: job.started and desk().pids()[Role.BACKGROUND], 60)
    os.kill(desk().pids()[Role.BACKGROUND], signal.SIGKILL)
    assert job.future.result(120) == "Mast"
    assert (tmp_path / "x.png").read_bytes().startswith(b"\x89PNG")


def test_more_memory_than_there_is_for_it_is_said_and_the_process_goes_on(worker: Worker) -> None:
    before = worker.pid
    outcome = given(worker, "preview", document=VAST, home=home(), scale=1.0).result(120)
    assert outcome.end is End.MEMORY
    assert outcome.value is False, "it holds on to what was made"
    assert psutil.Process(before).memory_info().rss < MEMORY / 2
    worker.took(outcome)
    again = given(worker, "preview", run=2, document=SMALL, home=home(), scale=0.5).result(60)
    assert again.end is End.DONE
    assert worker.pid == before


def test_more_time_than_it_may_take_ends_the_process(worker: Worker) -> None:
    began = time.monotonic()
    end = given(worker, "preview", deadline=0.5, document=VAST, home=home(), scale=0.2).result(60)
    assert isinstance(end, TimeoutError)
    assert time.monotonic() - began < 10
    worker.expect()
    soon(lambda: worker.up, 60)


def test_what_is_given_up_ends_by_itself_and_what_comes_next_does_not(worker: Worker) -> None:
    job = given(worker, "preview", run=5, document=VAST, home=home(), scale=0.1)
    time.sleep(0.3)
    worker.give_up(5)
    outcome = job.result(30)
    assert outcome.end is End.CANCELLED
    worker.took(outcome)
    after = given(worker, "preview", run=6, document=SMALL, home=home(), scale=0.5)
    assert after.result(60).end is End.DONE


def test_pixels_come_whole_by_way_of_the_shared_memory(worker: Worker) -> None:
    outcome = given(worker, "preview", document=SMALL, home=home(), scale=1.0).result(60)
    assert outcome.value.rgba == b""
    whole = worker.took(outcome)
    assert len(whole.value.rgba) == 320 * 180 * 4
    assert max(whole.value.rgba) > 0


def test_a_process_ends_with_the_one_that_began_it(tmp_path: Path) -> None:
    import subprocess
    import sys

    program = (
        "from studio.engine.worker import Worker\n"
        "from studio.engine.process import Limits\n"
        "import time\n"
        "if __name__ == '__main__':\n"
        "    worker = Worker(Limits(2**30, 2**21))\n"
        "    worker.start()\n"
        "    while not worker.up: time.sleep(0.05)\n"
        "    print(worker.pid, flush=True)\n"
        "    time.sleep(100)\n"
    )
    script = tmp_path / "begins.py"
    script.write_text(program)
    root = Path(__file__).parents[2]
    parent = subprocess.Popen(
        [sys.executable, str(script)],
        stdout=subprocess.PIPE,
        env=os.environ | {"PYTHONPATH": str(root)},
    )
    assert parent.stdout is not None
    child = int(parent.stdout.readline())
    parent.kill()
    parent.wait()
    soon(lambda: not psutil.pid_exists(child) or _is_gone(child), 10)


def _is_gone(pid: int) -> bool:
    try:
        return psutil.Process(pid).status() == psutil.STATUS_ZOMBIE
    except psutil.NoSuchProcess:
        return True


@pytest.mark.parametrize(
    ("raises", "end"),
    [
        (MemoryError(), End.MEMORY),
        (RuntimeError("OpenCV: Failed to allocate 99 bytes"), End.MEMORY),
        (RuntimeError("boo"), End.FAULT),
    ],
)
def test_what_a_job_raises_is_told_apart(raises: Exception, end: End) -> None:
    def job() -> None:
        raise raises

    outcome: Outcome = process.outcome_of(job)
    assert outcome.end is end


def test_a_preview_has_no_more_pixels_than_a_page_can_show() -> None:
    from studio.engine.outcome import Refused

    wide = new_title("KELP", frame=(3840, 2160)).model_dump_json().encode()
    with pytest.raises(Refused, match="a preview has at most"):
        answer_now(PREVIEW, document=wide, home=home(), scale=1.2)
    part = answer_now(
        PREVIEW, document=SMALL, home=home(), scale=4.0, window=(10.0, 20.0, 30.0, 40.0)
    )
    assert (part.width, part.height) == (120, 160)


def test_an_endless_job_is_said_to_be_too_long(monkeypatch: pytest.MonkeyPatch) -> None:
    short = PREVIEW._replace(deadline=0.3)
    with pytest.raises(LimitReached, match=r"longer than the 0.3 seconds"):
        answer_now(short, document=VAST, home=home(), scale=0.2)
    assert preview().width == 160


def test_what_is_loaded_for_good_is_not_searched_for_garbage() -> None:
    tools = process.new_tools(Limits(memory=MEMORY, cache=64 * MB))
    gc.unfreeze()  # what other tests have loaded
    try:
        assert gc.get_freeze_count() == 0
        warm(tools, part=1)
        assert gc.get_freeze_count() > 10_000
    finally:
        gc.unfreeze()
