"""Layers of shapes, and words along lines: outlines as exact as those of letters."""

import math

import numpy as np
import pytest

from mabrel import Renderer, TitleError, parse_title
from mabrel.compose import look_height, resized_look, with_layer
from mabrel.source import LetteringStyle, outline_text
from mabrel.source.along import Way, circle, set_along
from mabrel.source.letter_places import letter_places
from mabrel.source.shapes import SetShape, shapes_outline
from mabrel.steps.settings import check_title

FORMS = [
    "rectangle", "ellipse", "polygon", "star", "gear", "ring", "swirl", "drop", "splash", "ribbon",
    "arrow", "frame",
]  # fmt: skip


def shape(form: str, **more) -> SetShape:
    usual = {
        "combine": "join", "x": 0.0, "y": 0.0, "width": 300.0, "height": 200.0, "turn": 0.0,
        "points": 7, "inner": 0.5, "twist": 0.0, "rounded": 0.0, "line": 0.0, "seed": 3,
        "closed": True, "nodes": (),
    }  # fmt: skip
    return SetShape(form=form, **(usual | more))


def area(lines: np.ndarray) -> float:
    x1, y1, x2, y2 = lines.T
    return abs(float(np.sum(x1 * y2 - x2 * y1))) / 2


def document(shapes: list[dict], **more) -> dict:
    layer = {"kind": "shapes", "id": "own", "source": {"shapes": shapes}, **more}
    frame = {"width": 640, "height": 400}
    lights = [{"azimuth": 225, "elevation": 45}]
    return {"mabrel": 1, "frame": frame, "lights": lights, "layers": [layer]}


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("twist", [0, 40])
def test_shapes_are_as_large_as_they_are_asked_for_and_closed(form: str, twist: float) -> None:
    lines = shapes_outline([shape(form, twist=float(twist))])
    assert np.abs(np.sort(lines[:, :2], axis=0) - np.sort(lines[:, 2:], axis=0)).max() < 1e-9
    low, high = lines[:, :2].min(axis=0), lines[:, :2].max(axis=0)
    if form == "ribbon" and twist:
        assert high[0] - low[0] == pytest.approx(300, abs=0.1)
    elif not twist or form in ("ellipse", "ring", "drop", "splash", "arrow", "frame"):
        tall = 200 if form not in ("polygon", "star") else 200 * (1 + math.cos(math.pi / 7)) / 2
        assert high[1] - low[1] == pytest.approx(tall, abs=13 if form in ("gear", "swirl") else 0.1)
    assert 0 < area(lines) < 300 * 200 * 1.4


def test_areas_are_those_of_the_formulas() -> None:
    assert area(shapes_outline([shape("rectangle")])) == pytest.approx(60_000)
    assert area(shapes_outline([shape("ellipse")])) == pytest.approx(math.pi * 150 * 100, rel=2e-4)
    ring = area(shapes_outline([shape("ring", inner=0.6)]))
    assert ring == pytest.approx(math.pi * 150 * 100 * (1 - 0.36), rel=4e-4)
    line = area(shapes_outline([shape("rectangle", line=20.0)]))
    assert line == pytest.approx(320 * 220 - 280 * 180, rel=1e-6)


def test_shapes_are_joined_cut_out_and_overlapped_in_their_order() -> None:
    square = shape("rectangle", width=200.0)
    for combine, wanted in (("join", 300 * 200), ("cut", 100 * 200), ("overlap", 100 * 200)):
        other = shape("rectangle", width=200.0, x=100.0, combine=combine)
        assert area(shapes_outline([square, other])) == pytest.approx(wanted)
    hole = shape("ellipse", width=100.0, height=100.0, combine="cut")
    island = shape("ellipse", width=40.0, height=40.0)
    three = area(shapes_outline([square, hole, island]))
    assert three == pytest.approx(40_000 - math.pi * (2500 - 400), rel=1e-3)


def test_a_twisted_gear_bends_its_arms_and_keeps_its_hole() -> None:
    straight, bent = (
        shapes_outline([shape("gear", width=200.0, points=9, twist=twist)]) for twist in (0.0, 35.0)
    )
    for lines in (straight, bent):
        radii = np.hypot(*lines[:, :2].T)
        assert radii.min() == pytest.approx(50, abs=0.05)
        assert radii.max() == pytest.approx(100, abs=0.05)
    assert area(bent) == pytest.approx(area(straight), rel=0.02)
    assert len(bent) > 2 * len(straight)  # its sides are curves now


def test_drawn_paths_run_through_their_places_as_bezier_curves() -> None:
    k = 4 / 3 * (math.sqrt(2) - 1) * 100  # a circle of four cubic pieces
    nodes = ((0, -100, -k, 0, k, 0), (100, 0, 0, -k, 0, k))
    nodes += ((0, 100, k, 0, -k, 0), (-100, 0, 0, k, 0, -k))
    lines = shapes_outline([shape("path", nodes=nodes)])
    radii = np.hypot(*lines[:, :2].T)
    assert radii.min() > 99.95
    assert radii.max() < 100.05
    open_line = shape("path", nodes=((-100, 0, 0, 0, 0, 0), (100, 0, 0, 0, 0, 0)), closed=False)
    assert len(shapes_outline([open_line])) == 0
    drawn = shape("path", nodes=open_line.nodes, closed=False, line=20.0)
    assert area(shapes_outline([drawn])) == pytest.approx(200 * 20 + math.pi * 100, rel=2e-3)


def test_a_bevel_on_a_shape_is_that_of_the_analytic_shape() -> None:
    straight = {"width": 10, "height": 10, "profile": [[0, 0], [1, 1]]}
    build = [{"step": "relief.bevel", "settings": straight}]
    disc = {"form": "ellipse", "width": 240, "height": 240}
    fields = Renderer().fields(parse_title(document([disc], build=build)), "own")
    y, x = np.mgrid[:400, :640] + 0.5
    inside = 120 - np.hypot(x - 320, y - 200)
    there = fields.matte == 1
    assert np.abs(fields.height[there] - np.clip(inside[there], 0, 10)).max() < 0.1


def test_a_frame_goes_around_its_lettering_and_follows_the_word() -> None:
    def framed(word: str) -> tuple[float, float]:
        doc = document([{"form": "frame", "around": "word", "margin": 30, "line": 4}])
        source = {"text": word, "size": 60}
        doc["layers"].append({"kind": "lettering", "id": "word", "source": source})
        title = parse_title(doc)
        left, top, right, bottom = Renderer().box(title, "own", scale=1.0)
        word_box = Renderer().box(title, "word", scale=1.0)
        assert left == pytest.approx(word_box[0] - 32, abs=0.1)
        assert bottom == pytest.approx(word_box[3] + 32, abs=0.1)
        return right - left, bottom - top

    assert framed("LONGER")[0] > framed("AB")[0]


def test_all_that_is_built_for_letters_works_on_shapes() -> None:
    build = [
        {"step": "surface.cells", "settings": {"fit": "box"}},
        {"step": "relief.inflate"},
        {"step": "light.shade"},
        {"step": "depth.extrude"},
        {"step": "depth.outline"},
        {"step": "ground.cast_shadow"},
    ]
    for form in FORMS:
        seen = Renderer().render(parse_title(document([{"form": form}], build=build))).pixels
        assert np.isfinite(seen).all()
        assert seen[..., 3].max() > 0.99


def test_parameters_move_over_time() -> None:
    pegs = {"pegs": [{"at": 0, "value": 0}, {"at": 1, "value": 90, "ease": [0, 0, 1, 1]}]}
    doc = document([{"form": "rectangle", "width": 300, "height": 60, "turn": pegs}])
    title = parse_title(doc)
    flat, upright = (Renderer().box(title, "own", time=time, scale=1.0) for time in (0.0, 1.0))
    assert flat[2] - flat[0] == pytest.approx(300, abs=0.1)
    assert upright[3] - upright[1] == pytest.approx(300, abs=0.1)
    assert Renderer().plan(title).changes(0, 1)


@pytest.mark.parametrize(
    ("shapes", "said"),
    [
        ([], "shapes"),
        ([{"form": "blob"}], "form"),
        ([{"form": "gear", "points": 1e9}], "points"),
        ([{"id": "a"}, {"id": "a"}], "two shapes with the same id"),
        ([{"form": "frame", "around": "nobody"}], "no layer 'nobody'"),
        ([{"form": "frame", "around": "own"}], "the layer itself"),
        ([{"form": "path", "nodes": [[0, 0, 0, 0, 0, 0]]}], "nodes"),
        ([{"form": "path", "nodes": [[0, 0, 0], [1, 2, 3]]}], "nodes"),
        ([{}] * 65, "shapes"),
    ],
)
def test_what_is_no_shape_is_refused_with_its_place(shapes, said: str) -> None:
    with pytest.raises(TitleError) as refused:
        check_title(parse_title(document(shapes)))
    assert "layers[0].source" in str(refused.value)
    assert said in str(refused.value)


def test_a_frame_goes_around_lettering_only_and_words_along_shapes_only() -> None:
    doc = document([{"form": "frame", "around": "other"}])
    doc["layers"].append({"kind": "backdrop", "id": "other"})
    with pytest.raises(TitleError, match="must be a layer of lettering"):
        check_title(parse_title(doc))
    along = {"on": "shapes", "layer": "other"}
    word = {"kind": "lettering", "source": {"text": "A", "along": along}}
    layers = [word, {"kind": "backdrop", "id": "other"}]
    with pytest.raises(TitleError, match="must be a layer of shapes"):
        check_title(parse_title(doc | {"layers": layers}))


def test_a_fresh_layer_of_shapes_is_added_and_its_look_is_measured() -> None:
    title = with_layer(parse_title(document([{}])), "shapes")
    fresh = title.layers[-1]
    assert fresh.source.shapes[0].form == "gear"
    assert 20 < look_height(title, fresh) < 140
    larger = resized_look(fresh, 2.0)
    assert larger.source.shapes[0].width == 2 * fresh.source.shapes[0].width


# Words along lines


def letters_along(way: Way, text: str = "HIH"):
    return set_along(outline_text(text, LetteringStyle("Anton", size=60)), way).letters


def test_letters_stand_on_a_circle_upright_to_it() -> None:
    way = Way(circle(300), True, 0.0, 0.0, False)
    placed = letters_along(way, "HHH")
    for letter in placed:
        lines = letter.lines()
        centre = (lines[:, :2].min(axis=0) + lines[:, :2].max(axis=0)) / 2
        angle = math.degrees(math.atan2(centre[0], -centre[1]))
        assert letter.turn == pytest.approx(angle, abs=0.6)
        foot = letter.upright_lines()[:, 1].max()
        assert foot == pytest.approx(letter.y, abs=0.01)
        assert math.hypot(letter.x, letter.y) == pytest.approx(300, rel=0.01)
    assert placed[1].turn == pytest.approx(0, abs=0.2)  # the middle one at the top


def test_words_inside_stand_at_the_foot_the_right_way_up_and_start_runs_round() -> None:
    inside = letters_along(Way(circle(300), True, 0.0, 0.0, True))
    assert inside[1].turn == pytest.approx(0, abs=0.2)
    assert inside[1].y == pytest.approx(300, abs=1)
    quarter = letters_along(Way(circle(300), True, 0.25, 0.0, False))
    assert quarter[1].turn == pytest.approx(90, abs=0.5)
    assert quarter[1].x == pytest.approx(300, abs=1)
    around = letters_along(Way(circle(300), True, 1.25, 0.0, False))
    assert around[1].x == pytest.approx(quarter[1].x)


def test_letters_beyond_the_ends_of_a_line_are_left_out() -> None:
    line = np.array([[-30.0, 0.0], [30.0, 0.0]])
    assert len(letters_along(Way(line, False, 0.0, 0.0, False), "HHHHHHHH")) < 8
    away = letters_along(Way(line, False, 0.0, 25.0, False), "H")
    assert away[0].y == pytest.approx(-25)


def test_places_of_letters_along_a_line_are_where_their_outlines_are() -> None:
    outline = outline_text("DEPTH", LetteringStyle("Press Start 2P", size=80))
    along = set_along(outline, Way(circle(300), True, 0.1, 0.0, False))
    for place, letter in zip(letter_places(along), along.letters, strict=True):
        left, top, _, _ = place.box
        turned, shift = np.reshape(place.turned, (2, 2)), np.array(place.shift)
        corner = turned @ np.array([left, top]) + shift
        lines = letter.lines()[:, :2]
        back = (lines - shift) @ turned  # the rotation's inverse is its transpose
        assert back.min(axis=0) == pytest.approx([left, top], abs=1e-6)
        assert np.hypot(*(lines - corner).T).min() < 30


def test_words_follow_the_edge_of_shapes_in_a_title() -> None:
    doc = document([{"form": "ellipse", "width": 400, "height": 240}])
    along = {"on": "shapes", "layer": "own", "away": 6}
    word = {
        "kind": "lettering",
        "id": "word",
        "source": {"text": "ROUND", "size": 40, "along": along},
    }
    doc["layers"].append(word)
    title = parse_title(doc)
    box = Renderer().box(title, "word", scale=1.0)
    assert box[3] < -100  # above the ellipse
    assert box[1] > -190
    larger = doc | {"layers": [document([{"form": "ellipse", "height": 360}])["layers"][0], word]}
    assert Renderer().box(parse_title(larger), "word", scale=1.0)[1] < box[1] - 40
