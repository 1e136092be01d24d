"""How large things are set, and the height by which a look's lengths are measured."""

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
from mabrel.source.images import ink_box
from mabrel.source.pictures import decoded_picture, is_drawing, picture_size
from mabrel.steps import scaled_build
from mabrel.title import (
    Copy,
    Frame,
    Layer,
    Lettering,
    LetteringSource,
    Picture,
    Placed,
    Title,
    value_at,
)
from mabrel.title.varying import Varying

WIDTH, HEIGHT = 0.8, 0.36
"""Shares of the frame that a new word fills, with room for its depth."""
_TRIAL = 100.0
_TRIAL_PICTURE = 400


def look_height(title: Title, layer: Layer) -> float:
    """Height in frame pixels that a layer's look is made for: of the capitals of lettering, of a
    picture's ink, of what a copy follows, of the largest in a group.

    Raises KeyError for a layer that has none, such as a backdrop, and FontError.
    """
    if isinstance(layer, Lettering):
        source = layer.source
        fonts = fonts_of(source, library_at(title.home))
        return letter_height(fonts, source.style, value_at(source.size, 0.0))
    if isinstance(layer, Picture):
        return value_at(layer.source.height, 0.0)
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
        source.align,
    )
    return outline_text(source.text, style, fonts_of(source, library))


def fitting_size(
    source: LetteringSource,
    frame: Frame,
    library: Library,
    width: float = WIDTH,
    height: float = HEIGHT,
) -> float:
    """The font size at which the ink fills these shares of the frame's width and height."""
    outline = trial_outline(source, library, _TRIAL, 0.0)
    left, top, right, bottom = outline.bounds
    lines = max(source.text.count("\n") + 1, 1)
    tall = min(height * (1 + 0.4 * (lines - 1)), 0.9)
    if outline.empty:
        return round(frame.height * height, 2)
    size = _TRIAL * min(frame.width * width / (right - left), frame.height * tall / (bottom - top))
    return round(min(max(size, 1.0), 8000.0), 2)


def fitting_height(file: str, frame: Frame, library: Library) -> float:
    """The height at which a picture's ink fills the frame as a new word does. Raises
    PictureError and LibraryError."""
    content = library.read(file)
    size = picture_size(content, file)
    scale = _TRIAL_PICTURE / max(size) if is_drawing(content) else 1.0
    left, top, right, bottom = ink_box(decoded_picture(content, file, scale)[..., 3])
    across, down = max(right - left, 1), max(bottom - top, 1)
    tallest = min(max(HEIGHT, 0.5), HEIGHT * 1.5)  # emblems bear more height than a word
    height = min(frame.height * tallest, frame.width * WIDTH * down / across)
    return round(min(max(height, 1.0), 16_000.0), 2)


def resized_look(layer: Lettering | Picture, factor: float) -> Lettering | Picture:
    """The lettering or picture set larger or smaller, with every length of its build."""
    update: dict[str, object]
    if isinstance(layer, Lettering):
        update = {
            "size": times(layer.source.size, factor),
            "letter_spacing": times(layer.source.letter_spacing, factor),
        }
    else:
        update = {"height": times(layer.source.height, factor)}
    return layer.model_copy(
        update={
            "source": layer.source.model_copy(update=update),
            "build": scaled_build(layer.build, factor),
        }
    )


def times(value: float | Varying[float], factor: float) -> float | Varying[float]:
    """A length, constant or over time, multiplied."""
    if not isinstance(value, Varying):
        return value * factor
    pegs = value.pegs and [
        peg.model_copy(update={"value": peg.value * factor}) for peg in value.pegs
    ]
    drift = value.drift and value.drift.model_copy(update={"amount": value.drift.amount * factor})
    base = None if value.value is None else value.value * factor
    return Varying[float](value=base, pegs=pegs, drift=drift)
