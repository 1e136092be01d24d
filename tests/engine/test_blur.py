"""Blur: within 1/255 of the true Gaussian for every radius, and lossless at its promises."""

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter

from mabrel.field import blur_margin, gaussian_blur, softened


@pytest.fixture(scope="module")
def picture() -> np.ndarray:
    image = np.zeros((300, 380), np.float32)
    image[90:170, 120:250] = 1
    image[5:25, 10:60] = 1
    image[150:290:7, 300:] = 1
    image[60, 60] = 1
    return image


@pytest.mark.parametrize("sigma", [0.3, 1, 4, 6, 6.5, 8, 11, 17, 33, 64, 120])
def test_it_equals_the_true_gaussian(picture: np.ndarray, sigma: float) -> None:
    truth = gaussian_filter(picture.astype(float), sigma, mode="constant", truncate=6)
    assert np.abs(gaussian_blur(picture, sigma) - truth).max() < 0.002


def test_colours_blur_as_each_channel_does(picture: np.ndarray) -> None:
    colours = np.stack([picture, picture * 0.5, 1 - picture, picture], axis=-1)
    blurred = gaussian_blur(colours, 20)
    for channel in range(4):
        alone = gaussian_blur(np.ascontiguousarray(colours[..., channel]), 20)
        assert blurred[..., channel] == pytest.approx(alone, abs=1e-6)


def test_nothing_that_can_be_seen_reaches_beyond_the_margin() -> None:
    for sigma in (2, 30):
        room = blur_margin(sigma)
        edge = np.zeros((3, 6 * room), np.float32)
        edge[:, : 2 * room] = 1
        edge = np.tile(edge[:1], (8 * room, 1))
        middle = gaussian_blur(edge, sigma)[4 * room]
        assert middle[3 * room] < 1 / 510


def test_sigma_must_not_be_negative_or_nan() -> None:
    for wrong in (-1, float("nan")):
        with pytest.raises(ValueError, match="sigma"):
            gaussian_blur(np.zeros((4, 4), np.float32), wrong)


def test_softening_draws_nothing_in_from_beyond_the_outline() -> None:
    inside = np.zeros((60, 60), np.float32)
    inside[20:40, 20:40] = 1
    level = softened(inside * 7, inside, 3)
    assert level[21:39, 21:39] == pytest.approx(np.full((18, 18), 7.0), abs=1e-3)
