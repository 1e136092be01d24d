"""Noise: unit deviation, the same wherever it is looked at."""

import numpy as np
import pytest

from mabrel.field import value_noise
from mabrel.field.fractal import rough_picture
from mabrel.field.noise_at import noise_at, rough_noise


@pytest.mark.parametrize("size", [0.7, 1, 2.5, 6])
def test_it_has_mean_0_and_deviation_1(size: float) -> None:
    noise = value_noise((600, 600), (0, 0), size, 3)
    assert noise.mean() == pytest.approx(0, abs=0.06)
    assert noise.std() == pytest.approx(1, abs=0.05)


def test_regions_of_one_plane_agree_where_they_overlap() -> None:
    whole = value_noise((80, 90), (-37, 12), 3.3, 5)
    part = value_noise((30, 40), (-17, 22), 3.3, 5)
    assert part == pytest.approx(whole[10:40, 20:60], abs=1e-5)


def test_another_seed_is_another_draw() -> None:
    first, second = (value_noise((200, 200), (0, 0), 2, seed) for seed in (1, 2))
    assert abs(np.corrcoef(first.ravel(), second.ravel())[0, 1]) < 0.05


def test_size_must_be_positive() -> None:
    with pytest.raises(ValueError, match="size"):
        value_noise((4, 4), (0, 0), 0, 1)


def test_ripples_finer_than_pixels_fade() -> None:
    """Else a coarse picture of a wet floor would be grain, and flicker as it is made finer."""
    fine, coarse = (rough_picture((200, 200), (0, 0), (60 / by, 12 / by), 3) for by in (1, 40))
    middling = rough_picture((200, 200), (0, 0), (30, 1.7), 3)
    assert fine.std() > 0.2
    assert (coarse == 0).all()
    assert 0 < middling.std() < fine.std()


def test_rough_noise_is_three_octaves_of_noise_at_those_places() -> None:
    draw = np.random.default_rng(4)
    x, y = draw.uniform(-40, 90, (2, 50, 7))
    octaves = [noise_at(x * n, y * n, 0.0, 3 + n) / n for n in (1, 2, 4)]
    assert rough_noise(x, y, 3) == pytest.approx(sum(octaves), abs=1e-5)
