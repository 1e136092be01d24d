"""Files made to do harm: refused at once, with one clear sentence, before anything is decoded."""

import contextlib
import io
import struct
import tracemalloc
import zlib

import cv2
import numpy as np
import OpenEXR
import pytest
from PIL import Image as Pillow

from mabrel.source import FontError, PictureError, decoded_picture, picture_size
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
    "spaces without end": (svg(f'<path style="fill:url({" " * 200_000}"/>'), "outside"),
    "a length of digits": (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{"1" * 160_000}x" height="9"/>'.encode(),
        "no pixels",
    ),
    "no size": (svg("").replace(b'width="40" height="40"', b'viewBox="0 0 nan nan"'), "no pixels"),
    "no end": (svg("").replace(b'width="40" height="40"', b'viewBox="0 0 inf 9"'), "no pixels"),
    "an unknown encoding": (svg("", '<?xml version="1.0" encoding="nope"?>'), "encoding"),
    "a wide encoding": (svg("", '<?xml version="1.0" encoding="big5"?>'), "encoding"),
    "one name for all": (svg('<g id="a"/>' * 40_000 + '<use href="#a"/>' * 40_000), "multiplies"),
    "a long chain": (
        svg("".join(f'<g id="a{n}"><use href="#a{n + 1}"/></g>' for n in range(5000))),
        "through more than",
    ),
    "names in names": (
        svg(
            "".join(f'<g id="i{n}">' for n in range(190))
            + '<use href="#x"/>' * 90_000
            + "</g>" * 190
            + '<g id="x"/>'
        ),
        "multiplies",
    ),
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


def exr(channels: dict[str, np.ndarray], **header) -> bytes:
    out = io.BytesIO()
    OpenEXR.File({"type": OpenEXR.scanlineimage, **header}, channels).write(out)
    return out.getvalue()


def test_an_exr_with_more_channels_than_can_be_read_is_refused_by_its_header() -> None:
    plane = np.zeros((1300, 1300), np.float16)
    many = exr({f"c{n}": plane for n in range(101)}, compression=OpenEXR.ZIPS_COMPRESSION)
    with pytest.raises(PictureError, match="101 channels in all, too many"):
        decoded_picture(many, "many.exr")


def test_a_truncated_exr_is_refused_and_so_is_one_without_colours() -> None:
    planes = {name: np.random.default_rng(1).random((60, 80), np.float32) for name in "RGB"}
    whole = exr(planes)
    assert decoded_picture(whole, "a.exr").shape == (60, 80, 4)
    for share in (0.1, 0.5, 0.9, 0.99):
        with pytest.raises(PictureError, match="damaged"):
            decoded_picture(whole[: int(len(whole) * share)], "a.exr")
    with pytest.raises(PictureError, match="no channels R, G, B or Y"):
        decoded_picture(exr({"depth": planes["R"]}), "a.exr")


def test_an_exr_says_nothing_by_itself(capfd: pytest.CaptureFixture) -> None:
    whole = exr({"Y": np.zeros((60, 80), np.float32)})
    with pytest.raises(PictureError):
        decoded_picture(whole[:-200], "a.exr")
    assert capfd.readouterr() == ("", "")


def test_a_second_size_in_a_radiance_header_counts_for_nothing() -> None:
    whole = pictures()["HDR"]
    place = whole.index(b"-Y 120 +X 160\n") + len(b"-Y 120 +X 160\n")
    lying = whole[:place] + b"-Y 20000 +X 20000\n" + whole[place:]
    assert picture_size(lying, "a.hdr") == (160, 120)
    with contextlib.suppress(PictureError):
        assert decoded_picture(lying, "a.hdr").shape == (120, 160, 4)


@pytest.mark.parametrize("kind", range(14))
@pytest.mark.parametrize("tag", [256, 257, 258, 273, 279])
def test_a_tiff_field_of_the_wrong_type_is_a_picture_or_a_clear_error(tag: int, kind: int) -> None:
    content = bytearray(pictures()["TIFF"])
    (start,) = struct.unpack_from("<I", content, 4)
    (count,) = struct.unpack_from("<H", content, start)
    for entry in range(start + 2, start + 2 + 12 * count, 12):
        if struct.unpack_from("<H", content, entry)[0] == tag:
            struct.pack_into("<H", content, entry + 2, kind)
    with contextlib.suppress(PictureError):
        assert decoded_picture(bytes(content), "x").ndim == 3


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
        (b"wOF2" + bytes(12) + b"\xff\xff\xff\xff" + bytes(100), "damaged"),
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
