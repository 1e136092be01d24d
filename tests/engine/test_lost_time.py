"""What others took of the processors is told beside what was measured."""

import pytest

from tools import lost_time
from tools.lost_time import each_with_lost, lost, share_lost


def test_only_time_that_was_wanted_counts() -> None:
    user, system, stolen, idle = 60, 10, 30, 900
    assert share_lost([user, 0, system, idle, 50, 0, 0, stolen]) == 0.3


def test_a_machine_at_rest_loses_nothing() -> None:
    assert share_lost([0, 0, 0, 100, 0, 0, 0, 0]) == 0


def test_what_was_lost_meanwhile_comes_with_each_item(monkeypatch: pytest.MonkeyPatch) -> None:
    stolen = iter([0, 25, 25, 100, 100, 100])
    users = iter([0, 75, 75, 75, 75, 75])
    monkeypatch.setattr(lost_time, "_counts", lambda: [next(users), *[0] * 6, next(stolen)])
    found = [(item, str(share)) for item, share in each_with_lost(iter("ab"))]
    assert found == [("a", "25 %"), ("b", "100 %")]


def test_where_it_is_not_counted_it_is_unknown(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lost_time, "_counts", list)
    with lost() as found:
        pass
    assert str(found) == "unknown"
