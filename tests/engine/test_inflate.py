"""Inflate: the half sphere, the strip, and what must not happen."""

import numpy as np
import pytest
from scipy.sparse import coo_matrix
from scipy.sparse.linalg import spsolve

from mabrel.field import inflate, signed_distance
from mabrel.source import LetteringStyle, coverage, outline_text
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


def by_direct_solution(distance: np.ndarray) -> np.ndarray:
    """The same equation, solved as one sparse system in double precision."""
    padded = np.pad(distance.astype(float), 1, constant_values=1.0)
    inside = padded < 0
    count = int(inside.sum())
    number = np.full(padded.shape, -1)
    number[inside] = np.arange(count)
    y, x = np.nonzero(inside)
    here = padded[y, x]
    arms, numbers = [], []
    for down, across in ((0, -1), (0, 1), (-1, 0), (1, 0)):
        there = padded[y + down, x + across]
        arms.append(np.where(there < 0, 1, np.maximum(here / (here - there + 1e-30), 0.05)))
        numbers.append(number[y + down, x + across])
    rows, columns = [np.arange(count)], [np.arange(count)]
    values = [-2 / (arms[0] * arms[1]) - 2 / (arms[2] * arms[3])]
    for one, other in ((0, 1), (1, 0), (2, 3), (3, 2)):
        known = numbers[one] >= 0
        rows.append(np.arange(count)[known])
        columns.append(numbers[one][known])
        values.append((2 / (arms[one] * (arms[one] + arms[other])))[known])
    matrix = coo_matrix(
        (np.concatenate(values), (np.concatenate(rows), np.concatenate(columns)))
    ).tocsc()
    solved = np.zeros(padded.shape)
    solved[inside] = spsolve(matrix, np.full(count, -4.0))
    return np.sqrt(np.maximum(solved, 0))[1:-1, 1:-1]


@pytest.mark.parametrize(
    ("font", "size"), [("Titan One", 40), ("Titan One", 150), ("Lobster", 120)]
)
def test_a_word_is_solved_to_one_per_cent_gaps_between_letters_and_all(
    font: str, size: float
) -> None:
    outline = outline_text("FOGHORN", LetteringStyle(font, size=size))
    left, top, right, bottom = (int(side) for side in outline.bounds)
    region = (left - 4, top - 4, right - left + 8, bottom - top + 8)
    matte = coverage(outline, region)
    distance = signed_distance(matte)
    truth = by_direct_solution(distance)
    assert np.abs(inflate(matte, distance) - truth).max() < 0.01 * truth.max()
