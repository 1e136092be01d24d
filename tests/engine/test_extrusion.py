"""Extrusion: equal to finely stacked copies."""

import cv2
import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.extrusion import extrude
from mabrel.source import LetteringStyle, coverage, outline_text

COPIES = 400


@pytest.fixture(scope="module")
def word() -> np.ndarray:
    outline = outline_text("Rg8", LetteringStyle("Lilita One", size=90))
    return coverage(outline, (-150, -120, 300, 240))


def moved(image: np.ndarray, matrix: list[list[float]]) -> np.ndarray:
    height, width = image.shape
    return cv2.warpAffine(image, np.array(matrix), (width, height), flags=cv2.INTER_LINEAR)


def intersection_over_union(a: np.ndarray, b: np.ndarray) -> float:
    return float(np.minimum(a, b).sum() / np.maximum(a, b).sum())


@pytest.mark.parametrize("degrees", [90, 30, 200])
def test_in_a_direction_it_is_the_union_of_copies(word: np.ndarray, degrees: float) -> None:
    x, y = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    sides = extrude(signed_distance(word), towards=(x, y), length=40)
    stacked = word.copy()
    for share in np.linspace(0, 40, COPIES):
        stacked = np.maximum(stacked, moved(word, [[1, 0, x * share], [0, 1, y * share]]))
    assert intersection_over_union(sides.coverage, stacked) > 0.99


@pytest.mark.parametrize("point", [(150, 420), (20, 100)])
def test_towards_a_point_it_is_the_union_of_shrinking_copies(
    word: np.ndarray, point: tuple[float, float]
) -> None:
    shrink = 0.2
    sides = extrude(signed_distance(word), towards=point, shrink=shrink)
    stacked = word.copy()
    for k in np.linspace(0, shrink, COPIES):
        copy = moved(word, [[1 - k, 0, point[0] * k], [0, 1 - k, point[1] * k]])
        stacked = np.maximum(stacked, copy)
    assert intersection_over_union(sides.coverage, stacked) > 0.99


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
