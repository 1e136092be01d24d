"""Inflate: the half sphere, the strip, and what must not happen."""

import numpy as np
import pytest

from mabrel.field import inflate
from tests.engine.shapes import centres, disc


@pytest.mark.parametrize("radius", [12.4, 40.7, 83.3])
def test_a_disc_becomes_a_half_sphere_to_one_per_cent(radius: float) -> None:
    size = int(2 * radius + 20)
    x0, y0 = size / 2 - 0.7, size / 2 + 0.2
    height = inflate(disc(radius, size, x0, y0))
    x, y = centres(height.shape)
    away = np.hypot(x - x0, y - y0)
    truth = np.sqrt(np.maximum(radius**2 - away**2, 0))
    assert np.abs(height - truth)[away < 0.97 * radius].max() < 0.01 * radius


def test_a_long_straight_stroke_becomes_an_elliptic_cylinder() -> None:
    coverage = np.zeros((400, 120), np.float32)
    coverage[:, 30:80] = 1
    coverage[:, 80] = 0.4
    half, middle = 25.2, 29.5 + 25.2
    truth = np.sqrt(np.maximum(2 * (half**2 - (np.arange(120) - middle) ** 2), 0))
    assert np.abs(inflate(coverage)[200] - truth)[32:78].max() < 0.01 * half


def test_letters_do_not_swell_beyond_their_outline_or_below_the_card() -> None:
    coverage = disc(30, 80, 40, 40)
    height = inflate(coverage)
    assert (height[coverage == 0] == 0).all()
    assert (height >= 0).all()


def test_nothing_inside_stays_flat() -> None:
    assert (inflate(np.zeros((30, 30), np.float32)) == 0).all()


def test_it_can_be_given_up() -> None:
    def stop() -> None:
        raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        inflate(disc(30, 80, 40, 40), pause=stop)
