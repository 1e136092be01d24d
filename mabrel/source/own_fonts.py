"""Fonts that a title brings along: TrueType, OpenType, WOFF and WOFF2, variable ones too."""

import io
import logging
import struct
import zlib
from collections.abc import Mapping
from hashlib import sha256
from operator import itemgetter
from pathlib import PurePosixPath
from typing import Any

import brotli
from cachetools import LRUCache
from fontTools.ttLib import TTFont, TTLibError
from fontTools.varLib import instancer

from mabrel.source.font_packing import check_characters, check_packing
from mabrel.source.fonts import Face, Family, FontError, family
from mabrel.source.library import Library

logging.getLogger("fontTools").setLevel(logging.CRITICAL)  # what it wonders about is not news here
ENDINGS = (".ttf", ".otf", ".woff", ".woff2")
LARGEST_FONT = 32 * 2**20
_LARGEST_UNPACKED = 128 * 2**20
_kept: LRUCache[tuple[object, ...], tuple[Family, int]] = LRUCache(192 * 2**20, itemgetter(1))
"""Families with the bytes of their fonts, by name, content and axes."""
_MARKS = (b"\0\1\0\0", b"OTTO", b"true", b"wOFF", b"wOF2")
# fontTools says with many kinds of exception that bytes are not what they should be.
_BROKEN: tuple[type[Exception], ...] = (
    TTLibError,
    *(ValueError, TypeError, LookupError, AttributeError, AssertionError, ArithmeticError),
    *(MemoryError, EOFError, OSError, RecursionError, struct.error, zlib.error, brotli.error),
)


def is_font_file(name: str) -> bool:
    """Whether a font is named by its file, not by the family that it ships as."""
    return name.lower().endswith(ENDINGS)


def family_for(font: str, library: Library, axes: Mapping[str, float] | None = None) -> Family:
    """The family that a lettering names: one that ships, or a file of its own.

    Raises FontError and LibraryError.
    """
    if is_font_file(font):
        return own_family(font, library.read(font), axes)
    if axes:
        raise FontError(f"font {font!r} has no axes: only a variable font of your own has")
    return family(font)


def own_family(name: str, content: bytes, axes: Mapping[str, float] | None = None) -> Family:
    """The one face in a font file, set to `axes` (such as ``{"wght": 700}``) where it varies.

    Raises FontError where it is no font, is broken, or has no such axis.
    """
    key = (name, sha256(content).digest(), tuple(sorted((axes or {}).items())))
    kept = _kept.get(key)
    if kept is None:
        plain = _plain(name, content, dict(axes or {}))
        face = Face(plain, name)
        kept = (Family(PurePosixPath(name).name, "own", {"": (face,)}), len(plain))
        if len(plain) < _kept.maxsize:
            _kept[key] = kept
    return kept[0]


def axes_of(content: bytes, name: str) -> dict[str, tuple[float, float, float]]:
    """The axes of a variable font: least, default and greatest value by their tags."""
    font = _read(name, content)
    if "fvar" not in font:
        return {}
    try:
        return {a.axisTag: (a.minValue, a.defaultValue, a.maxValue) for a in font["fvar"].axes}
    except _BROKEN as broken:
        raise _error(name, broken) from None


def _plain(name: str, content: bytes, axes: dict[str, float]) -> bytes:
    """As an unpacked font that varies no more."""
    font = _read(name, content)
    try:
        if "fvar" in font:
            font = _set(name, font, axes)
        elif axes:
            raise FontError(f"font {name!r} has no axis {min(axes)!r}: it doesn't vary")
        font.flavor = None
        out = io.BytesIO()
        font.save(out)
    except FontError:
        raise
    except _BROKEN as broken:
        raise _error(name, broken) from None
    return out.getvalue()


def _set(name: str, font: TTFont, axes: dict[str, float]) -> TTFont:
    there = {axis.axisTag: axis for axis in font["fvar"].axes}
    for tag in axes:
        if tag not in there:
            raise FontError(f"font {name!r} has no axis {tag!r}; it has {', '.join(there)}")
    place = {
        tag: min(max(axes.get(tag, axis.defaultValue), axis.minValue), axis.maxValue)
        for tag, axis in there.items()
    }
    return instancer.instantiateVariableFont(font, place)


def _read(name: str, content: bytes) -> TTFont:
    if len(content) > LARGEST_FONT:
        raise FontError(f"font {name!r} is larger than {LARGEST_FONT // 2**20} MiB")
    if not content.startswith(_MARKS):
        raise FontError(f"font {name!r} is no TrueType, OpenType, WOFF or WOFF2 font")
    try:
        check_packing(content, _LARGEST_UNPACKED)
        font = TTFont(io.BytesIO(content), lazy=True)
        if "cmap" in font:
            check_characters(font.reader["cmap"])
        _check_tables(name, font)
    except FontError:
        raise
    except _BROKEN as broken:
        raise _error(name, broken) from None
    return font


def _check_tables(name: str, font: Any) -> None:
    needed = ["cmap", "head", "hhea", "hmtx", "maxp"]
    missing = [tag for tag in needed if tag not in font]
    if not any(tag in font for tag in ("glyf", "CFF ", "CFF2")):
        missing.append("glyf")
    if missing:
        raise FontError(f"font {name!r} is damaged: it has no table {missing[0]!r}")
    if not 16 <= font["head"].unitsPerEm <= 16_384:
        raise FontError(f"font {name!r} is damaged: its units are out of range")
    for tag in ("cmap", "maxp", "hmtx"):
        font[tag]  # read them now: what is broken says so here


def _error(name: str, broken: BaseException) -> FontError:
    said = str(broken).splitlines()
    return FontError(f"font {name!r} is damaged: {said[0] if said and said[0] else 'unreadable'}")
