"""Shape steps: the edge grown, shrunk and rounded."""

import numpy as np
import pytest

from tests.engine.steps.trial import RADIUS, piece, run


class TestEdge:
    def radius_of(self, **settings) -> float:
        return float(np.sqrt(run("shape.edge", **settings).matte.sum() / np.pi))

    @pytest.mark.parametrize("grow", [-12, 0, 9])
    def test_it_grows_and_shrinks(self, grow: float) -> None:
        assert self.radius_of(grow=grow, radius=0) == pytest.approx(RADIUS + grow, abs=0.1)

    def test_a_disc_has_no_corners_to_round(self) -> None:
        assert self.radius_of(grow=0, radius=10) == pytest.approx(RADIUS, abs=0.25)

    def test_corners_become_arcs_of_their_radius(self) -> None:
        square = np.zeros((120, 120), np.float32)
        square[30:90, 30:90] = 1
        done = run("shape.edge", piece(square), grow=0, radius=15)
        lost = 60 * 60 - done.matte.sum()
        assert lost == pytest.approx((4 - np.pi) * 15**2, rel=0.12)  # the edge rounds a little too

    def test_inner_corners_fill_and_narrow_gaps_close(self) -> None:
        notched = np.zeros((120, 120), np.float32)
        notched[30:90, 30:90] = 1
        notched[30:60, 56:64] = 0
        apart = run("shape.edge", piece(notched), grow=0, radius=0, inner=0)
        joined = run("shape.edge", piece(notched), grow=0, radius=0, inner=6)
        room = (joined.matte.shape[0] - 120) // 2
        middle = (slice(40 + room, 55 + room), slice(58 + room, 62 + room))
        assert joined.matte[middle].min() > 0.99
        assert apart.matte.sum() == pytest.approx(notched.sum(), rel=5e-3)

    def test_all_the_way_in_nothing_is_left(self) -> None:
        assert run("shape.edge", grow=-60, radius=0).matte.max() == 0
