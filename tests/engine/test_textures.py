"""Made patterns: even, antialiased, and without a seam."""

import numpy as np
import pytest

from mabrel.field.fractal import fractal_noise
from mabrel.field.patterns import checker, dots, square_wave, stripes


def test_a_square_wave_is_its_mean_over_each_pixel() -> None:
    place = np.linspace(-3, 3, 4001).astype(np.float32)
    fine = np.where(np.floor(place) % 2 == 0, 1.0, -1.0)
    assert np.mean(np.abs(square_wave(place, 0.01) - fine)) < 0.02
    wide = square_wave(place, 0.5)
    assert np.abs(np.diff(wide)).max() < 0.01


@pytest.mark.parametrize("width", [3.0, 10.0, 25.5])
def test_stripes_are_half_dark_and_half_light(width: float) -> None:
    tones = stripes(np.arange(5100, dtype=np.float32), width)
    assert tones.mean() == pytest.approx(0.5, abs=0.01)
    turns = np.sum(np.diff(tones > 0.5))
    assert turns == pytest.approx(5100 / width, abs=2)


def test_a_chessboard_turns_over_from_field_to_field() -> None:
    x = np.arange(80, dtype=np.float32)[None, :] + 0.5
    y = np.arange(60, dtype=np.float32)[:, None] + 0.5
    board = checker(x, y, 10, 10)
    assert board[5:20:10, 5:20:10] == pytest.approx(np.eye(2), abs=1e-5)


def test_patterns_finer_than_a_pixel_are_grey() -> None:
    x = np.arange(200, dtype=np.float32)[None, :]
    assert np.abs(stripes(x, 0.3) - 0.5).max() < 0.2
    assert dots(x, x.T, 1, 1, 0.6).std() < 0.02


def test_dots_cover_their_share() -> None:
    x = np.arange(400, dtype=np.float32)[None, :] + 0.5
    tones = dots(x, x.T, 40, 40, 0.5)
    assert tones.mean() == pytest.approx(np.pi / 4 * 0.25, rel=0.03)


class TestClouds:
    def noise(self, **how) -> np.ndarray:
        return fractal_noise((160, 200), (-40, 13), (30, 30), **({"seed": 2} | how))

    def test_they_lie_about_the_middle(self) -> None:
        clouds = fractal_noise((600, 600), (0, 0), (40, 40))
        assert clouds.mean() == pytest.approx(0.5, abs=0.03)
        assert 0.08 < clouds.std() < 0.3

    def test_regions_of_one_plane_agree(self) -> None:
        part = fractal_noise((50, 60), (-20, 33), (30, 30), seed=2)
        assert part == pytest.approx(self.noise()[20:70, 20:80], abs=1e-5)

    def test_more_octaves_are_finer(self) -> None:
        def roughness(noise: np.ndarray) -> float:
            return float(np.abs(np.diff(noise, axis=1)).mean() / noise.std())

        rough = [roughness(self.noise(octaves=n)) for n in (1, 3, 5)]
        assert rough[0] < rough[1] < rough[2]

    def test_octaves_below_the_pixel_change_nothing(self) -> None:
        few, many = (fractal_noise((64, 64), (0, 0), (4, 4), octaves=n) for n in (3, 8))
        assert np.corrcoef(few.ravel(), many.ravel())[0, 1] > 0.999

    def test_stretched_they_are_streaks(self) -> None:
        streaks = fractal_noise((200, 200), (0, 0), (200, 4))
        along, across = (np.abs(np.diff(streaks, axis=axis)).mean() for axis in (1, 0))
        assert across > 10 * along

    def test_veins_are_bright_lines_on_dark(self) -> None:
        veins = self.noise(ridged=True)
        assert veins.min() >= 0
        assert veins.max() <= 1
        assert (veins > 0.85).mean() < 0.5

    def test_seed_and_phase_draw_others(self) -> None:
        assert np.abs(self.noise() - self.noise(seed=3)).mean() > 0.05
        assert np.abs(self.noise() - self.noise(phase=0.5)).mean() > 0.03
        assert np.abs(self.noise() - self.noise(phase=0.01)).mean() < 0.02

    @pytest.mark.parametrize("size", [(0, 5), (5, -1), (float("nan"), 5)])
    def test_size_must_be_positive(self, size: tuple[float, float]) -> None:
        with pytest.raises(ValueError, match="size"):
            fractal_noise((4, 4), (0, 0), size)
