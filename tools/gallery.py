"""Make the stills in docs/gallery from the demo titles: `make gallery`."""

from pathlib import Path

import cv2
import numpy as np

from demo.make_titles import FOLDER, TITLES, galley_wide
from mabrel import Renderer, Title
from mabrel.steps import Array

ROOT = Path(__file__).resolve().parent.parent
GALLERY = ROOT / "docs" / "gallery"
SIZE = (1920, 1080)
LARGEST = 400_000
"""Bytes that a still may take."""


def main() -> None:
    GALLERY.mkdir(parents=True, exist_ok=True)
    for name in TITLES:
        still(name).tofile(GALLERY / f"{name}.jpg")


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


def rendered(title: Title) -> Array:
    """8-bit BGR at 1920 × 1080; what a title leaves see-through is black."""
    scale = SIZE[0] / title.frame.width
    picture = Renderer().render(title, scale=scale).to_uint8()
    height, width = picture.shape[:2]
    assert (width, height) == SIZE, f"{title.name}: {width} × {height}"
    opaque = picture[..., :3] * (picture[..., 3:] / 255)
    return np.ascontiguousarray(opaque[..., ::-1].round().astype(np.uint8))


if __name__ == "__main__":
    main()
