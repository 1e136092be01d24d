"""New titles, and other words in the same look."""

from mabrel.compose.finishes import finish_named
from mabrel.source import LetteringStyle, family, letter_height, outline_text
from mabrel.steps import scaled_build
from mabrel.title import (
    Finish,
    Frame,
    Layer,
    Lettering,
    LetteringSource,
    Step,
    Title,
    parse_title,
    value_at,
)
from mabrel.title.varying import Varying

DEFAULT_FONT = "Titan One"
DEFAULT_FINISH = "ship-brass"
_WIDTH, _HEIGHT = 0.8, 0.36  # shares of the frame that a new word fills, with room for its depth
_TRIAL = 100.0


def new_title(
    text: str,
    *,
    font: str = DEFAULT_FONT,
    finish: str | Finish = DEFAULT_FINISH,
    frame: tuple[int, int] = (1920, 1080),
    transparent: bool = False,
    name: str | None = None,
) -> Title:
    """A title with one word in a finish, set as large as the frame bears.

    `transparent` leaves the finish's grounds out. Raises TitleError (text or frame out of their
    limits), FontError and FinishError.
    """
    look = finish_named(finish) if isinstance(finish, str) else finish
    width, height = frame
    # The document's own checks come first: a wrong frame or text is named as such.
    bare = parse_title(
        {
            "mabrel": 1,
            "name": name if name is not None else text.replace("\n", " ")[:200].capitalize(),
            "frame": {"width": width, "height": height},
            "layers": [
                {"kind": "lettering", "source": {"text": text, "font": font}, "name": text[:200]}
            ],
        }
    )
    lettering = bare.layers[0]
    assert isinstance(lettering, Lettering)
    size = fitting_size(lettering.source, bare.frame)
    lettering = lettering.model_copy(
        update={
            "source": lettering.source.model_copy(update={"font": family(font).name, "size": size})
        }
    )
    grounds: list[Layer] = [] if transparent else list(look.grounds)
    layers = [*grounds, _finished(lettering, look), *look.washes]
    return _numbered(bare.model_copy(update={"lights": look.lights, "layers": layers}))


def apply_finish(title: Title, layer_id: str, finish: Finish) -> Title:
    """Give one lettering layer the build of a finish, at its own size. Raises KeyError."""
    layer = title.layer(layer_id)
    if not isinstance(layer, Lettering):
        raise KeyError(layer_id)
    return _with_layer(title, _finished(layer, finish))


def swap(
    title: Title, *, text: str | None = None, font: str | None = None, layer: str | None = None
) -> Title:
    """The same look on another word or in another font.

    The letters keep their height, so the look keeps its lengths; a word that would then leave
    the frame is set smaller, and the look with it. `layer` is an id or name; without it the
    front lettering is meant. Raises KeyError, FontError and TitleError.
    """
    chosen = _lettering(title, layer)
    source = chosen.source
    changes: dict[str, object] = {}
    if text is not None:
        changes["text"] = text
    if font is not None:
        fonts = family(font)
        style = source.style if source.style in fonts.styles else ""
        changes |= {"font": fonts.name, "style": style}
        ratio = letter_height(source.font, source.style, 1) / letter_height(fonts.name, style, 1)
        changes["size"] = _times(source.size, ratio)
    renamed = (
        {"name": (text or "")[:200]} if text is not None and chosen.name == source.text else {}
    )
    source = LetteringSource.model_validate({**source.model_dump(), **changes})
    lettering = chosen.model_copy(update={"source": source, **renamed})
    largest = fitting_size(source, title.frame, width=0.96, height=0.9)
    now = value_at(source.size, 0.0)
    if now > largest:
        lettering = resized_look(lettering, largest / now)
    return _with_layer(title, lettering)


def resized_look(lettering: Lettering, factor: float) -> Lettering:
    """The lettering set larger or smaller, with every length of its build."""
    source = lettering.source
    update = {
        "size": _times(source.size, factor),
        "letter_spacing": _times(source.letter_spacing, factor),
    }
    return lettering.model_copy(
        update={
            "source": source.model_copy(update=update),
            "build": scaled_build(lettering.build, factor),
        }
    )


def fitting_size(
    source: LetteringSource, frame: Frame, width: float = _WIDTH, height: float = _HEIGHT
) -> float:
    """The font size at which the ink fills these shares of the frame's width and height."""
    spacing = value_at(source.letter_spacing, 0.0) / value_at(source.size, 0.0)
    style = LetteringStyle(
        source.font,
        source.style,
        _TRIAL,
        spacing * _TRIAL,
        value_at(source.line_spacing, 0.0),
        source.align,
    )
    outline = outline_text(source.text, style)
    left, top, right, bottom = outline.bounds
    lines = max(source.text.count("\n") + 1, 1)
    tall = min(height * (1 + 0.4 * (lines - 1)), 0.9)
    if outline.empty:
        return round(frame.height * height, 2)
    size = _TRIAL * min(frame.width * width / (right - left), frame.height * tall / (bottom - top))
    return round(min(max(size, 1.0), 8000.0), 2)


def _finished(lettering: Lettering, look: Finish) -> Lettering:
    source = lettering.source
    tall = letter_height(source.font, source.style, value_at(source.size, 0.0))
    build = scaled_build([_anonymous(step) for step in look.build], tall / look.letter_height)
    return lettering.model_copy(update={"build": build})


def _anonymous(step: Step) -> Step:
    return step.model_copy(update={"id": ""})


def _lettering(title: Title, named: str | None) -> Lettering:
    if named is not None:
        layer = title.layer(named)
        if isinstance(layer, Lettering):
            return layer
        raise KeyError(named)
    for layer in reversed(title.layers):
        if isinstance(layer, Lettering):
            return layer
    raise KeyError("lettering")


def _with_layer(title: Title, changed: Layer) -> Title:
    layers = [changed if layer.id == changed.id else layer for layer in title.layers]
    return _numbered(title.model_copy(update={"layers": layers}))


def _numbered(title: Title) -> Title:
    """Checked again as a whole, with ids for what has none yet."""
    return parse_title(title.model_dump(mode="json"))


def _times(value: float | Varying[float], factor: float) -> float | Varying[float]:
    if not isinstance(value, Varying):
        return value * factor
    pegs = value.pegs and [
        peg.model_copy(update={"value": peg.value * factor}) for peg in value.pegs
    ]
    drift = value.drift and value.drift.model_copy(update={"amount": value.drift.amount * factor})
    base = None if value.value is None else value.value * factor
    return Varying[float](value=base, pegs=pegs, drift=drift)
