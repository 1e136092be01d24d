"""Signed distance: against circles, a turned square, and its own promises."""

import numpy as np
import pytest

from mabrel.field import signed_distance
from tests.engine.shapes import centres, disc, in_square, turned_square


def test_distance_to_a_circle_is_right_to_a_tenth_of_a_pixel_and_a_hundredth_on_average() -> None:
    distance = signed_distance(disc(83.3, 256, 127.3, 128.6))
    x, y = centres(distance.shape)
    error = np.abs(distance - (np.hypot(x - 127.3, y - 128.6) - 83.3))
    near = np.abs(distance) < 40
    assert error[near].max() < 0.1
    assert error.max() < 0.15
    assert error.mean() < 0.01


@pytest.mark.parametrize("degrees", [0, 23, 45, 71])
def test_distance_to_a_turned_square(degrees: float) -> None:
    distance = signed_distance(turned_square(60, 256, 128.2, 127.4, degrees))
    u, v = in_square(*centres(distance.shape), 128.2, 127.4, np.radians(degrees))
    beyond_x, beyond_y = np.abs(u) - 60, np.abs(v) - 60
    outside = np.hypot(np.maximum(beyond_x, 0), np.maximum(beyond_y, 0))
    truth = outside + np.minimum(np.maximum(beyond_x, beyond_y), 0)
    error = np.abs(distance - truth)
    beside = np.minimum(beyond_x, beyond_y) < -6  # across a side, not around a corner
    assert error[beside].max() < 0.2
    # Half coverage rounds a corner by at most half a pixel.
    assert error.max() < 0.7


def test_a_straight_edge_between_pixels_is_found_from_its_coverage() -> None:
    for share in (0.0, 0.2, 0.5, 0.9):
        coverage = np.zeros((20, 40), np.float32)
        coverage[:, :15] = 1
        coverage[:, 15] = share
        distance = signed_distance(coverage)
        assert distance[10] == pytest.approx(np.arange(40) - (14.5 + share), abs=1e-3)


def test_inside_is_negative_and_an_empty_picture_has_no_edge() -> None:
    assert (signed_distance(np.zeros((8, 9), np.float32)) > 1e8).all()
    assert (signed_distance(np.ones((8, 9), np.float32)) < -1e8).all()
    coverage = disc(10, 40, 20, 20)
    clear = coverage != 0.5
    assert ((signed_distance(coverage) < 0) == (coverage > 0.5))[clear].all()


def test_a_soft_ramp_has_its_edge_half_way() -> None:
    ramp = np.clip((np.arange(64, dtype=np.float32) - 20.3) / 17, 0, 1)
    distance = signed_distance(np.tile(ramp, (12, 1)))
    assert np.interp(0, -distance[6], np.arange(64)) == pytest.approx(20.3 + 8.5, abs=0.02)


def test_coverage_must_be_an_image() -> None:
    with pytest.raises(ValueError, match="must be"):
        signed_distance(np.zeros(5, np.float32))
