"""Signed distance: against circles, a turned square, and its own promises."""

import cv2
import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.edge_crossings import NONE, crossings
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


def test_outside_a_large_circle_it_is_right_to_a_tenth_of_a_pixel_everywhere() -> None:
    for x, y in ((100, 100), (120.3, 109.6)):
        distance = signed_distance(disc(83.3, 260, x, y))
        px, py = centres(distance.shape)
        error = np.abs(distance - (np.hypot(px - x, py - y) - 83.3))
        assert error[distance > -80].max() < 0.1


@pytest.mark.parametrize("softness", [0, 1, 3])
def test_it_is_the_distance_to_the_nearest_piece_of_edge_whatever_the_shape(softness: int) -> None:
    coverage = noise(3, 60, softness)
    distance = np.abs(signed_distance(coverage))
    assert np.abs(distance - to_pieces(pieces(coverage), distance.shape)).max() < 0.1


def test_next_to_an_edge_its_pieces_count_exactly() -> None:
    coverage = noise(8, 150, 5)
    truth = to_pieces(pieces(coverage), coverage.shape)
    error = np.abs(np.abs(signed_distance(coverage)) - truth)
    assert (truth > 6).any()
    assert error[truth < 6].max() < 1e-4
    assert error.max() < 0.03


def test_it_is_the_same_wherever_the_shape_lies_in_the_picture() -> None:
    coverage = noise(5, 90, 4)
    coverage[:3] = coverage[-3:] = coverage[:, :3] = coverage[:, -3:] = 0
    here = signed_distance(coverage)
    away = signed_distance(np.pad(coverage, ((71, 130), (40, 9))))[71:161, 40:130]
    assert np.abs(here - away).max() < 1e-4


@pytest.mark.parametrize("seed", [1, 4, 6])
def test_noise_has_a_distance_too(seed: int) -> None:
    distance = signed_distance(noise(seed, 1000, 0))
    assert np.abs(distance).max() < 10


def noise(seed: int, side: int, softness: int) -> np.ndarray:
    grain = np.random.default_rng(seed).random((side, side), dtype="float32")
    if softness:
        grain = cv2.GaussianBlur(grain, (0, 0), softness)
        grain = np.clip((grain - grain.mean()) / grain.std() + 0.5, 0, 1)
    return grain


def pieces(coverage: np.ndarray) -> np.ndarray:
    """The edge between each four centres, (N, 4: x1, y1, x2, y2)."""
    _, across, down = crossings(coverage)
    found = []
    for y in range(coverage.shape[0] - 1):
        for x in range(coverage.shape[1] - 1):
            ends = [
                (x + across[y, x], y) if across[y, x] != NONE else None,
                (x, y + down[y, x]) if down[y, x] != NONE else None,
                (x + 1, y + down[y, x + 1]) if down[y, x + 1] != NONE else None,
                (x + across[y + 1, x], y + 1) if across[y + 1, x] != NONE else None,
            ]
            there = [end for end in ends if end is not None]
            found += [(*a, *b) for a, b in zip(there[::2], there[1::2], strict=True)]
    return np.array(found)


def to_pieces(pieces: np.ndarray, shape: tuple[int, int]) -> np.ndarray:
    start, way = pieces[:, :2], pieces[:, 2:] - pieces[:, :2]
    point = np.stack(centres(shape), axis=-1)[:, :, None]
    share = ((point - start) * way).sum(-1) / np.maximum((way**2).sum(-1), 1e-12)
    foot = start + np.clip(share, 0, 1)[..., None] * way
    return np.hypot(*np.moveaxis(point - foot, -1, 0)).min(-1)
