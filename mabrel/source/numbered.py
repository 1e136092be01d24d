"""Numbered pictures as a sequence: `wall.####.png` is wall.0001.png, wall.0002.png and so on."""

import math
from bisect import bisect_right

import numpy as np
from numpy.typing import NDArray

from mabrel.source.library import Library
from mabrel.source.picture_error import PictureError
from mabrel.source.pictures import decoded_picture, is_drawing, picture_size
from mabrel.title.playing import numbers_of

Array = NDArray[np.float32]
MOST_FRAMES = 100_000
_NEAR = 1e-6  # frames: times are floats


class Numbered:
    """Pictures of a library in the order of their numbers. Where one is missing, the one before
    it stays. Raises PictureError, LibraryError."""

    def __init__(self, library: Library, name: str) -> None:
        self.name, self._library = name, library
        self._files = library.members(name)
        pattern = numbers_of(name)
        found = [pattern.fullmatch(file) for file in self._files]
        numbers = [int(each[1]) for each in found if each]
        self._places = [number - numbers[0] for number in numbers]
        if self.count > MOST_FRAMES:
            raise PictureError(name, f"has more than {MOST_FRAMES:,} frames")
        first = self._files[0]
        content = library.read(first)
        if is_drawing(content):
            raise PictureError(first, "is a drawing; numbered pictures must have pixels")
        self.width, self.height = picture_size(content, first)

    @property
    def count(self) -> int:
        """With those that are missing."""
        return self._places[-1] + 1

    def lasts(self, rate: float) -> float:
        return self.count / rate

    def due(self, seconds: float, rate: float) -> int:
        return min(max(math.floor(seconds * rate + _NEAR), 0), self.count - 1)

    def frame(self, number: int) -> Array:
        """(H, W, 4), premultiplied and sRGB-encoded. Raises PictureError, LibraryError."""
        file = self._files[bisect_right(self._places, number) - 1]
        picture = decoded_picture(self._library.read(file), file)
        height, width = picture.shape[:2]
        if (width, height) != (self.width, self.height):
            raise PictureError(
                file,
                f"has {width} × {height} pixels, where the first of its sequence has "
                f"{self.width} × {self.height}",
            )
        return picture

    def close(self) -> None:
        """Nothing is open."""
