"""Lettering: words as outlines, and their exact coverage of the pixels."""

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.field.fill import fill
from mabrel.source.drawing import skia
from mabrel.source.flatten import Curves, Lines, curves_of, straightened
from mabrel.source.fonts import Face, Family, family
from mabrel.source.shaping import ShapedText, shape_text
from mabrel.source.uniting import united

_SVG_VERBS = {
    skia.Path.kMove_Verb: ("M", 1),
    skia.Path.kLine_Verb: ("L", 1),
    skia.Path.kQuad_Verb: ("Q", 2),
    skia.Path.kCubic_Verb: ("C", 3),
    skia.Path.kClose_Verb: ("Z", 0),
}


@dataclass(frozen=True)
class LetteringStyle:
    """How words are set, evaluated; sizes and spacing in pixels, as in `LetteringSource`."""

    font: str = "Titan One"
    style: str = ""
    size: float = 300.0
    letter_spacing: float = 0.0
    line_spacing: float = 1.0
    align: str = "centre"


class Letter(NamedTuple):
    """A glyph at its place: `scale` pixels a font unit, turned by `turn` degrees about where its
    baseline begins, and moved by x and y pixels."""

    face: Face
    glyph: int
    scale: float
    x: float
    y: float
    part: tuple[int, int, int] = (0, 0, 0)
    """Its line, its word, and its place in the line."""
    character: str = ""
    """What it shows; the first of several that it shows together."""
    turn: float = 0.0

    def lines(self) -> Lines:
        """Its closed outlines (N, 4)."""
        lines = self.upright_lines()
        if not self.turn:
            return lines
        turn = math.radians(self.turn)
        cos, sin = math.cos(turn), math.sin(turn)
        foot = np.array([self.x, self.y])
        turned = (lines.reshape(-1, 2) - foot) @ np.array([[cos, sin], [-sin, cos]]) + foot
        placed: Lines = turned.reshape(-1, 4)
        return placed

    def upright_lines(self) -> Lines:
        """The same before it is turned."""
        at = np.array([self.x, self.y] * 2)
        lines: Lines = _glyph_lines(self.face, self.glyph, self.scale) + at
        return lines


@dataclass(frozen=True)
class Outline:
    """Letters in pixels, with the centre of their ink at the origin, and what there is to say."""

    path: "skia.Path"
    """As the font has them; they may overlap."""
    letters: tuple[Letter, ...]
    bounds: tuple[float, float, float, float]
    """Left, top, right, bottom of the ink; all 0 where there is none."""
    notices: tuple[str, ...]

    @property
    def empty(self) -> bool:
        left, top, right, bottom = self.bounds
        return right <= left or bottom <= top

    def lines(self) -> Lines:
        """Closed outlines (N, 4: x1, y1, x2, y2) that don't overlap, holes the other way round."""
        return united([each.lines() for each in self.letters])


@lru_cache(maxsize=2048)
def _glyph_lines(face: Face, glyph: int, scale: float) -> Lines:
    return straightened(_glyph_curves(face, glyph), scale)


@lru_cache(maxsize=1024)
def _glyph_curves(face: Face, glyph: int) -> Curves:
    """In font units."""
    return curves_of(face.outline(glyph))


def outline_text(text: str, style: LetteringStyle, fonts: Family | None = None) -> Outline:
    """The outline of `text`, centred on its ink, in `fonts` or else the shipped family that
    `style` names. Raises FontError for an unknown font."""
    fonts = family(style.font) if fonts is None else fonts
    em = max(style.size, 1e-6)
    shaped = _shaped(
        text, fonts, style.style, style.letter_spacing / em, style.line_spacing, style.align
    )
    path = skia.Path()
    for glyph in shaped.glyphs:
        scale = style.size / glyph.face.units
        place = skia.Matrix.Scale(scale, scale)
        place.postTranslate(glyph.x * style.size, glyph.y * style.size)
        path.addPath(glyph.face.outline(glyph.glyph), place)
    ink = path.computeTightBounds() if path.countPoints() else skia.Rect.MakeEmpty()
    x, y = ink.centerX(), ink.centerY()
    path.offset(-x, -y)
    letters = tuple(
        Letter(
            each.face,
            each.glyph,
            style.size / each.face.units,
            each.x * style.size - x,
            each.y * style.size - y,
            (each.line, each.word, each.letter),
            each.character,
        )
        for each in shaped.glyphs
    )
    half_width, half_height = ink.width() / 2, ink.height() / 2
    bounds = (-half_width, -half_height, half_width, half_height)
    return Outline(path, letters, bounds, tuple(_notices(shaped, fonts)))


@lru_cache(maxsize=256)
def _shaped(
    text: str, fonts: Family, style: str, letter_spacing: float, line_spacing: float, align: str
) -> ShapedText:
    return shape_text(
        text,
        fonts,
        style,
        letter_spacing=letter_spacing,
        line_spacing=line_spacing,
        align=align,
    )


def _notices(shaped: ShapedText, fonts: Family) -> list[str]:
    lines = []
    if shaped.missing:
        lines.append(f"No font here has {_listed(shaped.missing)}: left out.")
    lenders: dict[str, list[str]] = {}
    for character, lender in shaped.borrowed.items():
        lenders.setdefault(lender, []).append(character)
    for lender, characters in lenders.items():
        lines.append(f"{fonts.name} has no {_listed(characters)}: taken from {lender}.")
    return lines


def _listed(characters: list[str]) -> str:
    shown = " ".join(characters[:12])
    return f"{shown} and {len(characters) - 12} more" if len(characters) > 12 else shown


def letter_height(fonts: Family, style: str, size: float) -> float:
    """Height in pixels of the capitals at a font size: what a look's lengths are measured by."""
    face = fonts.faces(style)[0]
    return face.letter_height / face.units * size


def coverage(
    outline: Outline, region: tuple[int, int, int, int], shift: tuple[float, float] = (0.0, 0.0)
) -> NDArray[np.float32]:
    """How much of each pixel the outline covers: float32 (H, W), 0..1, exact.

    `region` is (left, top, width, height) in pixels, in which the outline's origin lies at
    `shift`.
    """
    return fill(outline.lines() + np.array([*shift, *shift]), region)


def svg_path(outline: Outline) -> str:
    """The outline as the `d` of an SVG path, in pixels to a tenth."""
    parts = []
    for verb, points in skia.Path.Iter(outline.path, False):
        letter, count = _SVG_VERBS.get(verb, ("", 0))
        numbers = " ".join(
            f"{point.x():.1f} {point.y():.1f}" for point in points[len(points) - count :]
        )
        parts.append(f"{letter}{numbers if count else ''}")
    return "".join(parts)
