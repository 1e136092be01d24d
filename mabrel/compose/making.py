"""New titles, and other words or pictures in the same look."""

from pathlib import Path, PurePosixPath

from pydantic import ValidationError

from mabrel.compose.finishes import finish_named
from mabrel.compose.sizing import (
    fitting_height,
    fitting_size,
    fonts_of,
    lights_along,
    look_height,
    resized_look,
)
from mabrel.source import is_font_file, letter_height, library_at
from mabrel.steps import scaled_build
from mabrel.steps.references import settings_of_kind
from mabrel.title import (
    Backdrop,
    DistantLight,
    Finish,
    Floor,
    Layer,
    Lettering,
    LetteringSource,
    Picture,
    PictureSource,
    Placed,
    Step,
    Title,
    Wash,
    parse_title,
    value_at,
)
from mabrel.title.errors import error_of
from mabrel.title.scaling import scaled, scaled_value

DEFAULT_FONT = "Titan One"
DEFAULT_FINISH = "ship-brass"


def new_title(
    text: str,
    *,
    font: str = "",
    finish: str | Finish = DEFAULT_FINISH,
    frame: tuple[int, int] = (1920, 1080),
    transparent: bool = False,
    name: str | None = None,
    home: Path | None = None,
    picture: str | None = None,
) -> Title:
    """A title with one word in a finish, set as large as the frame bears.

    Without a `font` it is set in the one that suits the finish. `transparent` leaves the finish's
    grounds out; `home` is the folder of a font file and of
    `picture`, which stands in the word's place where it is given. Raises TitleError (text or
    frame out of their limits), FontError, PictureError, LibraryError and FinishError.
    """
    if picture is not None:
        called = name if name is not None else PurePosixPath(picture).stem[:200].capitalize()
        word = new_title(
            "MM", finish=finish, frame=frame, transparent=transparent, name=called, home=home
        )
        return swap(word, picture=picture)
    look = finish_named(finish) if isinstance(finish, str) else finish
    font = font or look.font or DEFAULT_FONT
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
    ).at_home(home)
    lettering = bare.layers[0]
    assert isinstance(lettering, Lettering)
    library = library_at(home)
    named = font if is_font_file(font) else fonts_of(lettering.source, library).name
    size = fitting_size(lettering.source, bare.frame, library)
    source = lettering.source.model_copy(update={"font": named, "size": size})
    lettering = lettering.model_copy(update={"source": source})
    factor = look_height(bare, lettering) / look.letter_height

    def fitted(layer: Backdrop | Floor | Wash) -> Layer:
        return scaled(layer, factor).model_copy(update={"build": scaled_build(layer.build, factor)})

    grounds = [] if transparent else [fitted(each) for each in look.grounds]
    washes = [fitted(each) for each in look.washes]
    finished = _finished(bare, lettering, look)
    if look.placement is not None:
        finished = finished.model_copy(update={"placement": scaled(look.placement, factor)})
    update: dict[str, object] = {
        "lights": [scaled(each, factor) for each in look.lights],
        "layers": [*grounds, finished, *washes],
    }
    if look.camera is not None:
        update["camera"] = scaled(look.camera, factor)
    return _numbered(bare.model_copy(update=update))


def apply_finish(title: Title, layer_id: str, finish: Finish) -> Title:
    """Give one layer the build of a finish, at its own size. Raises KeyError where there is no
    such layer, or one that has no size of its own."""
    layer = title.layer(layer_id)
    if not isinstance(layer, Placed):
        raise KeyError(layer_id)
    return _with_layer(title, _finished(title, layer, finish))


def swap(
    title: Title,
    *,
    text: str | None = None,
    font: str | None = None,
    picture: str | None = None,
    layer: str | None = None,
) -> Title:
    """The same look on another word, in another font, or on a picture.

    Letters keep their height, so the look keeps its lengths; a word that would then leave the
    frame is set smaller, and the look with it. A picture in the place of a word, or a word in
    that of a picture, is set as large as the frame bears, and the look's lengths follow. `layer`
    is an id or name; without it words take the place of the front lettering, or of the front
    picture where there is none; a picture that of whatever stands in front. Raises KeyError,
    FontError, PictureError, LibraryError and TitleError.
    """
    chosen = _swappable(title, layer, words=picture is None)
    changed: Lettering | Picture
    if picture is not None:
        changed = _as_picture(title, chosen, picture)
    elif isinstance(chosen, Lettering):
        changed = _other_words(title, chosen, text, font)
    elif text is None:
        raise KeyError("lettering")
    else:
        changed = _as_word(title, chosen, text, font or DEFAULT_FONT)
    done = _with_layer(title, changed)
    if all(isinstance(light, DistantLight) for light in title.lights):
        return done
    return lights_along(done, changed, look_height(done, changed) / look_height(title, chosen))


def _other_words(
    title: Title, lettering: Lettering, text: str | None, font: str | None
) -> Lettering | Picture:
    source = lettering.source
    library = library_at(title.home)
    changes: dict[str, object] = {}
    if text is not None:
        changes["text"] = text
    if font is not None:
        changes |= _other_font(source, font, title)
    renamed = (
        {"name": (text or "")[:200]} if text is not None and lettering.name == source.text else {}
    )
    try:
        source = LetteringSource.model_validate({**source.model_dump(), **changes})
    except ValidationError as invalid:
        raise error_of(invalid) from None
    changed = lettering.model_copy(update={"source": source, **renamed})
    largest = fitting_size(source, title.frame, library, width=0.96, height=0.9)
    now = value_at(source.size, 0.0)
    return resized_look(changed, largest / now) if now > largest else changed


def _other_font(source: LetteringSource, font: str, title: Title) -> dict[str, object]:
    """Font, style and the size at which the letters keep their height."""
    library = library_at(title.home)
    fonts = fonts_of(LetteringSource(text="", font=font), library)
    style = source.style if source.style in fonts.styles else ""
    before = letter_height(fonts_of(source, library), source.style, 1)
    ratio = before / letter_height(fonts, style, 1)
    named = font if is_font_file(font) else fonts.name
    size = scaled_value(source.model_dump(mode="json")["size"], ratio)
    return {"font": named, "style": style, "axes": {}, "size": size}


def _as_picture(title: Title, layer: Lettering | Picture, file: str) -> Picture:
    if isinstance(layer, Picture):  # as high as the one before it
        source = layer.source.model_copy(update={"picture": file, "cut": None})
    else:
        source = PictureSource(picture=file)
    picture = Picture(name=PurePosixPath(file).stem[:200], source=source, **_kept(layer))
    if not isinstance(layer, Picture):
        height = fitting_height(title, picture)
        picture = picture.model_copy(
            update={"source": source.model_copy(update={"height": height})}
        )
    factor = look_height(title, picture) / look_height(title, layer)
    return picture.model_copy(update={"build": scaled_build(layer.build, factor)})


def _as_word(title: Title, layer: Picture, text: str, font: str) -> Lettering:
    library = library_at(title.home)
    named = (
        font if is_font_file(font) else fonts_of(LetteringSource(text="", font=font), library).name
    )
    source = LetteringSource(text=text, font=named)
    source = source.model_copy(update={"size": fitting_size(source, title.frame, library)})
    word = Lettering(name=text[:200], source=source, **_kept(layer))
    factor = look_height(title, word) / look_height(title, layer)
    return word.model_copy(update={"build": scaled_build(layer.build, factor)})


def _kept(layer: Lettering | Picture) -> dict[str, object]:
    """All of a layer but what it shows."""
    names = set(Lettering.model_fields) - {"kind", "name", "source", "build"}
    return {name: getattr(layer, name) for name in names}


def _finished(title: Title, layer: Placed, look: Finish) -> Placed:
    factor = look_height(title, layer) / look.letter_height
    taken = {step.id for step in title.steps()}
    build = scaled_build(_renamed(look.build, taken), factor)
    return layer.model_copy(update={"build": build})


def _renamed(build: list[Step], taken: set[str]) -> list[Step]:
    """With new ids; steps that others refer to get theirs at once, and the references follow."""
    asked = {id for step in build for _, id in settings_of_kind(step, "step")}
    names: dict[str, str] = {}
    for number, id in enumerate(sorted(asked), start=1):
        stem, names[id] = f"{id}-", id
        while names[id] in taken:
            names[id], number = f"{stem}{number}", number + 1
        taken.add(names[id])
    renamed = []
    for step in build:
        changed = {name: names[id] for name, id in settings_of_kind(step, "step")}
        settings = step.settings | changed
        renamed.append(step.model_copy(update={"id": names.get(step.id, ""), "settings": settings}))
    return renamed


def _swappable(title: Title, named: str | None, *, words: bool) -> Lettering | Picture:
    """The layer of a name. Without one: for `words` the front lettering, whatever pictures stand
    before it; else the front lettering or picture."""
    if named is not None:
        layer = title.layer(named)
        if isinstance(layer, Lettering | Picture):
            return layer
        raise KeyError(named)
    there = [each for each in reversed(title.layers) if isinstance(each, Lettering | Picture)]
    lettering = [each for each in there if isinstance(each, Lettering)] if words else []
    if not there:
        raise KeyError("lettering")
    return (lettering or there)[0]


def _with_layer(title: Title, changed: Layer) -> Title:
    layers = [changed if layer.id == changed.id else layer for layer in title.layers]
    return _numbered(title.model_copy(update={"layers": layers}))


def _numbered(title: Title) -> Title:
    """Checked again as a whole, with ids for what has none yet."""
    return parse_title(title.model_dump(mode="json")).at_home(title.home)
