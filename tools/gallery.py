"""Make the stills and films in docs/gallery from the demo titles: `make gallery`."""

import io
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from demo.make_titles import FOLDER, TITLES, galley_wide
from mabrel import Renderer, Title
from mabrel.steps import Array
from mabrel.title.motion import still_time

ROOT = Path(__file__).resolve().parent.parent
GALLERY = ROOT / "docs" / "gallery"
SIZE = (1920, 1080)
LARGEST = 400_000
"""Bytes that a still may take."""
FILMS = ("foghorn", "tide-table", "buoy")
FILM_WIDTH, FILM_RATE = 480, 20
LARGEST_FILM = 900_000


def main() -> None:
    GALLERY.mkdir(parents=True, exist_ok=True)
    for name in TITLES:
        still(name).tofile(GALLERY / f"{name}.jpg")
    for name in FILMS:
        film(name)


def still(name: str) -> np.ndarray:
    """One title as a JPEG of at most `LARGEST` bytes, as fine as that allows."""
    title = (galley_wide if name == "galley" else TITLES[name])()
    pixels = rendered(title.at_home(FOLDER))
    for quality in range(93, 50, -3):
        options = [cv2.IMWRITE_JPEG_QUALITY, quality, cv2.IMWRITE_JPEG_OPTIMIZE, 1]
        encoded = cv2.imencode(".jpg", pixels, options)[1]
        if encoded.size <= LARGEST:
            return encoded
    raise ValueError(f"{name} doesn't fit into {LARGEST} bytes")


def film(name: str) -> None:
    """One title as an animated WebP of at most `LARGEST_FILM` bytes."""
    title = TITLES[name]().at_home(FOLDER)
    renderer, scale = Renderer(), FILM_WIDTH / title.frame.width
    count = round(title.frame.duration * FILM_RATE)
    frames = []
    for number in range(count):
        pixels = renderer.render(title, time=number / FILM_RATE, scale=scale).to_uint8()
        opaque = pixels[..., :3] * (pixels[..., 3:] / 255)
        frames.append(Image.fromarray(opaque.round().astype(np.uint8)))
    for quality in range(80, 20, -10):
        packed = io.BytesIO()
        frames[0].save(
            packed, "WEBP", save_all=True, append_images=frames[1:], quality=quality, loop=0,
            duration=round(1000 / FILM_RATE), method=4,
        )  # fmt: skip
        if packed.tell() <= LARGEST_FILM:
            (GALLERY / f"{name}.webp").write_bytes(packed.getvalue())
            return
    raise ValueError(f"{name} doesn't fit into {LARGEST_FILM} bytes")


def rendered(title: Title) -> Array:
    """8-bit BGR at 1920 × 1080; what a title leaves see-through is black."""
    scale = SIZE[0] / title.frame.width
    picture = Renderer().render(title, time=still_time(title), scale=scale).to_uint8()
    height, width = picture.shape[:2]
    assert (width, height) == SIZE, f"{title.name}: {width} × {height}"
    opaque = picture[..., :3] * (picture[..., 3:] / 255)
    return np.ascontiguousarray(opaque[..., ::-1].round().astype(np.uint8))


if __name__ == "__main__":
    main()
