"""Lens steps: grain."""

import numpy as np
import pytest

from mabrel.steps import Margin
from tests.engine.steps.trial import piece, run


class TestGrain:
    def test_it_is_as_rough_as_its_amount(self) -> None:
        done = run("lens.grain", amount=0.1, size=1)
        grains = done.face[..., 0] - 0.5
        assert grains.std() == pytest.approx(0.1, rel=0.05)
        assert grains.mean() == pytest.approx(0, abs=0.005)

    def test_grey_grains_are_grey_and_coloured_ones_are_not(self) -> None:
        grey, hues = run("lens.grain"), run("lens.grain", colour=1)
        assert np.array_equal(grey.face[..., 0], grey.face[..., 1])
        assert not np.array_equal(hues.face[..., 0], hues.face[..., 1])

    def test_it_stays_in_its_place_when_the_piece_grows(self) -> None:
        small = run("lens.grain")
        large = run("lens.grain", piece().grown(Margin(5, 7, 3, 2)))
        assert np.array_equal(large.face[7:-2, 5:-3], small.face)
