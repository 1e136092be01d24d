"""Files: whole or not at all, and PNGs that others can read."""

import os
import struct
from pathlib import Path

import cv2
import numpy as np
import pytest

from mabrel.export import png_bytes
from mabrel.render import Picture
from mabrel.title.atomic import write_atomically


def test_a_file_is_replaced_whole(tmp_path: Path) -> None:
    path = tmp_path / "a.json"
    write_atomically(path, b"first")
    write_atomically(path, b"second, longer")
    assert path.read_bytes() == b"second, longer"
    assert list(tmp_path.iterdir()) == [path]


def test_where_writing_fails_the_old_file_stays(tmp_path: Path, monkeypatch) -> None:
    path = tmp_path / "a.json"
    write_atomically(path, b"first")

    def full(descriptor: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(OSError, match="No space left"):
        write_atomically(path, b"second")
    assert path.read_bytes() == b"first"
    assert list(tmp_path.iterdir()) == [path]


def test_a_folder_that_is_not_there_is_named(tmp_path: Path) -> None:
    with pytest.raises(FileNotFoundError) as caught:
        write_atomically(tmp_path / "no" / "a.json", b"")
    assert caught.value.filename == str(tmp_path / "no" / "a.json")


def test_permissions_follow_the_users_mask(tmp_path: Path) -> None:
    before = os.umask(0o027)
    try:
        write_atomically(tmp_path / "a", b"")
    finally:
        os.umask(before)
    assert (tmp_path / "a").stat().st_mode & 0o777 == 0o640


def picture() -> Picture:
    pixels = np.zeros((3, 5, 4), np.float32)
    pixels[0, 0] = [1, 0.5, 0.25, 1]
    pixels[1, 2] = [0.25, 0.125, 0, 0.5]  # half covered: straight colour (0.5, 0.25, 0)
    pixels[2, 4] = [2, -1, 0.5, 1]  # beyond what a file can hold
    return Picture(pixels)


def read(content: bytes) -> np.ndarray:
    decoded = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    return cv2.cvtColor(decoded, cv2.COLOR_BGRA2RGBA)


@pytest.mark.parametrize(("bits", "most"), [(8, 255), (16, 65535)])
def test_a_png_has_straight_alpha_and_is_held_at_its_ends(bits: int, most: int) -> None:
    pixels = read(png_bytes(picture(), bits)) / most
    assert pixels[0, 0] == pytest.approx([1, 0.5, 0.25, 1], abs=1 / 255)
    assert pixels[1, 2] == pytest.approx([0.5, 0.25, 0, 0.5], abs=1.5 / 255)
    assert pixels[2, 4] == pytest.approx([1, 0, 0.5, 1], abs=1 / 255)
    assert (pixels[0, 1] == 0).all()


def test_a_png_says_that_it_is_srgb_and_its_chunks_are_whole() -> None:
    content = png_bytes(picture())
    chunks, at = [], 8
    while at < len(content):
        size, name = struct.unpack(">I4s", content[at : at + 8])
        chunks.append(name)
        at += 12 + size
    assert at == len(content)
    assert chunks[:2] == [b"IHDR", b"sRGB"]
    assert chunks[-1] == b"IEND"


def test_other_bits_are_refused() -> None:
    with pytest.raises(ValueError, match="not 12"):
        png_bytes(picture(), 12)
