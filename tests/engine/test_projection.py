"""Perspective: whichever way pixels are looked up, one sees the same."""

import itertools

import cv2
import numpy as np
import pytest

from mabrel.field import projection
from mabrel.field.projection import projected
from mabrel.field.scanlines import keeps_rows

FLOOR = np.linalg.inv([[1.2, 1.6, 9.0], [0.0, 2.6, 20.0], [0.0, 0.0033, 1.0]])
TURNED = np.linalg.inv([[0.8, 0.0, -9.0], [-0.02, 0.88, -2.0], [-0.0008, 0.0, 1.0]])


def smooth(height: int, width: int, channels: int = 4) -> np.ndarray:
    noise = np.random.default_rng(4).random((height, width, channels)).astype(np.float32)
    return cv2.GaussianBlur(noise, (0, 0), 2.0).reshape(noise.shape)


def by_pixels(image: np.ndarray, matrix: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    out = np.zeros((size[1], size[0], image.shape[2]), np.float32)
    projection._by_pixels(image, np.linalg.inv(matrix), out)
    return out


class TestRowsAndPixels:
    @pytest.mark.parametrize("channels", [1, 4])
    @pytest.mark.parametrize("matrix", [FLOOR, TURNED])
    def test_both_ways_see_the_same(self, matrix: np.ndarray, channels: int) -> None:
        image, size = smooth(200, 260, channels), (220, 120)
        one, other = projected(image, matrix, size), by_pixels(image, matrix, size)
        assert np.abs(one - other).mean() < 2e-3
        assert np.quantile(np.abs(one - other), 0.99) < 0.05

    def test_a_floor_keeps_rows_and_a_rolling_camera_does_not(self) -> None:
        back = np.linalg.inv(FLOOR)
        assert keeps_rows(back, (220, 120))
        turn = np.array([[0.9, -0.1, 0], [0.1, 0.9, 0], [0, 0, 1.0]])
        assert not keeps_rows(back @ turn, (220, 120))

    def test_where_nothing_is_reduced_both_are_the_same(self) -> None:
        image = smooth(60, 80)
        grown = np.diag([1.5, 1.5, 1.0])
        one, other = projected(image, grown, (110, 80)), by_pixels(image, grown, (110, 80))
        assert np.abs(one - other).mean() < 5e-4  # each holds back ringing in its own way
        assert np.quantile(np.abs(one - other), 0.99) < 1e-2


class TestWhatOneSees:
    def test_nothing_moves_nothing(self) -> None:
        image = smooth(30, 40)
        assert projected(image, np.eye(3), (40, 30)) == pytest.approx(image, abs=1e-6)

    @pytest.mark.parametrize("channels", [1, 4])
    @pytest.mark.parametrize("left", [-70, -3, 0, 6, 55])
    def test_what_is_level_is_moved_as_it_is(self, left: int, channels: int) -> None:
        """Moved by so little more that it is looked up, it looks the same."""
        image = smooth(30, 40, channels)
        upright = np.array([[1, 0, left], [0, -1, 33.4], [0, 0, 1.0]])
        beside = upright + np.array([[0, 0, 2e-4], [0, 0, 0], [0, 0, 0]])
        size = (60, 45)
        assert projected(image, upright, size) == pytest.approx(
            projected(image, beside, size), abs=2e-3
        )

    def test_other_numbers_of_channels_go_along(self) -> None:
        image = smooth(30, 40, 3)
        assert projected(image, np.eye(3), (40, 30)) == pytest.approx(image, abs=1e-6)

    def test_beyond_the_image_there_is_nothing(self) -> None:
        image = np.ones((20, 20, 4), np.float32)
        seen = projected(image, np.array([[1, 0, 30.0], [0, 1, 10.0], [0, 0, 1]]), (80, 60))
        assert seen[:, :29].max() == 0
        assert seen[:9].max() == 0
        assert seen[12:28, 32:48] == pytest.approx(np.ones((16, 16, 4)))

    def test_a_line_that_runs_away_to_the_side_is_not_broken(self) -> None:
        image = np.zeros((400, 400), np.float32)
        image[:, 60:63] = 1
        back = np.array([[1.2, 6.0, 0.0], [0.0, 6.0, 0.0], [0.0, 0.02, 1.0]])
        seen = projected(image, np.linalg.inv(back), (320, 60))
        spans = [np.flatnonzero(row > 0.02) for row in seen]
        spans = [span for span in spans if len(span)]
        assert len(spans) > 5
        for above, below in itertools.pairwise(spans):
            assert above.min() <= below.max() + 1
            assert below.min() <= above.max() + 1

    def test_what_is_far_smaller_than_a_pixel_fades_into_its_mean(self) -> None:
        image = np.zeros((900, 300), np.float32)
        image[::2] = 1
        seen = projected(image, np.diag([1.0, 1 / 45, 1.0]), (300, 20))
        assert seen[3:-3, 10:-10] == pytest.approx(np.full((14, 280), 0.5), abs=0.02)

    def test_a_matrix_that_shows_nothing_gives_nothing(self) -> None:
        assert projected(smooth(9, 9), np.zeros((3, 3)), (5, 4)).max() == 0
