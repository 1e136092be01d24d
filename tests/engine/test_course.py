"""Nodes that don't wait for one another are made at the same time, by several threads."""

import sys
import threading
import time

import numba
import numpy as np
import pytest

from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel, Cancelled
from mabrel.render.course import most_bytes
from mabrel.render.node import Node
from mabrel.render.running import Run
from mabrel.steps import Region

two_threads = pytest.mark.skipif(
    numba.config.NUMBA_NUM_THREADS < 2, reason="this machine has one thread"
)


def node(name, work, *inputs, side=512, keeps=False, changes_first=False):
    return Node(
        "step", name, name, Region(0, 0, side, side), work, inputs,
        keeps=keeps, changes_first=changes_first,
    )  # fmt: skip


def number(value):
    return np.full(4, value, np.float32)


def result(last, pause=lambda: None):
    return Run(Cache(), pause=pause).result(last)


@two_threads
def test_what_does_not_wait_for_one_another_is_made_at_the_same_time():
    both = threading.Barrier(2, timeout=20)

    def work():
        both.wait()  # ends only when the other one is there, too
        return number(1)

    last = node("sum", np.add, node("a", work), node("b", work))
    assert result(last).tolist() == [2, 2, 2, 2]


@two_threads
def test_one_thread_each_beside_others_and_all_of_them_alone():
    both = threading.Barrier(2, timeout=20)
    threads = {}

    def work(name, *others):
        if not others:
            both.wait()
        threads[name] = numba.get_num_threads()
        return number(1)

    first = [node(name, lambda name=name: work(name)) for name in "ab"]
    result(node("c", lambda *others: work("c", *others), *first))
    assert threads == {"a": 1, "b": 1, "c": numba.get_num_threads()}


def test_a_small_picture_is_made_by_one_thread():
    makers, threads = set(), set()

    def work(*_):
        makers.add(threading.current_thread())
        threads.add(numba.get_num_threads())
        time.sleep(0.01)
        return number(1)

    allowed = numba.get_num_threads()
    result(node("last", work, *(node(str(n), work) for n in range(4)), side=64))
    assert (makers, threads) == ({threading.current_thread()}, {1})
    assert numba.get_num_threads() == allowed


def test_with_one_thread_all_is_made_by_the_one_that_asks():
    makers = set()

    def work(*others):
        makers.add(threading.current_thread())
        time.sleep(0.01)
        return number(len(others))

    allowed = numba.get_num_threads()
    numba.set_num_threads(1)
    try:
        result(node("last", work, *(node(str(n), work) for n in range(6))))
    finally:
        numba.set_num_threads(allowed)
    assert makers == {threading.current_thread()}


def test_each_is_made_once_and_after_what_it_needs():
    made = []

    def work(name):
        def done(*others):
            made.append(name)
            return number(len(others))

        return done

    shared = node("shared", work("shared"))
    rows = [node(f"row {n}", work(f"row {n}"), shared) for n in range(9)]
    pairs = [node(f"pair {n}", work(f"pair {n}"), rows[n], rows[n + 1]) for n in range(8)]
    result(node("last", work("last"), *pairs))
    assert sorted(made) == sorted({each.name for each in [shared, *rows, *pairs]} | {"last"})
    for n in range(8):
        assert made.index(f"pair {n}") > max(made.index(f"row {n}"), made.index(f"row {n + 1}"))
    assert made[0] == "shared"
    assert made[-1] == "last"


def test_what_another_one_still_reads_is_not_written_into():
    def into(array, add):
        array += add
        return array

    first = node("first", lambda: number(1))
    late = node("late", lambda array: (time.sleep(0.05), array.copy())[1], first)
    changed = node("changed", lambda array: into(array, 10), first, changes_first=True)
    last = node("last", lambda a, b: np.stack([a, b]), late, changed)
    assert result(last)[:, 0].tolist() == [1, 11]


@two_threads
def test_large_ones_wait_for_one_another():
    together, most, lock = [0], [0], threading.Lock()

    def work(*_):
        with lock:
            together[0] += 1
            most[0] = max(most[0], together[0])
        time.sleep(0.03)
        with lock:
            together[0] -= 1
        return number(1)

    large = [node(str(n), work, side=4000) for n in range(3)]  # 256 MB each, as they say
    lines = [node(f"small {n}", lambda _: number(1), each) for n, each in enumerate(large)]
    last = node("last", lambda *_: number(1), *lines)
    assert most_bytes([*large, *lines, last]) >= 4000 * 4000 * 16
    result(last)
    assert most[0] == 1
    small = [node(str(n), work) for n in range(3)]
    result(node("last", lambda *_: number(1), *small))
    assert most[0] == 2


def test_an_error_is_raised_where_the_result_was_asked_for_and_nothing_more_begins():
    begun = []

    def fails():
        time.sleep(0.02)
        raise ValueError("torn")

    def work(name):
        begun.append(name)
        return number(1)

    broken = [node(f"broken {n}", fails) for n in range(2)]
    late = [node(f"late {n}", lambda *_: work("late"), *broken) for n in range(5)]
    with pytest.raises(ValueError, match="torn"):
        result(node("last", lambda *_: work("last"), *late))
    assert not begun
    assert result(node("last", np.add, node("a", lambda: number(1)), node("b", lambda: number(2))))[
        0
    ] == pytest.approx(3)


@two_threads
def test_a_helper_that_comes_when_all_is_over_goes_again():
    course = sys.modules["mabrel.render.course"]
    come, begun = threading.Event(), []

    def fails():
        raise ValueError("torn")

    def work():
        begun.append(threading.current_thread())
        return number(1)

    course._helpers.submit(come.wait)  # the helper is busy until then
    broken, other = node("broken", fails), node("other", work)
    with pytest.raises(ValueError, match="torn"):
        result(node("last", np.add, broken, other))
    come.set()
    course._helpers.submit(lambda: None).result(timeout=20)
    assert not begun


def test_it_is_given_up_between_nodes():
    cancel = Cancel()

    def work(*_):
        cancel.cancel()
        return number(1)

    first = node("first", work)
    with pytest.raises(Cancelled):
        result(node("last", work, node("second", work, first)), cancel.check)


def test_the_most_bytes_of_a_run():
    a, b = (node(name, None, side=10) for name in "ab")
    wide = node("wide", None, a, side=20)
    assert most_bytes([a]) == 1600
    assert most_bytes([a, wide]) == 1600 + 6400
    assert most_bytes([a, wide, b, node("last", None, wide, b, side=10)]) == 6400 + 1600 * 2
