"""sRGB's transfer function for kernels, against the formula."""

import numpy as np
import pytest

from mabrel.colour import light_of, picture_of
from mabrel.colour.powers import power
from mabrel.colour.transfer import encode, lighten
from mabrel.kernels import kernel


@kernel()
def lightened(row):  # type: ignore[no-untyped-def]
    lighten(row)


@kernel()
def coded(row):  # type: ignore[no-untyped-def]
    encode(row)


@kernel()
def raised(row, exponent):  # type: ignore[no-untyped-def]
    for x in range(row.shape[0]):
        row[x] = power(row[x], exponent)


def light(codes: np.ndarray) -> np.ndarray:
    return np.where(codes <= 0.04045, codes / 12.92, ((codes + 0.055) / 1.055) ** 2.4)


def code(lights: np.ndarray) -> np.ndarray:
    return np.where(lights <= 0.0031308, lights * 12.92, 1.055 * lights ** (1 / 2.4) - 0.055)


class TestTransfer:
    @pytest.mark.parametrize(("low", "high"), [(0, 1), (1, 4), (4, 60), (60, 900)])
    def test_it_follows_the_formula_also_beyond_white(self, low: float, high: float) -> None:
        row = np.linspace(low, high, 20_001).astype(np.float32)
        exact = row.astype(np.float64)
        one, other = row.copy(), row.copy()
        lightened(one)
        coded(other)
        assert np.abs(one - light(exact)).max() <= 2e-6 * max(light(np.array(float(high))), 1)
        assert np.abs(other - code(exact)).max() <= 2e-6 * max(code(np.array(float(high))), 1)

    def test_negative_light_is_mirrored(self) -> None:
        row = np.array([-0.5, -0.001, 0.0, 0.5], np.float32)
        coded(row)
        assert row[0] == -row[3]
        assert row[1] < row[2] == 0

    def test_what_is_far_too_bright_stays_finite(self) -> None:
        row = np.array([1e3, 1e9, 1e30], np.float32)
        lightened(row)
        assert np.isfinite(row).all()
        row = np.array([1e3, 1e9, 1e30], np.float32)
        coded(row)
        assert np.isfinite(row).all()
        assert (np.diff(row) >= 0).all()


class TestPictures:
    def test_alpha_stays_and_uncovered_light_is_light(self) -> None:
        picture = np.zeros((1, 2, 4), np.float32)
        picture[0, 0] = (0.25, 0.25, 0.25, 0.5)
        picture[0, 1, :3] = 0.5
        lit = light_of(picture)
        assert lit[0, :, 3].tolist() == [0.5, 0]
        half = float(light(np.array(0.5)))
        assert lit[0, 0, 0] == pytest.approx(0.5 * half, abs=1e-6)
        assert lit[0, 1, 0] == pytest.approx(half, abs=1e-6)
        assert picture_of(lit) == pytest.approx(picture, abs=2e-6)


@pytest.mark.parametrize("exponent", [0.0, 0.1, 0.5, 1.0, 1.15, 2.0, 3.0])
def test_a_power_is_one_from_hardly_anything_to_far_too_bright(exponent: float) -> None:
    row = np.geomspace(1e-12, 1e5, 20_001).astype(np.float32)
    exact = row.astype(np.float64) ** exponent
    raised(row, np.float32(exponent))
    assert np.abs(row / exact - 1).max() < 1e-5
