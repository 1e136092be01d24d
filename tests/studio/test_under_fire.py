"""Short forms of ``make fuzz`` and ``make kills``, on a server of their own."""

from pathlib import Path

import pytest

from tools.fuzz import fuzzed
from tools.kills import killed
from tools.running_studio import RunningStudio


@pytest.fixture(autouse=True)
def no_warming(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("MABREL_WARM", "0")


def test_it_stays_whole_under_random_requests_and_damaged_files(tmp_path: Path):
    studio = RunningStudio(tmp_path)
    studio.prepare()
    studio.start()
    try:
        assert fuzzed(studio, requests=100, files=60)
    finally:
        studio.stop()


def test_kills_lose_nothing_that_was_acknowledged_and_leave_nothing_over():
    assert killed(3) == []
