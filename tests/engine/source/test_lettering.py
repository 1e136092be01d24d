"""Lettering: shaping, fallback, centring, coverage."""

import numpy as np
import pytest

from mabrel.source import (
    FontError,
    LetteringStyle,
    coverage,
    families,
    family,
    letter_height,
    outline_text,
    svg_path,
)
from mabrel.source.shaping import shape_text


def width(text: str, **style) -> float:
    left, _, right, _ = outline_text(text, LetteringStyle(size=100, **style)).bounds
    return right - left


def glyphs(text: str, font: str) -> list[int]:
    return [glyph.glyph for glyph in shape_text(text, family(font), "").glyphs]


def test_there_are_fonts_of_every_sort_with_their_licences() -> None:
    assert len(families()) >= 14
    kinds = " ".join(each.kind for each in families().values())
    for sort in ("fat", "round", "slab", "high-contrast serif", "condensed", "script", "pixel"):
        assert sort in kinds
    for each in families().values():
        paths = next(iter(each.styles.values()))
        assert "Open Font License" in (paths[0].parent / "LICENSE.txt").read_text()


def test_the_ink_is_centred_on_the_origin() -> None:
    for text in ("g", "Ty", "A\nlonger"):
        left, top, right, bottom = outline_text(text, LetteringStyle(size=80)).bounds
        assert (left, top) == pytest.approx((-right, -bottom))


def test_pairs_are_kerned() -> None:
    assert width("AVAVAV", font="Anton") != pytest.approx(width("AAAVVV", font="Anton"), abs=0.5)


def test_ligatures_form_and_give_way_to_letter_spacing() -> None:
    assert len(glyphs("fi", "Playfair Display")) == 1
    spaced = shape_text("fi", family("Playfair Display"), "", letter_spacing=0.1)
    assert len(spaced.glyphs) == 2


def test_letter_spacing_stands_between_letters() -> None:
    assert width("HHH", letter_spacing=20) == pytest.approx(width("HHH") + 40, abs=0.1)


def test_arabic_runs_from_right_to_left_and_its_letters_join() -> None:
    isolated = glyphs("ب", "Lalezar")
    joined = shape_text("ببب", family("Lalezar"), "")
    assert len({glyph.glyph for glyph in joined.glyphs} - set(isolated)) >= 2
    assert width("شراع", font="Lalezar", letter_spacing=30) == pytest.approx(
        width("شراع", font="Lalezar")
    )


def test_mixed_directions_are_ordered_by_the_bidirectional_algorithm() -> None:
    text = "ab شر cd"
    first = min(shape_text(text, family("Lalezar"), "").glyphs, key=lambda glyph: glyph.x)
    assert first.glyph == glyphs("a", "Lalezar")[0]
    only = shape_text("شر ab", family("Lalezar"), "")
    assert min(only.glyphs, key=lambda glyph: glyph.x).glyph == glyphs("a", "Lalezar")[0]


def test_devanagari_clusters_are_shaped() -> None:
    # The vowel sign i is spoken after its consonant and stands before it.
    shaped = shape_text("कि", family("Modak"), "").glyphs
    assert min(shaped, key=lambda glyph: glyph.x).glyph != glyphs("क", "Modak")[0]


def test_lines_are_spaced_and_aligned() -> None:
    def lefts(align: str) -> list[float]:
        shaped = shape_text("HHHH\nH", family("Anton"), "", align=align).glyphs
        return [min(g.x for g in shaped if g.y == y) for y in sorted({g.y for g in shaped})]

    assert lefts("left") == pytest.approx([0, 0])
    assert lefts("right")[1] > lefts("centre")[1] > 0
    tight, wide = (outline_text("H\nH", LetteringStyle(line_spacing=s)).bounds for s in (0.8, 2))
    assert wide[3] > tight[3]


def test_a_letter_that_the_font_lacks_is_borrowed_and_said() -> None:
    outline = outline_text("Aش", LetteringStyle("Titan One"))
    assert outline.notices == ("Titan One has no ش: taken from Lalezar.",)


def test_a_letter_that_no_font_has_is_left_out_and_said() -> None:
    outline = outline_text("A日", LetteringStyle())
    assert outline.notices == ("No font here has 日: left out.",)
    assert outline.bounds == outline_text("A", LetteringStyle()).bounds


@pytest.mark.parametrize("text", ["", " ", "\n", "\u200f", "\t"])
def test_words_without_ink_are_empty_and_no_error(text: str) -> None:
    assert outline_text(text, LetteringStyle()).empty


def test_an_unknown_font_or_style_is_named() -> None:
    with pytest.raises(FontError, match="'Comic'"):
        outline_text("A", LetteringStyle("Comic"))
    with pytest.raises(FontError, match="has no style 'Thin'"):
        outline_text("A", LetteringStyle("Fredoka", "Thin"))


def test_coverage_adds_up_to_the_area_and_moves_with_the_shift() -> None:
    outline = outline_text("I", LetteringStyle("Press Start 2P", size=77))
    region = (-60, -60, 120, 120)
    whole = coverage(outline, region)
    assert coverage(outline, region, (0.37, 0.61)).sum() == pytest.approx(whole.sum(), rel=1e-5)
    assert np.roll(whole, 3, axis=1) == pytest.approx(coverage(outline, region, (3, 0)), abs=0.01)
    assert set(np.unique(whole)) - {0, 1}, "edges are antialiased"


def test_letter_height_is_that_of_the_capitals() -> None:
    _, top, _, bottom = outline_text("H", LetteringStyle("Anton", size=200)).bounds
    assert letter_height(family("Anton"), "", 200) == pytest.approx(bottom - top, abs=0.1)


def test_outlines_can_be_had_as_svg() -> None:
    path = svg_path(outline_text("O", LetteringStyle(size=100)))
    assert path.startswith("M")
    assert path.count("Z") == 2
