"""Fonts that a title brings along."""

import io
import struct
import tracemalloc
import zlib
from pathlib import Path

import brotli
import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.t2CharStringPen import T2CharStringPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont
from fontTools.ttLib.tables.DefaultTable import DefaultTable
from fontTools.ttLib.tables.TupleVariation import TupleVariation

from mabrel import FontError, LibraryError, new_title, parse_title, render
from mabrel.source.font_packing import _Woff2Directory
from mabrel.source.fonts import FOLDER
from mabrel.source.own_fonts import axes_of, own_family


def shipped() -> bytes:
    return sorted(FOLDER.rglob("anton*latin*.ttf"))[0].read_bytes()


def packed(flavour: str) -> bytes:
    font = TTFont(io.BytesIO(shipped()))
    font.flavor = flavour
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


def variable() -> bytes:
    """One letter, a bar whose width follows the axis wght."""

    def bar(width: int):
        pen = TTGlyphPen(None)
        pen.moveTo((50, 0))
        pen.lineTo((50, 700))
        pen.lineTo((50 + width, 700))
        pen.lineTo((50 + width, 0))
        pen.closePath()
        return pen.glyph()

    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "H"])
    builder.setupCharacterMap({ord("H"): "H"})
    builder.setupGlyf({".notdef": TTGlyphPen(None).glyph(), "H": bar(100)})
    builder.setupHorizontalMetrics({".notdef": (500, 0), "H": (600, 50)})
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Bar", "styleName": "Regular"})
    builder.setupOS2()
    builder.setupPost()
    builder.setupFvar([("wght", 100, 100, 900, "Weight")], [])
    wider = TupleVariation(
        {"wght": (0, 1, 1)},
        [(0, 0), (0, 0), (400, 0), (400, 0), (0, 0), (0, 0), (0, 0), (0, 0)],
    )
    builder.setupGvar({"H": [wider]})
    out = io.BytesIO()
    builder.font.save(out)
    return out.getvalue()


def postscript() -> bytes:
    """An OpenType font with PostScript outlines: one letter, a bar 100 units wide."""
    pen = T2CharStringPen(600, None)
    for number, place in enumerate([(50, 0), (150, 0), (150, 700), (50, 700)]):
        (pen.lineTo if number else pen.moveTo)(place)
    pen.closePath()
    empty = T2CharStringPen(500, None).getCharString()
    builder = FontBuilder(1000, isTTF=False)
    builder.setupGlyphOrder([".notdef", "H"])
    builder.setupCharacterMap({ord("H"): "H"})
    outlines = {".notdef": empty, "H": pen.getCharString()}
    builder.setupCFF("Bar", {"FullName": "Bar"}, outlines, {})
    builder.setupHorizontalMetrics({".notdef": (500, 0), "H": (600, 50)})
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Bar", "styleName": "Regular"})
    builder.setupOS2()
    builder.setupPost()
    out = io.BytesIO()
    builder.font.save(out)
    return out.getvalue()


def ink(font: str, home: Path, **source) -> float:
    document = {
        "mabrel": 1,
        "frame": {"width": 200, "height": 120},
        "layers": [
            {"kind": "lettering", "source": {"text": "H", "font": font, "size": 90} | source}
        ],
    }
    return float(render(parse_title(document).at_home(home), tap="matte").pixels[..., 0].sum())


@pytest.mark.parametrize(
    ("name", "flavour"), [("a.ttf", None), ("a.woff", "woff"), ("a.woff2", "woff2")]
)
def test_a_font_file_is_used_like_a_shipped_font(name, flavour, tmp_path: Path) -> None:
    (tmp_path / name).write_bytes(packed(flavour) if flavour else shipped())
    assert ink(name, tmp_path) == pytest.approx(ink("Anton", tmp_path), rel=1e-3)


def test_the_axes_of_a_variable_font_set_its_weight(tmp_path: Path) -> None:
    (tmp_path / "bar.ttf").write_bytes(variable())
    assert axes_of(variable(), "bar.ttf") == {"wght": (100, 100, 900)}
    thin, middle, thick = (ink("bar.ttf", tmp_path, axes={"wght": w}) for w in (100, 500, 900))
    assert thin == pytest.approx(90 * 0.1 * 90 * 0.7, rel=0.01)
    assert middle == pytest.approx(3 * thin, rel=0.01)
    assert thick == pytest.approx(5 * thin, rel=0.01)
    assert ink("bar.ttf", tmp_path) == pytest.approx(thin)


def test_postscript_outlines_are_drawn_too(tmp_path: Path) -> None:
    (tmp_path / "bar.otf").write_bytes(postscript())
    assert ink("bar.otf", tmp_path) == pytest.approx(90 * 0.1 * 90 * 0.7, rel=0.01)


def test_an_axis_that_is_not_there_is_an_error(tmp_path: Path) -> None:
    (tmp_path / "bar.ttf").write_bytes(variable())
    with pytest.raises(FontError, match=r"'bar.ttf' has no axis 'wdth'; it has wght"):
        ink("bar.ttf", tmp_path, axes={"wdth": 50})
    with pytest.raises(FontError, match="no axes"):
        ink("Anton", tmp_path, axes={"wght": 50})


def test_a_font_file_must_lie_beside_its_title(tmp_path: Path) -> None:
    with pytest.raises(LibraryError, match=r"there is no file 'gone.ttf'"):
        ink("gone.ttf", tmp_path)
    (tmp_path / "inside").mkdir()
    (tmp_path / "a.ttf").write_bytes(shipped())
    for outside in ("../a.ttf", str(tmp_path / "a.ttf")):
        with pytest.raises(LibraryError, match="must lie beside"):
            ink(outside, tmp_path / "inside")


def test_a_new_title_in_an_own_font_and_a_changed_file_is_read_anew(tmp_path: Path) -> None:
    path = tmp_path / "own.ttf"
    path.write_bytes(shipped())
    title = new_title("H", font="own.ttf", frame=(320, 180), home=tmp_path)
    assert title.layers[-1].source.font == "own.ttf"
    first = render(title, tap="matte").pixels.sum()
    path.write_bytes(variable())
    assert render(title, tap="matte").pixels.sum() != pytest.approx(first, rel=0.05)


def test_an_own_family_is_named_by_its_file() -> None:
    assert own_family("fonts/bar.ttf", variable()).name == "bar.ttf"


def refusal(content: bytes) -> str:
    with pytest.raises(FontError) as refused:
        own_family("x.woff2", content)
    return str(refused.value)


def woff_header(mark: bytes, tables: int = 1) -> bytes:
    sizes = struct.pack(">IIHHI", 0x00010000, 0, tables, 0, 1000)
    return mark + sizes + bytes(44 - 20 if mark == b"wOFF" else 48 - 20)


def test_a_font_that_unpacks_to_more_than_it_says_is_not_unpacked() -> None:
    small = packed("woff2")
    bomb = brotli.compress(bytes(300 * 2**20), quality=5)
    directory = _Woff2Directory(small)
    directory.sizes()
    lying = bytearray(small[: directory.place] + bomb)
    struct.pack_into(">I", lying, 20, len(bomb))
    tracemalloc.start()
    assert "not as large as it says" in refusal(bytes(lying))
    honest = woff_header(b"wOF2") + b"\x00\x81\xac\x80\x80\x00" + bomb
    assert "far too large" in refusal(honest)
    assert tracemalloc.get_traced_memory()[1] < 40e6
    tracemalloc.stop()


def test_nor_is_one_packed_table_by_table() -> None:
    bomb = zlib.compress(bytes(2 * 2**20), 9)
    table = b"cmap" + struct.pack(">IIII", 64, len(bomb), 4000, 0)
    assert "not as large as it says" in refusal(woff_header(b"wOFF") + table + bomb)
    table = b"cmap" + struct.pack(">IIII", 64, len(bomb), 300 * 2**20, 0)
    assert "far too large" in refusal(woff_header(b"wOFF") + table + bomb)


@pytest.mark.parametrize("form", [4, 12])
def test_a_few_bytes_that_stand_for_millions_of_characters_are_refused(form: int) -> None:
    if form == 12:
        groups = struct.pack(">III", 0, 0x10FFFF, 1) * 100
        table = struct.pack(">HHIII", 12, 0, 16 + len(groups), 0, 100) + groups
    else:
        ends, starts = b"\xff\xff" * 400, bytes(800)
        table = struct.pack(">HHHHHHH", 4, 16 + 3200, 0, 800, 0, 0, 0) + ends + bytes(2) + starts
        table += bytes(1600)
    font = TTFont(io.BytesIO(shipped()))
    raw = DefaultTable("cmap")
    raw.data = struct.pack(">HHHHI", 0, 1, 3, 10, 12) + table
    font.tables["cmap"] = raw
    out = io.BytesIO()
    font.save(out)
    assert "more characters than there are" in refusal(out.getvalue())


@pytest.mark.parametrize("flavour", ["woff", "woff2"])
def test_packed_data_that_is_damaged_is_a_fault_of_the_font(flavour: str) -> None:
    content = bytearray(packed(flavour))
    middle = len(content) // 2
    content[middle : middle + 400] = bytes(byte ^ 0x5A for byte in content[middle : middle + 400])
    assert "x.woff2" in refusal(bytes(content))
