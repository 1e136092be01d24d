"""How many threads a loop over pixels has."""

import numba
import pytest

from mabrel.kernels import threads_for


@pytest.fixture(autouse=True)
def _all_threads() -> object:
    allowed = numba.config.NUMBA_NUM_THREADS
    numba.set_num_threads(allowed)
    yield
    numba.set_num_threads(allowed)


def test_small_pictures_have_one_and_give_the_others_back() -> None:
    allowed = numba.get_num_threads()
    with threads_for(90 * 50):
        assert numba.get_num_threads() == 1
    assert numba.get_num_threads() == allowed
    with pytest.raises(ZeroDivisionError), threads_for(90 * 50):
        _ = 1 / 0
    assert numba.get_num_threads() == allowed


def test_large_ones_have_as_many_as_there_may_be() -> None:
    allowed = numba.get_num_threads()
    with threads_for(748 * 421):
        assert numba.get_num_threads() == allowed
    numba.set_num_threads(1)
    with threads_for(748 * 421):
        assert numba.get_num_threads() == 1
