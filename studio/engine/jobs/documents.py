"""Documents read and checked, made and changed."""

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from mabrel import Title, TitleError, check_title, new_title
from mabrel.compose import (
    Made,
    apply_finish,
    lay,
    lights_along,
    parse_arrival,
    resized_look,
    swap,
    titles_from,
    with_layer,
    with_step,
    word_list,
)
from mabrel.compose.finishes import parse_finish
from mabrel.compose.sets import DEFAULT_MARGIN, within_margin
from mabrel.compose.sets import one_size as as_large
from mabrel.steps import files_of, with_files
from mabrel.title import Lettering, Picture, Placed, value_at
from mabrel.title.layers import LayerKind
from studio.engine.jobs.pictures import layer_of
from studio.engine.outcome import Checked
from studio.engine.process import Tools


def checked(title: Title) -> Checked:
    """Raises TitleError."""
    check_title(title)
    frame = title.frame
    text = json.dumps(title.model_dump(mode="json"), ensure_ascii=False)
    return Checked(
        text,
        title.name,
        frame.width,
        frame.height,
        frame.duration,
        frame.fps,
        sorted(files_of(title)),
    )


def check(tools: Tools, *, documents: Sequence[bytes], home: str) -> list[Checked]:
    """All of them, or TitleError."""
    return [checked(tools.title(document, home)) for document in documents]


def make(
    tools: Tools,
    *,
    home: str,
    text: str,
    font: str,
    finish: bytes,
    frame: tuple[int, int],
    transparent: bool,
    picture: str | None,
) -> Checked:
    """A new title; see `new_title`."""
    look = parse_finish(finish)
    return checked(
        new_title(
            text,
            font=font,
            finish=look,
            frame=frame,
            transparent=transparent,
            home=Path(home),
            picture=picture,
        )
    )


def swapped(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    text: str | None,
    font: str | None,
    picture: str | None,
) -> Checked:
    """The same look on another word, in another font or on a picture."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer, Lettering | Picture)
    if isinstance(chosen, Picture) and text is None and picture is None:
        raise TitleError("text", "must be given to put a word in the place of a picture")
    return checked(swap(title, text=text, font=font, picture=picture, layer=chosen.id))


def resized(tools: Tools, *, document: bytes, home: str, layer: str, size: float) -> Checked:
    """Another size of the letters, the look's lengths with it."""
    title = tools.title(document, home)
    lettering = layer_of(title, layer, Lettering)
    if not 1 <= size <= 8000:
        raise TitleError("size", "must be at least 1 and at most 8000")
    factor = size / value_at(lettering.source.size, 0.0)
    changed = resized_look(lettering, factor)
    layers = [changed if each.id == changed.id else each for each in title.layers]
    done = title.model_copy(update={"layers": layers}).at_home(title.home)
    return _again(tools, lights_along(done, changed, factor), home)


def with_step_added(
    tools: Tools, *, document: bytes, home: str, layer: str, step: str, at: int
) -> Checked:
    """One step more in a layer's build."""
    return checked(with_step(tools.title(document, home), layer, step, at))


def with_layer_added(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    kind: LayerKind,
    of: list[str],
    picture: str | None,
) -> Checked:
    """One layer more."""
    title = tools.title(document, home)
    return checked(with_layer(title, kind, of=of, picture=picture))


def arrived(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    arrival: bytes,
    at: float,
    length: float | None,
    run_back: bool,
) -> Checked:
    """An arrival or a departure laid into a layer."""
    title = tools.title(document, home)
    found = parse_arrival(arrival)
    return checked(lay(title, layer, found, at=at, length=length, run_back=run_back))


def finished(
    tools: Tools,
    *,
    documents: Sequence[bytes],
    home: str,
    finish: bytes,
    layers: Sequence[str] | None,
) -> list[Checked]:
    """The build of a finish on layers that have a size of their own; without `layers` on the
    front one of each document."""
    look = parse_finish(finish)
    found = []
    for document in documents:
        title = tools.title(document, home)
        chosen = [layer_of(title, each, Placed).id for each in layers or _front(title)]
        for each in chosen:
            tools.cancel.check()
            title = apply_finish(title, each, look)
        found.append(checked(title))
    return found


def _front(title: Title) -> list[str]:
    placed = [layer.id for layer in title.layers if isinstance(layer, Placed)]
    if not placed:
        raise TitleError("layers", f"{title.name} has no lettering")
    return placed[-1:]


def words(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str | None,
    words: str,
    one_size: bool,
    margin: float | None,
) -> list[dict[str, Any]]:
    """The look on each word of a list: name, document and fault."""
    title = tools.title(document, home)
    all_made: list[Made] = []
    for row in word_list(words, title):
        tools.cancel.check()
        all_made += titles_from(title, [row], layer)
    if one_size:
        all_made = as_large(all_made, DEFAULT_MARGIN if margin is None else margin)
    elif margin is not None:
        all_made = within_margin(all_made, margin)
    found = []
    for made in all_made:
        tools.cancel.check()
        text, fault = None, made.fault
        if made.title is not None:
            try:
                text = checked(made.title).text
            except TitleError as broken:
                fault = str(broken)
        found.append({"name": made.name, "document": text, "fault": fault})
    return found


def replaced(
    tools: Tools, *, documents: Sequence[bytes], home: str, files: dict[str, str]
) -> list[Checked]:
    """Other files wherever a document names one of these."""
    return [
        _again(tools, with_files(tools.title(document, home), files), home)
        for document in documents
    ]


def _again(tools: Tools, title: Title, home: str) -> Checked:
    """Checked as if it came from outside: what was changed may have left its limits."""
    return checked(tools.title(json.dumps(title.model_dump(mode="json")).encode(), home))
