"""Blur: within 1/255 of the true Gaussian for every radius, and lossless at its promises."""

import cv2
import numpy as np
import pytest
from scipy.ndimage import gaussian_filter

from mabrel.field import blur_margin, gaussian_blur, softened
from mabrel.field.separable import weighted
from mabrel.field.varying_blur import varying_blur


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


@pytest.mark.parametrize("shape", [(1, 1), (3, 700), (90, 40), (70, 1100), (33, 190, 4), (9, 5, 3)])
@pytest.mark.parametrize("reach", [0, 1, 4, 13])
def test_weights_are_those_of_a_filter_along_both_axes(shape: tuple[int, ...], reach: int) -> None:
    image = np.random.default_rng(reach).random(shape).astype(np.float32)
    weights = np.linspace(1, 0.1, reach + 1, dtype=np.float32)
    line = np.concatenate([weights[:0:-1], weights])
    line /= line.sum()
    by_library = cv2.sepFilter2D(image, cv2.CV_32F, line, line, borderType=cv2.BORDER_CONSTANT)
    assert weighted(image, line[reach:]) == pytest.approx(by_library.reshape(shape), abs=2e-6)


@pytest.mark.parametrize("channels", [1, 3, 4])
def test_where_the_blur_varies_each_row_has_that_of_its_own_width(channels: int) -> None:
    image = np.random.default_rng(2).random((160, 90, channels)).astype(np.float32)
    image[:40] = image[120:] = 0
    sigma = np.repeat(np.linspace(1, 18, 160, dtype=np.float32)[:, None], 90, axis=1)
    blurred = varying_blur(image, sigma)
    for row in (45, 80, 110):
        alone = gaussian_blur(image, float(sigma[row, 0]))[row].reshape(90, channels)
        assert np.abs(blurred[row] - alone).max() < 0.05
    for channel in range(channels):
        alone = varying_blur(np.ascontiguousarray(image[..., channel]), sigma)
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
