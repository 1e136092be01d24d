"""What others took of the processors is told beside what was measured."""

import time

import pytest

from tools import lost_time
from tools.lost_time import lost, quietest, share_lost


def test_only_time_that_was_wanted_counts() -> None:
    user, system, stolen, idle = 60, 10, 30, 900
    assert share_lost([user, 0, system, idle, 50, 0, 0, stolen]) == 0.3


def test_a_machine_at_rest_loses_nothing() -> None:
    assert share_lost([0, 0, 0, 100, 0, 0, 0, 0]) == 0


def test_the_quietest_of_three_counts_whatever_it_measured(monkeypatch: pytest.MonkeyPatch) -> None:
    _counted(monkeypatch, (0, 0), (50, 50), (50, 50), (140, 60), (140, 60), (200, 100))
    made = iter("abc")
    found, share = quietest(lambda: next(made))
    assert (found, str(share)) == ("b", "10 %")
    assert not list(made)


def test_a_quiet_machine_is_measured_once(monkeypatch: pytest.MonkeyPatch) -> None:
    _counted(monkeypatch, (0, 0), (100, 1))
    assert quietest(lambda: "a")[0] == "a"


def test_where_it_is_not_counted_it_is_unknown(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lost_time, "_counts", list)
    with lost() as found:
        pass
    assert str(found) == "unknown"


def test_it_waits_until_hardly_anything_is_lost(monkeypatch: pytest.MonkeyPatch) -> None:
    _counted(monkeypatch, (0, 0), (50, 50), (50, 50), (150, 50), (150, 50), (250, 50), wait=True)
    began = time.monotonic()
    quietest(lambda: "a")
    assert time.monotonic() - began > 1  # it slept once


def _counted(monkeypatch: pytest.MonkeyPatch, *ends: tuple[int, int], wait: bool = False) -> None:
    """The processors' counts, one after the other: what ran, and what was lost."""
    left = iter(ends)
    monkeypatch.setattr(lost_time, "_counts", lambda: [(end := next(left))[0], *[0] * 6, end[1]])
    monkeypatch.setattr(lost_time, "_want", lambda seconds: None)
    if not wait:
        monkeypatch.setattr(lost_time, "_wait_for_quiet", lambda: None)
