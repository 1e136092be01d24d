"""Files made to do harm: refused at once, with one clear sentence, before anything is decoded."""

import io
import struct
import tracemalloc
import zlib

import cv2
import numpy as np
import pytest
from PIL import Image as Pillow

from mabrel.source import FontError, PictureError, decoded_picture
from mabrel.source.fonts import FOLDER
from mabrel.source.own_fonts import own_family

XMLNS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


def svg(inside: str, before: str = "") -> bytes:
    return f'{before}<svg {XMLNS} width="40" height="40">{inside}</svg>'.encode()


def huge_png(width: int, height: int) -> bytes:
    """A PNG of one colour, of which deflate makes almost nothing; the last rows are left out."""

    def chunk(kind: bytes, content: bytes) -> bytes:
        check = zlib.crc32(kind + content)
        return struct.pack(">I", len(content)) + kind + content + struct.pack(">I", check)

    packer = zlib.compressobj(9)
    row = bytes(1 + width)
    pixels = b"".join(packer.compress(row) for _ in range(min(height, 500))) + packer.flush()
    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    parts = (chunk(b"IHDR", header), chunk(b"IDAT", pixels), chunk(b"IEND", b""))
    return b"\x89PNG\r\n\x1a\n" + b"".join(parts)


def doubled(times: int) -> str:
    """Each part uses the one before twice: 2ⁿ in all."""
    parts = ['<g id="a0"><path d="M0 0h1v1z"/></g>']
    parts += [
        f'<g id="a{n}"><use xlink:href="#a{n - 1}"/><use href="#a{n - 1}"/></g>'
        for n in range(1, times)
    ]
    return f"<defs>{''.join(parts)}</defs><use href='#a{times - 1}'/>"


HOSTILE_DRAWINGS = {
    "outside picture": (svg('<image href="https://example.org/x.png"/>'), "<image>"),
    "outside part": (svg('<use href="other.svg#a"/>'), "outside"),
    "outside paint": (svg('<path d="M0 0h9v9z" fill="url(http://example.org/#a)"/>'), "outside"),
    "outside style": (svg("<style>@import 'x.css';</style>"), "outside"),
    "style sheet": (svg("", '<?xml-stylesheet href="x.css"?>'), "outside"),
    "script": (svg("<script>alert(1)</script>"), "<script>"),
    "script at an event": (svg('<path d="M0 0h9v9z" onclick="alert(1)"/>'), "script"),
    "page inside": (svg("<foreignObject/>"), "<foreignobject>"),
    "deep nesting": (svg("<g>" * 1_000_000 + "</g>" * 1_000_000), "deep"),
    "many parts": (svg("<path/>" * 200_000), "more than"),
    "entities": (svg("&a;", '<!DOCTYPE svg [<!ENTITY a "aaaa">]>'), "document type"),
    "multiplied": (svg(doubled(40)), "multiplies"),
    "round in a circle": (svg('<g id="a"><use href="#a"/></g><use href="#a"/>'), "inside itself"),
    "many filters": (svg('<path filter="url(#f)" d="M0 0h9v9z"/>' * 300), "filters"),
    "cut short": (svg("<path/>")[:-9], "not well-formed"),
    "vast": (b'<svg xmlns="http://www.w3.org/2000/svg" width="1e9" height="1e9"/>', "pixels"),
    "nothing": (b'<svg xmlns="http://www.w3.org/2000/svg" width="0" height="0"/>', "no pixels"),
}


@pytest.mark.parametrize("name", HOSTILE_DRAWINGS)
def test_a_hostile_drawing_is_refused(name: str) -> None:
    content, said = HOSTILE_DRAWINGS[name]
    with pytest.raises(PictureError, match=r"^picture 'x\.svg' ") as refused:
        decoded_picture(content, "x.svg")
    assert said in str(refused.value)
    assert "\n" not in str(refused.value)


HEAVY = '<filter id="f"><feTurbulence baseFrequency="0.9" numOctaves="{}"/></filter>'


def test_a_drawing_that_never_ends_is_given_up() -> None:
    endless = svg(HEAVY.format(2_000_000_000) + '<rect width="40" height="40" filter="url(#f)"/>')
    with pytest.raises(PictureError, match=r"more than 2 seconds"):
        decoded_picture(endless, "x.svg")
    light = svg(HEAVY.format(2) + '<rect width="40" height="40" filter="url(#f)"/>')
    assert decoded_picture(light, "x.svg").shape == (40, 40, 4)


def test_a_vast_png_is_refused_by_its_header() -> None:
    files = [huge_png(60_000, 60_000), huge_png(60_000, 10), huge_png(9000, 9000)]
    tracemalloc.start()
    for file in files:
        with pytest.raises(PictureError, match="pixels"):
            decoded_picture(file, "vast.png")
    assert tracemalloc.get_traced_memory()[1] < 40e6
    tracemalloc.stop()


def pictures() -> dict[str, bytes]:
    noise = np.random.default_rng(1).integers(0, 255, (120, 160, 3), np.uint8)
    found = {}
    for kind in ("PNG", "JPEG", "WEBP", "TIFF"):
        out = io.BytesIO()
        Pillow.fromarray(noise).save(out, kind)
        found[kind] = out.getvalue()
    found["HDR"] = bytes(cv2.imencode(".hdr", noise.astype(np.float32) / 255)[1])
    return found


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP", "TIFF", "HDR"])
@pytest.mark.parametrize("share", [0.02, 0.3, 0.7])
def test_a_truncated_picture_is_refused(kind: str, share: float) -> None:
    content = pictures()[kind]
    with pytest.raises(PictureError, match=r"^picture 'x' "):
        decoded_picture(content[: int(len(content) * share)], "x")


def test_an_exr_of_nothing_but_its_mark_is_refused() -> None:
    for rest in (b"", b"\2\0\0\0", b"\2\0\0\0" + bytes(300), bytes(range(256)) * 4):
        with pytest.raises(PictureError, match="damaged"):
            decoded_picture(b"\x76\x2f\x31\x01" + rest, "sky.exr")


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP", "TIFF", "HDR"])
def test_damage_anywhere_is_a_picture_or_a_clear_error(kind: str) -> None:
    whole = pictures()[kind]
    draw = np.random.default_rng(7)
    for _ in range(60):
        content = bytearray(whole)
        for place in draw.integers(0, min(len(content), 400), 6):
            content[place] = draw.integers(0, 256)
        try:
            pixels = decoded_picture(bytes(content), "x")
        except PictureError:
            continue
        assert np.isfinite(pixels).all()


def font() -> bytes:
    return next(iter(sorted(FOLDER.rglob("*.ttf")))).read_bytes()


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"", "no TrueType"),
        (b"Dear diary", "no TrueType"),
        (font()[:60], "damaged"),
        (font()[:4000], "damaged"),
        (b"wOF2" + bytes(12) + b"\xff\xff\xff\xff" + bytes(100), "too large"),
        (b"OTTO" + bytes(200), "damaged"),
        (b"\0\1\0\0\xff\xff" + bytes(100), "damaged"),
    ],
)
def test_a_broken_font_is_refused(content: bytes, said: str) -> None:
    with pytest.raises(FontError, match=said) as refused:
        own_family("x.ttf", content)
    assert "'x.ttf'" in str(refused.value)
    assert "\n" not in str(refused.value)


def test_damage_anywhere_in_a_font_is_a_font_or_a_clear_error() -> None:
    whole = font()
    draw = np.random.default_rng(3)
    for _ in range(40):
        content = bytearray(whole)
        for place in draw.integers(0, len(content), 40):
            content[place] = draw.integers(0, 256)
        try:
            family = own_family("x.ttf", bytes(content))
        except FontError:
            continue
        assert family.faces()[0].units > 0
