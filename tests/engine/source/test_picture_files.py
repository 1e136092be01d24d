"""Pictures of every kind come in as they are; what is wrong with a file is said in a sentence."""

import io
from pathlib import Path

import cv2
import numpy as np
import OpenEXR
import pytest
from PIL import Image as Pillow

from mabrel.colour import to_encoded
from mabrel.source import PictureError, decoded_picture, picture_size

HALF_RED = np.zeros((6, 9, 4), np.uint8)
HALF_RED[..., 0] = 255
HALF_RED[:, :4, 3] = 128
HALF_RED[:, 4:, 3] = 255


def saved(kind: str, pixels: np.ndarray = HALF_RED, **how) -> bytes:
    out = io.BytesIO()
    Pillow.fromarray(pixels).save(out, kind, **how)
    return out.getvalue()


def by_opencv(ending: str, pixels: np.ndarray) -> bytes:
    return bytes(cv2.imencode(ending, pixels)[1])


@pytest.mark.parametrize("kind", ["PNG", "WEBP", "TIFF"])
def test_alpha_comes_in_premultiplied(kind: str) -> None:
    how = {"lossless": True, "exact": True} if kind == "WEBP" else {}
    content = saved(kind, **how)
    pixels = decoded_picture(content, "red")
    assert picture_size(content, "red") == (9, 6)
    assert pixels.shape == (6, 9, 4)
    assert pixels[0, 0] == pytest.approx([128 / 255, 0, 0, 128 / 255], abs=1e-6)
    assert pixels[0, 8] == pytest.approx([1, 0, 0, 1])


def test_a_jpeg_is_opaque_and_stands_upright() -> None:
    picture = np.zeros((40, 80, 3), np.uint8)
    picture[:, :40] = 250
    exif = Pillow.Exif()
    exif[0x0112] = 6  # to be turned a quarter clockwise
    out = io.BytesIO()
    Pillow.fromarray(picture).save(out, "JPEG", exif=exif, quality=95)
    assert picture_size(out.getvalue(), "turned") == (40, 80)
    pixels = decoded_picture(out.getvalue(), "turned")
    assert pixels.shape == (80, 40, 4)
    assert pixels[5, 20, 0] > 0.9  # the bright left half is now the upper one
    assert pixels[70, 20, 0] < 0.1


@pytest.mark.parametrize("ending", [".png", ".tiff"])
def test_sixteen_bits_keep_their_fineness(ending: str) -> None:
    grey = np.arange(4096, dtype=np.uint16).reshape(16, 256)
    pixels = decoded_picture(by_opencv(ending, grey), "ramp")
    assert len(np.unique(pixels[..., 0])) == 4096
    assert pixels[0, 100, 0] == pytest.approx(100 / 65535, rel=1e-4)
    colour = np.dstack([grey, grey * 2, grey * 3])  # blue, green, red, as OpenCV has them
    red = decoded_picture(by_opencv(ending, colour), "ramp")[0, 100]
    assert red[:3] == pytest.approx([300 / 65535, 200 / 65535, 100 / 65535], rel=1e-4)


def test_a_palette_and_grey_with_alpha_are_colours_too() -> None:
    palette = Pillow.fromarray(HALF_RED[..., :3]).convert("P")
    out = io.BytesIO()
    palette.save(out, "PNG")
    assert decoded_picture(out.getvalue(), "palette")[0, 0] == pytest.approx([1, 0, 0, 1])
    grey = Pillow.fromarray(np.full((3, 3, 2), (200, 100), np.uint8), "LA")
    out = io.BytesIO()
    grey.save(out, "PNG")
    alpha = 100 / 255
    expected = [200 / 255 * alpha] * 3 + [alpha]
    assert decoded_picture(out.getvalue(), "grey")[1, 1] == pytest.approx(expected, abs=1e-6)


def test_scene_light_is_encoded_and_goes_beyond_white(tmp_path: Path) -> None:
    linear = np.full((4, 5, 3), 4.0, np.float32)
    linear[:, :2] = 0.18
    pixels = decoded_picture(by_opencv(".hdr", linear), "sky")
    assert pixels[0, 0, 0] == pytest.approx(float(to_encoded(np.float32(0.18))), rel=0.01)
    assert pixels[0, 4, 0] == pytest.approx(float(to_encoded(np.float32(4))), rel=0.01)
    assert pixels[0, 4, 0] > 1.5
    path = tmp_path / "sky.exr"
    channels = {"RGB": linear[..., ::-1].copy(), "A": np.full((4, 5), 1.0, np.float32)}
    header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
    with OpenEXR.File(header, channels) as file:
        file.write(str(path))
    content = path.read_bytes()
    assert picture_size(content, "sky.exr") == (5, 4)
    assert decoded_picture(content, "sky.exr") == pytest.approx(pixels, rel=0.02)


SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><path d="M2 2h8v6h-8z"/></svg>'
)


def test_an_svg_is_drawn_at_any_size_with_smooth_edges() -> None:
    assert picture_size(SVG, "box.svg") == (20, 10)
    pixels = decoded_picture(SVG, "box.svg", 10)
    assert pixels.shape == (100, 200, 4)
    assert pixels[..., 3].sum() == pytest.approx(80 * 60, rel=0.01)
    circle = SVG.replace(b'<path d="M2 2h8v6h-8z"/>', b'<circle cx="10" cy="5" r="4"/>')
    alpha = decoded_picture(circle, "dot.svg", 9)[..., 3]
    assert alpha.sum() == pytest.approx(np.pi * 36**2, rel=0.003)
    assert len(np.unique(np.round(alpha * 255))) > 40  # not the few levels of a small raster


def test_the_words_of_an_svg_are_set_in_the_fonts_that_ship() -> None:
    text = '<text x="2" y="30" font-family="{}" font-size="30">HH</text>'
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40">'
    inks = [
        decoded_picture(f"{head}{text.format(family)}</svg>".encode(), "x.svg")[..., 3].sum()
        for family in ("Anton", "Chango", "Nobody, sans-serif")
    ]
    assert min(inks) > 100
    assert inks[1] > 1.2 * inks[0]
    for asks in ('font-family="Nobody"', 'style="fill:red;font-family: Nobody"'):
        with pytest.raises(PictureError, match=r"asks for the font 'Nobody', which isn't here"):
            decoded_picture(f"{head}<text {asks}>HH</text></svg>".encode(), "x.svg")


@pytest.mark.parametrize(
    ("size", "expected"),
    [
        (b'viewBox="0 0 30 12"', (30, 12)),
        (b'width="2in" height="1in"', (192, 96)),
        (b'width="60" viewBox="0 0 30 12"', (60, 24)),
        (b'width="100%" height="100%" viewBox="0 0 7 9"', (7, 9)),
    ],
)
def test_the_size_of_an_svg_comes_from_its_root(size: bytes, expected: tuple[int, int]) -> None:
    content = SVG.replace(b'width="20" height="10"', size)
    assert picture_size(content, "box.svg") == expected
    assert decoded_picture(content, "box.svg").shape[:2] == expected[::-1]


def test_what_a_file_is_comes_from_its_content() -> None:
    assert decoded_picture(saved("PNG"), "holiday.jpg").shape == (6, 9, 4)
    with pytest.raises(PictureError, match=r"'notes.png' is no PNG"):
        decoded_picture(b"Dear diary, " * 50, "notes.png")
