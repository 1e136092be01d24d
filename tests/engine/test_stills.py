"""Pictures in files: each comes back as it was, read by a library that did not write it."""

import io
from pathlib import Path

import cv2
import numpy as np
import OpenEXR
import pytest
from PIL import Image

from mabrel import Renderer
from mabrel.colour.spaces import light_of
from mabrel.export import png_bytes
from mabrel.export.stills import STILLS, still_bytes
from mabrel.render import Picture
from tests.engine.trial_titles import step, titled


@pytest.fixture(scope="module")
def picture() -> Picture:
    build = [step("surface.gradient"), step("relief.bevel"), step("light.shade"),
             step("ground.drop_shadow")]  # fmt: skip
    return Renderer().render(titled(build))


def read(content: bytes) -> np.ndarray:
    """RGBA by OpenCV."""
    found = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    return found[..., [2, 1, 0, 3]] if found.shape[2] == 4 else found[..., ::-1]


@pytest.mark.parametrize("form", ["png", "tiff"])
@pytest.mark.parametrize("depth", ["8", "16"])
def test_whole_numbers_come_back_exactly(picture, form: str, depth: str) -> None:
    own = picture.to_uint8() if depth == "8" else picture.to_uint16()
    content = still_bytes(picture, form, depth)
    by_pillow = form == "tiff" and depth == "8"  # which OpenCV premultiplies
    found = np.asarray(Image.open(io.BytesIO(content))) if by_pillow else read(content)
    assert np.array_equal(found, own)


def test_a_float_tiff_is_linear_light_as_it_is(picture) -> None:
    found = read(still_bytes(picture, "tiff", "float"))
    assert np.array_equal(found, light_of(picture.pixels))


@pytest.mark.parametrize("depth", ["half", "float"])
def test_openexr_is_linear_and_premultiplied(picture, depth: str, tmp_path: Path) -> None:
    path = tmp_path / "a.exr"
    path.write_bytes(still_bytes(picture, "exr", depth))
    file = OpenEXR.File(str(path))
    found, light = file.channels()["RGBA"].pixels, light_of(picture.pixels)
    assert np.array_equal(found, light.astype(found.dtype))
    assert found.dtype == (np.float16 if depth == "half" else np.float32)
    told = np.ravel(file.header()["chromaticities"])
    assert told == pytest.approx([0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329], abs=1e-4)


@pytest.mark.parametrize("form", ["png", "tiff", "jpeg", "webp", "avif"])
def test_what_is_encoded_says_that_it_is_srgb(picture, form: str) -> None:
    image = Image.open(io.BytesIO(still_bytes(picture, form)))
    marked = image.info.get("icc_profile") or image.info.get("srgb") is not None
    assert marked, image.info.keys()


def test_a_format_without_alpha_lies_over_a_colour(picture) -> None:
    pixels = np.asarray(Image.open(io.BytesIO(still_bytes(picture, "jpeg", ground="#204060"))))
    assert pixels[2, 2] == pytest.approx([0x20, 0x40, 0x60], abs=3)


@pytest.mark.parametrize("form", ["webp", "avif"])
def test_small_pictures_keep_their_alpha(picture, form: str) -> None:
    pixels = np.asarray(Image.open(io.BytesIO(still_bytes(picture, form, quality=95))))
    assert np.abs(pixels[..., 3] / 255 - picture.to_uint8()[..., 3] / 255).mean() < 2 / 255


def test_webp_of_a_hundred_loses_nothing(picture) -> None:
    pixels = np.asarray(Image.open(io.BytesIO(still_bytes(picture, "webp", quality=100))))
    own = picture.to_uint8()
    seen = own[..., 3] > 0
    assert np.array_equal(pixels[seen], own[seen])


@pytest.mark.parametrize("form", STILLS)
def test_the_same_picture_is_the_same_file(picture, form: str) -> None:
    assert still_bytes(picture, form) == still_bytes(picture, form)


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({"form": "gif"}, "no format 'gif'"),
        ({"form": "png", "depth": "half"}, "8 or 16"),
        ({"form": "exr", "depth": "8"}, "half or float"),
        ({"form": "jpeg", "quality": 0}, "1 to 100"),
    ],
)
def test_what_a_format_cannot_have_is_refused(picture, asked: dict, said: str) -> None:
    with pytest.raises(ValueError, match=said):
        still_bytes(picture, **asked)


def test_a_picture_that_is_too_large_for_a_format_is_refused() -> None:
    wide = Picture(np.zeros((1, 17_000, 4), np.float32))
    with pytest.raises(ValueError, match="16,383 pixels"):
        still_bytes(wide, "webp")
    assert png_bytes(wide)
