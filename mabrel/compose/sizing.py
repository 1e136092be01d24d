"""How large things are set, and the height by which a look's lengths are measured."""

from typing import TypeVar

import numpy as np

from mabrel.render import picture_ink
from mabrel.source import (
    Family,
    LetteringStyle,
    Library,
    Outline,
    family_for,
    letter_height,
    library_at,
    outline_text,
)
from mabrel.source.flatten import Lines
from mabrel.source.shapes import set_shapes, shapes_outline
from mabrel.steps import scaled_build
from mabrel.title import (
    Copy,
    DistantLight,
    Frame,
    Layer,
    Lettering,
    LetteringSource,
    Picture,
    Placed,
    Shapes,
    ShapesSource,
    Title,
    TitleLight,
    value_at,
)
from mabrel.title.scaling import scaled, shifted
from mabrel.title.varying import values_of

Sized = TypeVar("Sized", Lettering, Picture, Shapes, Lettering | Picture)
WIDTH, HEIGHT = 0.8, 0.36
"""Shares of the frame that a new word fills, with room for its depth."""
EMBLEM_HEIGHT = 0.5
"""Share of the frame's height for a picture: it bears more than a word, being narrower."""
_TRIAL = 100.0
_LETTERS_TO_STROKE = 3.4  # how much higher bold capitals are than their strokes are wide


def look_height(title: Title, layer: Layer) -> float:
    """Height in frame pixels of the letters that a layer's look is measured by: the capitals of
    lettering; of a picture or shapes, letters with strokes as thick as their parts; of what a copy
    follows; of the largest in a group.

    Raises KeyError for a layer that has none, such as a backdrop, FontError and PictureError.
    """
    if isinstance(layer, Lettering):
        source = layer.source
        fonts = fonts_of(source, library_at(title.home))
        return letter_height(fonts, source.style, value_at(source.size, 0.0))
    if isinstance(layer, Picture):
        return _stroke_height(title, layer)
    if isinstance(layer, Shapes):
        return _shapes_height(title, layer)
    if isinstance(layer, Copy):
        return look_height(title, title.layer(layer.source.layer))
    if isinstance(layer, Placed):
        members = [title.layer(each) for each in layer.source.layers]
        return max(look_height(title, each) for each in members if isinstance(each, Placed))
    raise KeyError(layer.id)


def fonts_of(source: LetteringSource, library: Library) -> Family:
    """Its family, or its own font set to its axes. Raises FontError and LibraryError."""
    axes = {tag: value_at(value, 0.0) for tag, value in source.axes.items()}
    return family_for(source.font, library, axes)


def trial_outline(source: LetteringSource, library: Library, size: float, time: float) -> Outline:
    """The words as they are set, but at another size."""
    spacing = value_at(source.letter_spacing, time) / value_at(source.size, time)
    style = LetteringStyle(
        source.font,
        source.style,
        size,
        spacing * size,
        value_at(source.line_spacing, time),
        value_at(source.align, time),
    )
    return outline_text(value_at(source.text, time), style, fonts_of(source, library))


def ink_size(title: Title, layer: Placed, time: float) -> tuple[float, float]:
    """How wide and high a layer's ink is as it is set, in frame pixels; of a group or a copy, that
    of its letters. Raises what `look_height` raises."""
    if isinstance(layer, Lettering):
        source = layer.source
        size = value_at(source.size, time)
        left, top, right, bottom = trial_outline(source, library_at(title.home), size, time).bounds
        return right - left, bottom - top
    if isinstance(layer, Picture):
        ink = picture_ink(title, layer)
        height = value_at(layer.source.height, time)
        return height * ink.width / max(ink.height, 1), height
    if isinstance(layer, Shapes):
        left, top, right, bottom = bounds_of(shapes_lines(title, layer, time))
        return right - left, bottom - top
    letters = look_height(title, layer)
    return title.frame.width * WIDTH, letters


def fitting_size(
    source: LetteringSource,
    frame: Frame,
    library: Library,
    width: float = WIDTH,
    height: float = HEIGHT,
) -> float:
    """The font size at which the ink fills these shares of the frame's width and height; of words
    that change over time, that of the largest."""
    sizes = []
    for text in dict.fromkeys(values_of(source.text)):
        alone = source.model_copy(update={"text": text})
        sizes.append(_fitting_size(alone, text, frame, library, width, height))
    return min(sizes)


def _fitting_size(
    source: LetteringSource, text: str, frame: Frame, library: Library, width: float, height: float
) -> float:
    outline = trial_outline(source, library, _TRIAL, 0.0)
    left, top, right, bottom = outline.bounds
    lines = text.count("\n") + 1
    tall = min(height * (1 + 0.4 * (lines - 1)), 0.9)
    if outline.empty:
        return round(frame.height * height, 2)
    size = _TRIAL * min(frame.width * width / (right - left), frame.height * tall / (bottom - top))
    return round(min(max(size, 1.0), 8000.0), 2)


def fitting_height(title: Title, layer: Picture) -> float:
    """The height at which a picture's ink fills the frame as a new word does. Raises
    PictureError and LibraryError."""
    ink = picture_ink(title, layer)
    frame = title.frame
    widest = frame.width * WIDTH * ink.height / max(ink.width, 1)
    height = min(frame.height * EMBLEM_HEIGHT, widest)
    return round(min(max(height, 1.0), 16_000.0), 2)


def _stroke_height(title: Title, layer: Picture) -> float:
    """From the mean thickness of a picture's parts, 2 · area / perimeter; the perimeter is the
    total variation of the coverage. Between a quarter of its height and all of it."""
    ink = picture_ink(title, layer)
    alpha = np.pad(ink.pixels[..., 3], 1)
    down, across = np.gradient(alpha)
    perimeter = float(np.hypot(across, down).sum())
    thickness = 2 * float(alpha.sum()) / max(perimeter, 1e-6)
    share = thickness / max(ink.height, 1) * _LETTERS_TO_STROKE
    return value_at(layer.source.height, 0.0) * min(max(share, 0.25), 1.0)


def shapes_lines(title: Title, layer: Shapes, time: float) -> Lines:
    """The outline of shapes, in frame pixels. Raises what `look_height` raises."""
    library = library_at(title.home)

    def ink(named: str) -> tuple[float, float, float, float]:
        words = title.layer(named)
        assert isinstance(words, Lettering)  # references are checked
        size = value_at(words.source.size, time)
        return trial_outline(words.source, library, size, time).bounds

    return shapes_outline(set_shapes(layer.source, time, 1.0, ink))


def _shapes_height(title: Title, layer: Shapes) -> float:
    """From the mean thickness of their parts, 2 · area / perimeter; between a quarter of their
    height and all of it."""
    lines = shapes_lines(title, layer, 0.0)
    if not len(lines):
        raise KeyError(layer.id)
    x1, y1, x2, y2 = lines.T
    area, perimeter = abs(np.sum(x1 * y2 - x2 * y1)) / 2, np.hypot(x2 - x1, y2 - y1).sum()
    height = float(np.ptp(lines[:, 1]))
    letters = 2 * area / max(perimeter, 1e-6) * _LETTERS_TO_STROKE
    return float(min(max(letters, height / 4), height))


def bounds_of(lines: Lines) -> tuple[float, float, float, float]:
    """Left, top, right, bottom of outlines; zeros where there are none."""
    if not len(lines):
        return 0.0, 0.0, 0.0, 0.0
    x, y = lines[:, ::2], lines[:, 1::2]
    return float(x.min()), float(y.min()), float(x.max()), float(y.max())


def resized_look(layer: Sized, factor: float) -> Sized:
    """Lettering, a picture or shapes set larger or smaller, with every length of their build, the
    ways of letters that move apart, and what words run along."""
    source = scaled(layer.source, factor)
    if isinstance(source, LetteringSource):
        parts = {"in_turn": source.in_turn, "along": source.along}
        source = source.model_copy(
            update={name: part and scaled(part, factor) for name, part in parts.items()}
        )
    elif isinstance(source, ShapesSource):
        shapes = [scaled(shape, factor) for shape in source.shapes]
        source = source.model_copy(update={"shapes": shapes})
    return layer.model_copy(update={"source": source, "build": scaled_build(layer.build, factor)})


def lights_along(title: Title, layer: Placed, factor: float) -> Title:
    """The lights that have a place as many times as far from a layer whose look was made `factor`
    times as large; where another layer is larger, they are there for that one."""
    measured = [each for each in title.layers if isinstance(each, Lettering | Picture | Shapes)]
    others = [look_height(title, each) for each in measured if each.id != layer.id]
    if factor == 1 or look_height(title, layer) < max(others, default=0.0):
        return title
    x, y, z = (value_at(getattr(layer.placement, axis), 0.0) for axis in "xyz")
    lights = [_farther(light, (x, y, z), factor) for light in title.lights]
    return title.model_copy(update={"lights": lights})


def _farther(light: TitleLight, middle: tuple[float, float, float], factor: float) -> TitleLight:
    """Scaled about a place: about the frame's centre, then moved by what that moves the place."""
    if isinstance(light, DistantLight):
        return light
    larger = scaled(light, factor)
    if not any(middle):
        return larger
    document = larger.model_dump(mode="json")
    for prefix in ("", "to_"):
        for axis, at in zip("xyz", middle, strict=True):
            if f"{prefix}{axis}" in document:
                document[f"{prefix}{axis}"] = shifted(
                    document[f"{prefix}{axis}"], at * (1 - factor)
                )
    return type(light).model_validate(document)
