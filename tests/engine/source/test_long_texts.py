"""Texts that are long, laid over one another, or hold characters that no text should."""

import unicodedata

import numpy as np
import pytest

from mabrel.source import LetteringStyle, coverage, outline_text
from mabrel.source.uniting import combined, united

SIZE = 40


def covered(text: str, spacing: float = 0.0, font: str = "Titan One") -> np.ndarray:
    style = LetteringStyle(font, size=SIZE, letter_spacing=spacing)
    outline = outline_text(text, style)
    left, top, right, bottom = (int(side) for side in outline.bounds)
    return coverage(outline, (left - 4, top - 4, right - left + 8, bottom - top + 8))


def square(x: float, y: float, side: float) -> np.ndarray:
    """Closed outlines of a square."""
    corners = np.array([(x, y), (x + side, y), (x + side, y + side), (x, y + side)])
    return np.hstack([corners, np.roll(corners, -1, axis=0)])


def area(lines: np.ndarray) -> float:
    x1, y1, x2, y2 = lines.T
    return abs(float((x1 * y2 - x2 * y1).sum()) / 2)


def test_two_thousand_letters_have_the_outlines_of_each() -> None:
    letters = "HO" * 1000
    lines = outline_text(letters, LetteringStyle(size=SIZE)).lines()
    one = outline_text("HO", LetteringStyle(size=SIZE)).lines()
    assert len(lines) == 1000 * len(one)
    assert area(lines) == pytest.approx(1000 * area(one), rel=1e-6)


def test_two_thousand_letters_over_one_another_become_one_outline() -> None:
    advance = covered("II").shape[1] - covered("I").shape[1]
    heap = covered("I" * 2000, spacing=0.5 - advance)
    assert 900 < heap.shape[1] < 2000
    assert heap[heap.shape[0] // 2, 20:-20].min() > 0.99
    assert heap.max() <= 1


@pytest.mark.parametrize("font", ["Titan One", "Pacifico", "Archivo Black"])
def test_overlapping_letters_cover_what_either_of_them_covers(font: str) -> None:
    style = LetteringStyle(font, size=SIZE, letter_spacing=-0.3 * SIZE)
    outline = outline_text("OB", style)
    left, top, right, bottom = (int(side) for side in outline.bounds)
    region = (left - 4, top - 4, right - left + 8, bottom - top + 8)
    both = coverage(outline, region)
    single = [
        coverage(type(outline)(outline.path, (letter,), outline.bounds, ()), region)
        for letter in outline.letters
    ]
    either = np.maximum(*single)
    assert np.abs(both - either).mean() < 2e-3
    assert both[either > 0.99].min() > 0.98


def test_squares_are_joined_where_they_touch_and_left_alone_where_they_do_not() -> None:
    apart = united([square(0, 0, 2), square(5, 0, 2)])
    assert len(apart) == 8
    assert area(united([square(0, 0, 2), square(1, 0, 2)])) == pytest.approx(6)
    assert area(united([square(0, 0, 2), square(0, 0, 2)])) == pytest.approx(4)


def test_shapes_are_cut_out_of_what_they_touch_alone() -> None:
    lines = np.concatenate([square(0, 0, 10), square(20, 0, 10)])
    hole = square(3, 3, 4)[:, :2]
    assert area(combined(lines, [hole], cut=True)) == pytest.approx(200 - 16)
    assert area(combined(lines, [hole], cut=False)) == pytest.approx(200)
    assert area(combined(lines, [square(8, 0, 4)[:, :2]], cut=False)) == pytest.approx(208)
    assert len(combined(square(0, 0, 2), [square(-1, -1, 9)[:, :2]], cut=True)) == 0


CODES = (*range(0x2060, 0x2070), *range(0x200B, 0x2010), *range(0x2028, 0x202F), 0x0590, 0x061C)
CONTROLS = [chr(code) for code in CODES]


@pytest.mark.parametrize("control", CONTROLS, ids=lambda each: f"U+{ord(each):04X}")
def test_control_characters_are_set_like_nothing_at_all(control: str) -> None:
    assert unicodedata.category(control) in ("Cf", "Cn", "Zl", "Zp")
    for text in (control, f"A{control}B", f"א{control}ב1", control * 9 + "é"):
        outline_text(text, LetteringStyle(size=SIZE))


def test_an_embedding_turns_what_is_in_it_and_a_joiner_nothing() -> None:
    from mabrel.source.shaping import _levels

    assert _levels("ab\u202exy\u202cc")[3:5] == [1, 1]
    assert _levels("א\u200dב 12 ab") == [1, 1, 1, 1, 2, 2, 1, 2, 2]
    assert _levels("ab\u2066אב\u2069c") == [0, 0, 0, 1, 1, 0, 0]
