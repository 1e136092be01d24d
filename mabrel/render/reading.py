"""Reading what a title names while it is planned: outlines of words, pictures, files."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, NamedTuple

import numpy as np

from mabrel.field.fill import fill
from mabrel.render.cache import Cache
from mabrel.render.node import key_of
from mabrel.render.pictures import PicturePlan, cut_picture, drawn_scale, first_scale
from mabrel.source import (
    Image,
    LetteringStyle,
    Library,
    Moving,
    Outline,
    decoded_picture,
    family_for,
    frame_due,
    is_drawing,
    moving,
    outline_text,
    picture_size,
)
from mabrel.source.along import Way, set_along
from mabrel.source.apart import Layer, Move, moved_apart, parts_of
from mabrel.source.letter_places import LetterPlace, letter_places, moved_places
from mabrel.source.shapes import SetShape, shapes_outline
from mabrel.source.svg_outlines import drawing_outline
from mabrel.title.playing import Play, named_as_clip

_AGREED = 0.98  # of what either of them covers, that outline and pixels of a drawing share
_FINEST_DRAWING = 64.0  # times its own size that a drawing is drawn at most


@dataclass(frozen=True)
class Words:
    """Words to be set."""

    text: str
    style: LetteringStyle
    axes: tuple[tuple[str, float], ...]
    font_version: str
    apart: "Apart | None" = None
    along: Way | None = None


@dataclass(frozen=True)
class Apart:
    """How the parts of words have moved, in their order."""

    by: str
    about: str
    moves: tuple[Move, ...]


class SetWords(NamedTuple):
    """The outlines of words, in pixels from the centre of their ink as they are set."""

    bounds: tuple[float, float, float, float]
    """Left, top, right and bottom of the ink as it is set."""
    ink: tuple[float, float, float, float]
    """The same of the ink where it is now."""
    layers: tuple[Layer, ...]
    """What is there of them, by how much it is."""
    notices: tuple[str, ...]

    @property
    def arrays(self) -> list[np.ndarray]:
        return [layer.lines for layer in self.layers]


class Parts(NamedTuple):
    """What moves by itself, in reading order: outlines (N, 4) in pixels from the centre of the
    ink of all of them."""

    bounds: tuple[float, float, float, float]
    parts: tuple[np.ndarray, ...]
    notices: tuple[str, ...]

    @property
    def arrays(self) -> list[np.ndarray]:
        return list(self.parts)


class _Outlined(NamedTuple):
    """The outline of a drawing, or that it has none, to be kept."""

    lines: np.ndarray | None

    @property
    def arrays(self) -> list[np.ndarray]:
        return [] if self.lines is None else [self.lines]


def _agreed(content: bytes, plan: PicturePlan, trial: Image) -> np.ndarray | None:
    """The outline of a drawing, if it covers what its pixels cover."""
    if trial.height == 0:
        return None
    small = drawing_outline(content, trial.ink[1])
    if small is None:
        return None
    middle = np.array([trial.width, trial.height] * 2) / 2
    covered = fill(small + middle, (0, 0, trial.width, trial.height))
    alpha = trial.pixels[..., 3]
    both, either = np.minimum(covered, alpha).sum(), np.maximum(covered, alpha).sum()
    if both < _AGREED * max(float(either), 1e-6):
        return None
    return drawing_outline(content, plan.height)


def _set_shapes(shapes: tuple[SetShape, ...]) -> SetWords:
    whole = (Layer(1.0, shapes_outline(shapes)),)
    return SetWords(_ink(whole), _ink(whole), whole, ())


class _Letters(NamedTuple):
    """Where letters stand, to be kept."""

    places: tuple[LetterPlace, ...]

    @property
    def arrays(self) -> list[np.ndarray]:
        return []


def _ink(layers: Sequence[Layer]) -> tuple[float, float, float, float]:
    ends = np.concatenate([np.zeros((0, 2)), *(layer.lines.reshape(-1, 2) for layer in layers)])
    if not len(ends):
        return 0.0, 0.0, 0.0, 0.0
    (left, top), (right, bottom) = ends.min(axis=0).tolist(), ends.max(axis=0).tolist()
    return left, top, right, bottom


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
        if words.apart is not None:
            apart, still = words.apart, self.parts(replace(words, apart=None), words.apart.by)
            layers = tuple(moved_apart(still.parts, apart.moves, apart.about))
            return SetWords(still.bounds, _ink(layers), layers, still.notices)
        outline = self._outline(words)
        whole = (Layer(1.0, outline.lines()),)
        return SetWords(outline.bounds, outline.bounds, whole, outline.notices)

    def parts(self, words: Words, by: str) -> Parts:
        """The letters, words or lines of words as they are set. Raises what `words` raises."""
        parts: Parts = self._kept(key_of(parts=words, by=by), lambda: self._parts(words, by))
        return parts

    def _parts(self, words: Words, by: str) -> Parts:
        outline = self._outline(words)
        return Parts(outline.bounds, tuple(parts_of(outline, by)), outline.notices)

    def _outline(self, words: Words) -> Outline:
        fonts = family_for(words.style.font, self.library, dict(words.axes))
        outline = outline_text(words.text, words.style, fonts)
        return outline if words.along is None else set_along(outline, words.along)

    def shapes(self, shapes: tuple[SetShape, ...]) -> SetWords:
        """Shapes as one outline, as words are."""
        found: SetWords = self._kept(key_of(shapes=shapes), lambda: _set_shapes(shapes))
        return found

    def letters(self, words: Words) -> tuple[LetterPlace, ...]:
        """Where each letter stands, in reading order. Raises what `words` raises."""
        places: _Letters = self._kept(key_of(letters=words), lambda: self._letters(words))
        return places.places

    def _letters(self, words: Words) -> "_Letters":
        outline = self._outline(words)
        if words.apart is None:
            return _Letters(tuple(letter_places(outline)))
        by, about, moves = words.apart.by, words.apart.about, words.apart.moves
        return _Letters(tuple(moved_places(outline, by, about, moves)))

    def picture(self, plan: PicturePlan) -> Image:
        """Cut and trimmed; a drawing as large as it is shown. Raises PictureError, LibraryError."""
        trial = self._cut(plan, None)
        if plan.frame is not None or trial.height == 0:
            return trial
        content = self.library.read(plan.file)
        if not is_drawing(content):
            return trial
        return self._cut(plan, first_scale(content, plan.file) * drawn_scale(plan, trial))

    def outline(self, plan: PicturePlan) -> np.ndarray | None:
        """The outline (N, 4) of a drawing, as high as the plan has it, around the centre of its
        ink; None where it has none, or where its pixels show another shape: then these count."""
        whole = plan.matte == "alpha" and plan.cut is None and plan.frame is None
        if not whole or plan.height <= 0:
            return None
        content = self.library.read(plan.file)
        if not is_drawing(content):
            return None
        key = key_of(outline=plan.version, height=plan.height)
        kept: _Outlined = self._kept(
            key, lambda: _Outlined(_agreed(content, plan, self._cut(plan, None)))
        )
        return kept.lines

    def _cut(self, plan: PicturePlan, scale: float | None) -> Image:
        key = f"{plan.cut_key}:{scale}"
        image: Image = self._kept(key, lambda: cut_picture(plan, self.library, scale))
        return image

    def version(self, name: str, time: float, play: Play) -> str:
        """Changes with what is in a file, and with the frame of a clip that is due."""
        version = self.library.version(name)
        return f"{version}:{self._due(name, time, play)[1]}" if named_as_clip(name) else version

    def _due(self, name: str, time: float, play: Play) -> tuple[Moving, int]:
        clip = moving(self.library, name)
        return clip, frame_due(clip, play, time)

    def file(self, name: str, size: float, time: float, play: Play) -> Image:
        """A file of the library, a drawing about `size` pixels large, a clip at a time of the
        title. Raises PictureError, LibraryError."""
        version = self.library.version(name)
        if named_as_clip(name):
            clip, number = self._due(name, time, play)
            key = f"frame:{version}:{number}"
            frame: Image = self._kept(key, lambda: Image(clip.frame(number)))
            return frame

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
