"""New steps and layers in a title, fitted to what is there."""

from pathlib import PurePosixPath
from typing import Any

from mabrel.compose.making import DEFAULT_FONT
from mabrel.compose.sizing import look_height
from mabrel.source import FontError, LibraryError, PictureError, family, letter_height
from mabrel.steps import check_title, kinds, scaled_build
from mabrel.title import Layer, Placed, Step, Title, TitleError, parse_title
from mabrel.title.layers import LayerKind

_USUAL_SIZE = 300.0  # letters for which the defaults of steps are made
_WORD = "WORD"
_NAMES = {
    "backdrop": "Backdrop",
    "floor": "Floor",
    "wash": "Wash",
    "copy": "Copy",
    "backing": "Backing",
    "group": "Group",
    "shapes": "Shapes",
}
_CHART = "shipped/chart.png"
_BACKING = [
    Step(step="shape.edge", settings={"grow": 36, "radius": 14, "inner": 22}),
    Step(step="surface.flat", settings={"colour": "#2b3038"}),
    Step(step="relief.bevel", settings={"width": 16, "height": 11}),
    Step(step="light.shade", settings={"gloss": 0.3}),
    Step(step="ground.drop_shadow"),
]
"""What a backing begins as: larger than the letters, with a look of its own."""


def with_step(title: Title, layer: str, step: str, at: int) -> Title:
    """A title with a fresh step in a layer's build before the one that stands at `at`, its lengths
    those that the defaults would be on letters of that size. Raises TitleError."""
    chosen = _layer(title, layer)
    build = list(chosen.build)
    (fresh,) = scaled_build([Step(step=_known(step))], _factor(title, chosen))
    build.insert(min(max(at, 0), len(build)), fresh)
    layers = [
        each.model_copy(update={"build": build}) if each.id == chosen.id else each
        for each in title.layers
    ]
    return _again(title, layers)


def with_layer(
    title: Title, kind: LayerKind, *, of: list[str] | None = None, picture: str | None = None
) -> Title:
    """A title with a fresh layer: grounds beneath all that stands on them, floors and a plate
    before the backdrops, a group in the place of its front member, a backing right behind what it
    follows, all else in front.

    `of` are the layers that a copy or a backing follows (one) or that make a group. Raises
    TitleError.
    """
    layers = list(title.layers)
    members = [_layer(title, each).id for each in of or []]
    fresh = _fresh(title, kind, members, picture)
    standing = next(
        (i for i, each in enumerate(layers) if each.kind not in ("backdrop", "plate")), len(layers)
    )
    front = max((i for i, each in enumerate(layers) if each.id in members), default=len(layers) - 1)
    places = {
        "backdrop": 0, "plate": standing, "floor": standing, "group": front + 1, "backing": front,
    }  # fmt: skip
    place = max(places.get(kind, len(layers)), 0)
    return _again(title, [*layers[:place], fresh, *layers[place:]])


def _fresh(title: Title, kind: LayerKind, of: list[str], picture: str | None) -> Any:
    height = title.frame.height
    shown = picture or _CHART
    own: dict[str, dict[str, Any]] = {
        "lettering": {
            "name": _WORD,
            "source": {"text": _WORD, "font": DEFAULT_FONT, "size": round(height / 5)},
        },
        "picture": {
            "name": PurePosixPath(shown).stem[:200],
            "source": {"picture": shown, "height": max(round(height / 3), 1)},
        },
        "copy": {"source": {"layer": of[0] if of else ""}},
        "backing": _backing(title, of[0] if of else ""),
        "group": {"source": {"layers": of}},
        "shapes": {"source": {"shapes": [_shape(title)]}},
        "backdrop": {"source": {"colour": "#5a6468"}},
        "plate": {"name": PurePosixPath(shown).stem[:200], "source": {"picture": shown}},
        "floor": {"source": {"colour": "#6f777a"}},
        "wash": {},
    }
    return {"kind": kind, "name": _NAMES.get(kind, ""), **own[kind]}


def _shape(title: Title) -> dict[str, Any]:
    """A gear whose teeth bend, a third of the frame high."""
    side = round(title.frame.height / 3)
    return {
        "form": "gear", "width": side, "height": side, "points": 9, "twist": 24, "rounded": 0.08,
    }  # fmt: skip


def _backing(title: Title, of: str) -> dict[str, Any]:
    """A copy of a layer's outline, larger, where that layer stands."""
    followed = next((each for each in title.layers if each.id == of), None)
    factor = 1.0 if followed is None else _factor(title, followed)
    build = [step.model_dump(mode="json") for step in scaled_build(_BACKING, factor)]
    placed = (
        {"placement": followed.placement.model_dump(mode="json")}
        if isinstance(followed, Placed)
        else {}
    )
    return {
        "kind": "copy", "source": {"layer": of, "take": "outline"}, "build": build, **placed,
    }  # fmt: skip


def _factor(title: Title, layer: Layer) -> float:
    """How much larger than usual a layer's letters are; 1 for one without any."""
    if not isinstance(layer, Placed):
        return 1.0
    try:
        usual = letter_height(family(DEFAULT_FONT), "", _USUAL_SIZE)
        return look_height(title, layer) / usual
    except (KeyError, ValueError, FontError, PictureError, LibraryError):
        return 1.0  # what its letters are drawn from is not there: the render says so


def _known(step: str) -> str:
    if step not in kinds():
        raise TitleError("step", f"there is no step {step!r}")
    return step


def _layer(title: Title, named: str) -> Layer:
    try:
        return title.layer(named)
    except KeyError:
        raise TitleError("layer", f"there is no layer {named!r}") from None


def _again(title: Title, layers: list[Any]) -> Title:
    document = title.model_dump(mode="json")
    document["layers"] = [
        each if isinstance(each, dict) else each.model_dump(mode="json") for each in layers
    ]
    return check_title(parse_title(document).at_home(title.home))
