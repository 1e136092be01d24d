"""A set of titles that belong together: as large as one another, and seen side by side."""

import math
from collections.abc import Sequence

from mabrel.compose.sizing import fitting_size, resized_look
from mabrel.compose.words import Made
from mabrel.source import library_at
from mabrel.title import Lettering, Title, value_at

DEFAULT_MARGIN = 0.05


def within_margin(made: Sequence[Made], margin: float = DEFAULT_MARGIN) -> list[Made]:
    """Each title of a set with its words within a share of the frame from its edges: what is
    larger is set smaller, and its look with it."""
    return [one_size([each], margin)[0] for each in made]


def one_size(made: Sequence[Made], margin: float = DEFAULT_MARGIN) -> list[Made]:
    """All titles of a set with their words as large as one another: as large as the longest word
    bears within `margin`, and no larger than they are. Each lettering, from the back to the front,
    has the size of its own in all of them."""
    smallest: dict[int, float] = {}
    for each in made:
        for place, word, fit in _words(each.title, margin):
            size = min(fit, _size(word))
            smallest[place] = min(smallest.get(place, math.inf), size)
    return [
        each if each.title is None else each._replace(title=_sized(each.title, smallest))
        for each in made
    ]


def _size(word: Lettering) -> float:
    return value_at(word.source.size, 0.0)


def _words(title: Title | None, margin: float) -> list[tuple[int, Lettering, float]]:
    """The letterings of a title: their places among themselves, and the size that fits."""
    words = [each for each in title.layers if isinstance(each, Lettering)] if title else []
    if title is None:
        return []
    share, library = max(1 - 2 * margin, 0.05), library_at(title.home)
    return [
        (place, word, fitting_size(word.source, title.frame, library, width=share, height=share))
        for place, word in enumerate(words)
    ]


def _sized(title: Title, sizes: dict[int, float]) -> Title:
    place = 0
    layers = []
    for layer in title.layers:
        if isinstance(layer, Lettering):
            layer = resized_look(layer, sizes[place] / _size(layer))
            place += 1
        layers.append(layer)
    return title.model_copy(update={"layers": layers}).at_home(title.home)
