"""Extrusion: equal to finely stacked copies."""

import cv2
import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.extrusion import extrude, silhouette
from mabrel.source import LetteringStyle, coverage, outline_text

COPIES = 500  # each moved by less than a tenth of a pixel
FINE = 3  # parts of a pixel in which copies are stacked
FONTS = ("Lilita One", "Titan One", "Archivo Black", "Bevan", "Pacifico")
Word = tuple[np.ndarray, np.ndarray]


def set_in(font: str, fine: int) -> np.ndarray:
    outline = outline_text("Rg8", LetteringStyle(font, size=80 * fine))
    return coverage(outline, (-120 * fine, -90 * fine, 240 * fine, 190 * fine))


@pytest.fixture(scope="module", params=FONTS)
def word(request: pytest.FixtureRequest) -> Word:
    """A word's coverage, and that in finer pixels, 0..255."""
    return set_in(request.param, 1), np.round(set_in(request.param, FINE) * 255).astype(np.uint8)


def stacked(fine: np.ndarray, matrices: list[list[list[float]]]) -> np.ndarray:
    """The union of copies, each moved in pixels from the corner, as coverage."""
    height, width = fine.shape
    union = fine.copy()
    for (a, b, x), (c, d, y) in matrices:
        matrix = np.array([[a, b, x * FINE], [c, d, y * FINE]])
        copy = cv2.warpAffine(fine, matrix, (width, height), flags=cv2.INTER_LINEAR)
        np.maximum(union, copy, out=union)
    size = (width // FINE, height // FINE)
    return cv2.resize(union.astype(np.float32) / 255, size, interpolation=cv2.INTER_AREA)


def intersection_over_union(a: np.ndarray, b: np.ndarray) -> float:
    return float(np.minimum(a, b).sum() / np.maximum(a, b).sum())


@pytest.mark.parametrize("degrees", [90, 30, 200])
def test_in_a_direction_it_is_the_union_of_copies(word: Word, degrees: float) -> None:
    x, y = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    sides = extrude(signed_distance(word[0]), towards=(x, y), length=40)
    steps = np.linspace(0, 40, COPIES)
    copies = stacked(word[1], [[[1, 0, x * step], [0, 1, y * step]] for step in steps])
    assert intersection_over_union(sides.coverage, copies) >= 0.995


@pytest.mark.parametrize("point", [(120, 360), (20, 80)])
def test_towards_a_point_it_is_the_union_of_shrinking_copies(
    word: Word, point: tuple[float, float]
) -> None:
    shrink = 0.2
    sides = extrude(signed_distance(word[0]), towards=point, shrink=shrink)
    x, y = point[0] + 0.5, point[1] + 0.5  # from the array's corner
    shares = np.linspace(0, shrink, COPIES)
    copies = stacked(word[1], [[[1 - k, 0, x * k], [0, 1 - k, y * k]] for k in shares])
    assert intersection_over_union(sides.coverage, copies) >= 0.995


def test_depth_grows_along_the_side_from_the_face_to_the_far_end() -> None:
    square = np.zeros((120, 80), np.float32)
    square[20:50, 20:60] = 1
    sides = extrude(signed_distance(square), towards=(0, 1), length=40)
    below = sides.depth[51:89, 40]
    assert below == pytest.approx((np.arange(51, 89) - 49.5) / 40, abs=0.02)
    assert sides.normal[60, 40] == pytest.approx([0, 1], abs=0.02)


def test_a_side_has_no_stairs() -> None:
    """The silhouette of a slanted side is antialiased: its edge moves evenly from row to row."""
    square = np.zeros((160, 160), np.float32)
    square[20:60, 20:60] = 1
    sides = extrude(signed_distance(square), towards=(0.6, 0.8), length=80)
    for rows in (slice(64, 82), slice(90, 118)):  # between the corners of the silhouette
        edge = sides.coverage[rows].sum(axis=1)
        assert np.abs(np.diff(edge, 2)).max() < 0.12


def test_nothing_to_extrude_gives_nothing() -> None:
    empty = signed_distance(np.zeros((30, 30), np.float32))
    assert extrude(empty, towards=(0, 1), length=10).coverage.max() == 0


def square(size: int = 160, low: int = 50, high: int = 110) -> np.ndarray:
    matte = np.zeros((size, size), np.float32)
    matte[low:high, low:high] = 1
    return signed_distance(matte)


def test_a_taper_narrows_the_far_end_and_a_swell_widens_the_middle() -> None:
    share = np.linspace(0, 1, 65)
    straight = extrude(square(), towards=(0, 1), length=40)
    tapered = extrude(square(), towards=(0, 1), length=40, profile=-20 * share)
    swollen = extrude(square(), towards=(0, 1), length=40, profile=12 * np.sin(np.pi * share))

    def width(sides, row: int) -> float:
        return float(sides.coverage[row].sum())

    assert width(straight, 145) == pytest.approx(60, abs=0.5)
    # 25 px down the far copies, narrower by as much as they are deep, come to their edges.
    assert width(tapered, 118) < 50
    assert width(swollen, 130) == pytest.approx(84, abs=1)


def test_from_behind_the_back_is_the_nearest_and_largest() -> None:
    """An eye at 400 behind a body 100 deep: its back lies at 300, larger by 4 / 3."""
    sides = extrude(square(), towards=(79.5, 79.5), shrink=0.25, grow=4 / 3)
    assert np.sqrt(sides.coverage.sum()) == pytest.approx(80, abs=0.4)
    assert sides.depth[79, 79] == 0
    assert sides.depth[79, 79 + 37] == 0  # of the enlarged back, not of the face


def test_at_the_rim_that_it_leaves_one_sees_what_lies_beyond() -> None:
    """Between two blocks the left one's right edge shows the right one's side, not its own."""
    matte = np.zeros((60, 120), np.float32)
    matte[20:40, 10:40] = 1
    matte[20:40, 70:100] = 1
    matte[20:40, 40] = 0.4
    sides = extrude(signed_distance(matte), towards=(-1, 0), length=80)
    assert sides.normal[30, 40] == pytest.approx([-1, 0], abs=0.05)
    assert sides.depth[30, 40] == pytest.approx(30 / 80, abs=0.02)


@pytest.mark.parametrize("upright", [False, True])
def test_a_grid_of_one_row_or_column_is_as_one_of_three(upright: bool) -> None:
    """Rays once read what lay in memory before it."""
    row = np.linspace(-5, 5, 40, dtype=np.float32)[None]
    way = (0.0, 1.0) if upright else (1.0, 0.0)
    for length in (0.0, 6.0):
        one, three = (
            silhouette(
                np.ascontiguousarray(each.T if upright else each), towards=way, length=length
            )
            for each in (row, np.repeat(row, 3, axis=0))
        )
        for narrow, wide in zip(one, three, strict=True):
            middle = wide[:, 1:2] if upright else wide[1:2]
            assert narrow == pytest.approx(middle, abs=1e-5)
