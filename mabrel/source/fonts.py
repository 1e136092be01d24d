"""The fonts that ship with the engine: families, styles, and the files that make them up."""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from pathlib import Path

import uharfbuzz as hb

from mabrel.source.drawing import skia, typeface

FOLDER = Path(__file__).parent / "fonts"


class FontError(ValueError):
    """A font that is not there or can't be used."""


class Face:
    """One font, ready for shaping and for its outlines."""

    def __init__(self, content: bytes, name: str) -> None:
        self.name = name
        self._shaper = hb.Face(content)
        self.typeface = typeface(content)
        if self.typeface is None or not self._shaper.glyph_count:
            raise FontError(f"{name!r} is no font that can be used")
        self.units: int = self._shaper.upem

    @cached_property
    def shaper(self) -> hb.Font:
        return hb.Font(self._shaper)

    @cached_property
    def characters(self) -> frozenset[int]:
        return frozenset(self._shaper.unicodes)

    @cached_property
    def _drawer(self) -> "skia.Font":
        font = skia.Font(self.typeface, self.units)
        font.setHinting(skia.FontHinting.kNone)
        font.setLinearMetrics(True)
        font.setSubpixel(True)
        return font

    def outline(self, glyph: int) -> "skia.Path":
        """The glyph's outline in font units, y down."""
        return self._drawer.getPath(glyph) or skia.Path()

    @cached_property
    def line_height(self) -> float:
        extents = self.shaper.get_font_extents("ltr")
        return float(extents.ascender - extents.descender + extents.line_gap)

    @cached_property
    def letter_height(self) -> float:
        """Height of the capitals in font units: the ink of H, or 0.7 em where there is none."""
        glyph = self.shaper.get_nominal_glyph(ord("H"))
        bounds = self.outline(glyph).computeTightBounds() if glyph else None
        return float(bounds.height()) if bounds and bounds.height() > 0 else 0.7 * self.units


@dataclass(frozen=True, eq=False)
class Family:
    """A family: for each style its faces, in the order in which they are asked; a path stands
    for a face that is read when it is needed."""

    name: str
    kind: str
    styles: dict[str, tuple[Path | Face, ...]]

    def faces(self, style: str = "") -> Sequence[Face]:
        """The faces of a style ("" is the first). Raises FontError for an unknown one."""
        chosen = style or next(iter(self.styles))
        if chosen not in self.styles:
            there = ", ".join(self.styles)
            raise FontError(f"{self.name} has no style {style!r}; it has {there}")
        return [face if isinstance(face, Face) else _face(face) for face in self.styles[chosen]]


@cache
def _face(path: Path) -> Face:
    return Face(path.read_bytes(), path.name)


@cache
def families() -> dict[str, Family]:
    """All families that ship with the engine, by name."""
    entries = json.loads((FOLDER / "fonts.json").read_text())
    return {
        entry["family"]: Family(
            entry["family"],
            entry["kind"],
            {
                style: tuple(FOLDER / entry["folder"] / name for name in names)
                for style, names in entry["styles"].items()
            },
        )
        for entry in entries
    }


def family(name: str) -> Family:
    """The family of this name, whatever the case. Raises FontError where there is none."""
    found = families().get(name) or next(
        (each for each in families().values() if each.name.lower() == name.lower()), None
    )
    if found is None:
        raise FontError(f"there is no font {name!r}; `mabrel fonts` lists those that are there")
    return found
