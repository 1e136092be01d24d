"""Filling: areas of shapes that one can calculate."""

import numpy as np
import pytest

from mabrel.field.fill import fill
from tests.engine.shapes import turned_square


def loop(*points: tuple[float, float]) -> np.ndarray:
    here = np.array(points)
    return np.hstack([here, np.roll(here, -1, axis=0)])


def test_a_rectangle_between_pixels_covers_them_by_its_shares() -> None:
    coverage = fill(loop((1.25, 2.5), (4.5, 2.5), (4.5, 5.75), (1.25, 5.75)), (0, 0, 7, 8))
    assert coverage[3] == pytest.approx([0, 0.75, 1, 1, 0.5, 0, 0])
    assert coverage[:, 2] == pytest.approx([0, 0, 0.5, 1, 1, 0.75, 0, 0])
    assert coverage[2, 1] == pytest.approx(0.375)


def test_a_turned_square_is_filled_as_fine_subsampling_fills_it() -> None:
    turn = np.radians(23)
    corners = [(-1, -1), (1, -1), (1, 1), (-1, 1)]
    points = [
        (
            30.2 + 14 * (u * np.cos(turn) - v * np.sin(turn)) + 0.5,
            31.4 + 14 * (u * np.sin(turn) + v * np.cos(turn)) + 0.5,
        )
        for u, v in corners
    ]
    coverage = fill(loop(*points), (0, 0, 64, 64))
    assert coverage == pytest.approx(turned_square(14, 64, 30.2, 31.4, 23), abs=0.06)
    assert coverage.sum() == pytest.approx(28 * 28, rel=1e-6)


def test_a_hole_runs_the_other_way_round() -> None:
    outer = loop((2, 2), (12, 2), (12, 12), (2, 12))
    hole = loop((5, 5), (5, 9), (9, 9), (9, 5))
    coverage = fill(np.vstack([outer, hole]), (0, 0, 14, 14))
    assert coverage.sum() == pytest.approx(100 - 16)
    assert coverage[7, 7] == 0


def test_what_is_cut_off_on_the_left_still_counts() -> None:
    shape = loop((-50, 1), (4, 1), (4, 3), (-50, 3))
    coverage = fill(shape, (0, 0, 8, 4))
    assert coverage[1] == pytest.approx([1, 1, 1, 1, 0, 0, 0, 0])
    assert fill(shape, (6, 0, 4, 4)).max() == 0
