"""What a build starts from: words, a picture, layers drawn together, another layer, a plane."""

from dataclasses import replace
from functools import partial
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.camera import Card
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node, key_of
from mabrel.render.pictures import picture_plan
from mabrel.render.pieces import (
    check_area,
    drawn_piece,
    ground_piece,
    picture_bound,
    picture_piece,
    plate_piece,
    taken_piece,
    washed_piece,
    words_bound,
    words_piece,
)
from mabrel.render.reading import Apart, Words
from mabrel.render.view import View, whole_frame
from mabrel.source import LetteringStyle, is_font_file
from mabrel.source.along import Way, circle, longest_edge
from mabrel.source.apart import Move
from mabrel.source.letter_places import LetterPlace
from mabrel.source.shapes import SetShape, drawn, set_shapes
from mabrel.steps import Bound, Piece, Region
from mabrel.title import (
    Along,
    Backdrop,
    Copy,
    Floor,
    Group,
    InTurn,
    Layer,
    Lettering,
    LetteringSource,
    Moment,
    Picture,
    Plate,
    Shapes,
    Wash,
    value_at,
)
from mabrel.title.letters import delays, varying_in_turn
from mabrel.title.playing import RUNNING, named_as_clip
from mabrel.title.varying import Varying, varying_in

Shift = tuple[float, float]
_PIECE = 6 + 4  # numbers a pixel: matte, face, height, and what follows from them


class Source(NamedTuple):
    """A source planned: the node that makes its piece, and what that can't leave."""

    node: Node[Piece]
    bound: Bound


def source_of(
    plans: Plans, view: View, layer: Layer, card: Card, unit: float, shift: Shift
) -> Source:
    """What a layer's build starts from, `unit` render pixels for one of its own.

    Raises FontError, PictureError, LibraryError and RenderError for what can't be used.
    """
    if isinstance(layer, Lettering):
        return _words(plans, layer, unit, shift)
    if isinstance(layer, Picture):
        return _picture(plans, layer, unit, shift)
    if isinstance(layer, Shapes):
        return _shapes(plans, layer, unit, shift)
    if isinstance(layer, Group):
        return _group(plans, view, layer, unit)
    if isinstance(layer, Copy):
        return _copy(plans, view, layer, card)
    return _plane(plans, view, layer)


def _source(layer: Layer, bound: Bound, work: Any, varies: Any = (), **seen: Any) -> Source:
    inputs = seen.pop("inputs", ())
    varying: tuple[Varying[Any], ...] = tuple(varying_in(varies))
    key = key_of(kind=layer.kind, inputs=inputs, region=bound.region, **seen)
    node = Node("source", layer.id, key, bound.region, work, inputs, varying, _PIECE)
    return Source(node, bound)


def words_at(plans: Plans, layer: Lettering, unit: float) -> Words:
    """Words as they are set at the plan's time, `unit` render pixels for one of its own."""
    source, time = layer.source, plans.time
    axes = {tag: value_at(value, time) for tag, value in source.axes.items()}
    version = plans.reader.library.version(source.font) if is_font_file(source.font) else ""
    words = Words(
        value_at(source.text, time),
        _style(source, time, unit),
        tuple(sorted(axes.items())),
        version,
        along=_way(plans, source.along, unit) if source.along is not None else None,
    )
    if source.in_turn is not None:
        words = replace(words, apart=_apart(plans, words, source.in_turn, unit))
    return words


def _words(plans: Plans, layer: Lettering, unit: float, shift: Shift) -> Source:
    words = words_at(plans, layer, unit)
    found = plans.reader.words(words)
    bound = words_bound(found, shift)
    check_area(layer.name or layer.id, bound.region)
    work = partial(words_piece, bound, found.layers, shift)
    along = layer.source.along
    varies = _moving(layer.source, words)
    if along is not None and along.layer is not None:
        varies = [*varies, plans.title.layer(along.layer)]
    return _source(layer, bound, work, varies, words=words, shift=shift)


def letters_of(plans: Plans, layer: Layer, unit: float, shift: Shift) -> tuple[LetterPlace, ...]:
    """Where the letters of a layer stand on its card, in render pixels; none but of words."""
    if not isinstance(layer, Lettering):
        return ()
    return tuple(
        place._replace(shift=(place.shift[0] + shift[0], place.shift[1] + shift[1]))
        for place in plans.reader.letters(words_at(plans, layer, unit))
    )


def _way(plans: Plans, along: Along, unit: float) -> Way | None:
    """What words run along at the plan's time; None where there is nothing of it."""
    points, closed = _places(plans, along, unit)
    if len(points) < 2:
        return None
    time = plans.time
    start, away = value_at(along.start, time), value_at(along.away, time) * unit
    return Way(points, closed, start, away, along.inside)


def _places(plans: Plans, along: Along, unit: float) -> tuple[NDArray[np.float64], bool]:
    if along.on == "circle":
        return circle(value_at(along.radius, plans.time) * unit), True
    if along.on == "line":
        nodes = value_at(along.nodes, plans.time)
        return drawn(nodes, False) * unit, False
    if along.layer is None:
        return np.zeros((0, 2)), True
    layer = plans.title.layer(along.layer)
    assert isinstance(layer, Shapes)  # references are checked
    (edge,) = plans.reader.shapes(shapes_at(plans, layer, unit)).arrays
    return longest_edge(edge), True


def shapes_at(plans: Plans, layer: Shapes, unit: float) -> tuple[SetShape, ...]:
    """Shapes at the plan's time, `unit` render pixels for one of their own."""

    def ink(named: str) -> tuple[float, float, float, float]:
        words = plans.title.layer(named)
        assert isinstance(words, Lettering)  # references are checked
        return plans.reader.words(words_at(plans, words, unit)).bounds

    return set_shapes(layer.source, plans.time, unit, ink)


def _shapes(plans: Plans, layer: Shapes, unit: float, shift: Shift) -> Source:
    shapes = shapes_at(plans, layer, unit)
    found = plans.reader.shapes(shapes)
    bound = words_bound(found, shift)
    check_area(layer.name or layer.id, bound.region)
    work = partial(words_piece, bound, found.layers, shift)
    around = [plans.title.layer(each.around) for each in layer.source.shapes if each.around]
    varies = [layer.source, *(each.source for each in around if isinstance(each, Lettering))]
    return _source(layer, bound, work, varies, shapes=shapes, shift=shift)


def _apart(plans: Plans, words: Words, in_turn: InTurn, unit: float) -> Apart:
    """Where each letter, word or line stands at the plan's time."""
    parts = plans.reader.parts(words, in_turn.by).parts
    waits = delays(in_turn, len(parts))
    moves = tuple(_move(in_turn, plans.time.before(wait), unit) for wait in waits)
    return Apart(in_turn.by, in_turn.about, moves)


def _move(in_turn: InTurn, time: Moment, unit: float) -> Move:
    return Move(
        value_at(in_turn.x, time) * unit,
        value_at(in_turn.y, time) * unit,
        value_at(in_turn.turn, time),
        value_at(in_turn.scale, time),
        value_at(in_turn.opacity, time),
    )


def _moving(source: LetteringSource, words: Words) -> list[Any]:
    """All values over time by which words change."""
    if source.in_turn is None or words.apart is None:
        return [source]
    set_words = source.model_copy(update={"in_turn": None})
    return [set_words, *varying_in_turn(source.in_turn, len(words.apart.moves))]


def _style(source: LetteringSource, time: float, unit: float) -> LetteringStyle:
    return LetteringStyle(
        source.font,
        source.style,
        value_at(source.size, time) * unit,
        value_at(source.letter_spacing, time) * unit,
        value_at(source.line_spacing, time),
        value_at(source.align, time),
    )


def _picture(plans: Plans, layer: Picture, unit: float, shift: Shift) -> Source:
    plan = picture_plan(layer, plans.reader.library, plans.time, unit)
    outline = plans.reader.outline(plan)
    bound = picture_bound(plans.reader.picture(plan), plan.height, shift, outline)
    check_area(layer.name or layer.id, bound.region)

    def work() -> Piece:
        return picture_piece(bound, plans.reader.picture(plan), plan.height, shift)

    varies = [layer.source, *([] if plan.frame is None else [RUNNING])]
    return _source(layer, bound, work, varies, cut=plan.cut_key, height=plan.height, shift=shift)


def _group(plans: Plans, view: View, layer: Group, unit: float) -> Source:
    """Its members drawn over one another, as large as all of them."""
    inner = View(unit, whole_frame(plans.title.frame, unit), framed=False)
    members = [each for each in plans.title.layers if each.id in layer.source.layers]
    shown = [each for each in members if each.visible]
    area = plans.reach(inner, shown)
    if not area.area:
        area = Region(-1, -1, 2, 2)
    check_area(layer.name or layer.id, area)
    canvas = plans.canvas(View(unit, area, framed=False), shown)
    box = (float(area.left), float(area.top), float(area.right), float(area.bottom))
    bound = Bound(area, box, exact=False)
    return _source(layer, bound, partial(drawn_piece, area), inputs=(canvas,))


def _copy(plans: Plans, view: View, layer: Copy, card: Card) -> Source:
    of: LayerPlan = plans.layer(view, plans.title.layer(layer.source.layer), card)
    take, face = value_at(layer.source.take, plans.time), of.face_opacity
    bound = of.bound
    if take != "everything":
        bound = Bound(bound.region, bound.box, bound.outline, exact=bound.exact)
    work = partial(taken_piece, take, face)
    return _source(
        layer, bound, work, [of.layer, layer.source], inputs=(of.node,), take=take, face=face
    )


def _plane(plans: Plans, view: View, layer: Layer) -> Source:
    """A colour that fills the picture, or the plane of a floor that is looked at."""
    assert isinstance(layer, Backdrop | Floor | Wash)
    whole = whole_frame(plans.title.frame, view.scale)
    box = _patch(whole) if isinstance(layer, Floor) else whole
    around = (float(box.left), float(box.top), float(box.right), float(box.bottom))
    bound = Bound(view.region, around)
    code = "#00000000" if isinstance(layer, Wash) else value_at(layer.source.colour, plans.time)
    if isinstance(layer, Plate):
        return _plate(plans, layer, bound, box, code)
    varies = () if isinstance(layer, Wash) else layer.source
    return _source(
        layer, bound, partial(ground_piece, view.region, box, code), varies, colour=code, box=box
    )


def _plate(plans: Plans, layer: Plate, bound: Bound, frame: Region, code: str) -> Source:
    """A picture or a clip that fills the picture."""
    source, reader = layer.source, plans.reader
    file = value_at(source.picture, plans.time)
    version = reader.version(file, plans.time, source.play)

    def work() -> Piece:
        image = reader.file(file, max(frame.width, frame.height), plans.time, source.play)
        return plate_piece(bound.region, frame, code, image, source.fit)

    varies = [source, *([RUNNING] if named_as_clip(file) else [])]
    return _source(layer, bound, work, varies, colour=code, box=frame, file=version, fit=source.fit)


def _patch(frame: Region) -> Region:
    """The part of a floor that counts as its box: two frames wide, under the lettering."""
    side = max(frame.width * 2, 2)
    return Region(-side // 2, -side // 2, side, side)


def washed_source(plans: Plans, layer: Wash, view: View, beneath: Node[Any]) -> Source:
    """What lies beneath a wash, as a plane that fills the picture."""
    frame = whole_frame(plans.title.frame, view.scale)
    box = (float(frame.left), float(frame.top), float(frame.right), float(frame.bottom))
    bound = Bound(view.region, box)
    return _source(
        layer, bound, partial(washed_piece, view.region, box), inputs=(beneath,), box=box
    )
