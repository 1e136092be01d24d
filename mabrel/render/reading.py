"""Reading what a title names while it is planned: outlines of words, pictures, files."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, NamedTuple

import numpy as np

from mabrel.render.cache import Cache
from mabrel.render.node import key_of
from mabrel.render.pictures import PicturePlan, cut_picture, drawn_scale, first_scale
from mabrel.source import (
    Image,
    LetteringStyle,
    Library,
    decoded_picture,
    family_for,
    is_drawing,
    outline_text,
    picture_size,
)

_FINEST_DRAWING = 64.0  # times its own size that a drawing is drawn at most


@dataclass(frozen=True)
class Words:
    """Words to be set."""

    text: str
    style: LetteringStyle
    axes: tuple[tuple[str, float], ...]
    font_version: str


class SetWords(NamedTuple):
    """The outlines of words: `lines` (N, 4), in pixels from the centre of their ink."""

    bounds: tuple[float, float, float, float]
    lines: np.ndarray
    notices: tuple[str, ...]

    @property
    def arrays(self) -> list[np.ndarray]:
        return [self.lines]


@dataclass(frozen=True)
class Reader:
    """Reads and keeps what was read; notes what the user should know about it."""

    library: Library
    cache: Cache
    notices: list[str] = field(default_factory=list)

    def _kept(self, key: str, make: Callable[[], Any]) -> Any:
        found = self.cache.get(key)
        return self.cache.made(key, make) if found is None else found

    def words(self, words: Words) -> SetWords:
        """Raises FontError and LibraryError where the font is not there or broken."""
        found: SetWords = self._kept(key_of(words=words), lambda: self._set(words))
        self.notices.extend(found.notices)
        return found

    def _set(self, words: Words) -> SetWords:
        fonts = family_for(words.style.font, self.library, dict(words.axes))
        outline = outline_text(words.text, words.style, fonts)
        return SetWords(outline.bounds, outline.lines(), tuple(outline.notices))

    def picture(self, plan: PicturePlan) -> Image:
        """Cut and trimmed; a drawing as large as it is shown. Raises PictureError, LibraryError."""
        trial = self._cut(plan, None)
        content = self.library.read(plan.file)
        if not is_drawing(content) or trial.height == 0:
            return trial
        return self._cut(plan, first_scale(content, plan.file) * drawn_scale(plan, trial))

    def _cut(self, plan: PicturePlan, scale: float | None) -> Image:
        def made() -> Image:
            content = self.library.read(plan.file)
            first = first_scale(content, plan.file) if scale is None else scale
            return cut_picture(plan, content, first)

        image: Image = self._kept(f"{plan.cut_key}:{scale}", made)
        return image

    def file(self, name: str, size: float) -> Image:
        """A file of the library, a drawing about `size` pixels large. Raises PictureError,
        LibraryError."""
        version = self.library.version(name)

        def made() -> Image:
            content = self.library.read(name)
            if not is_drawing(content):
                return Image(decoded_picture(content, name))
            scale = max(size, 1.0) / max(picture_size(content, name))
            return Image(decoded_picture(content, name, min(scale, _FINEST_DRAWING)))

        key = f"file:{version}"
        if self.cache.get(key) is None and is_drawing(self.library.read(name)):
            key = f"{key}:{size:.0f}"
        image: Image = self._kept(key, made)
        return image
