"""Where a step counts."""

import numpy as np
import pytest

from mabrel import Window, parse_title, render
from mabrel.steps import scaled_build
from mabrel.title import Step
from tests.engine.trial_titles import step, titled

WHITE = step("surface.flat", colour="#ffffff")


def shares(where: dict, size: int = 200, beneath=(), before=()) -> np.ndarray:
    """How far a black backdrop is turned white, pixel by pixel."""
    black = {"kind": "backdrop", "source": {"colour": "#000000"}}
    layer = black | {"build": [*before, WHITE | {"where": where}]}
    frame = {"width": size, "height": size}
    document = {"mabrel": 1, "frame": frame, "layers": [*beneath, layer]}
    return render(parse_title(document)).pixels[..., 0]


def test_an_ellipse_has_its_size_and_turns() -> None:
    level = shares({"kind": "ellipse", "width": 120, "height": 60, "feather": 0})
    assert level.sum() == pytest.approx(np.pi * 60 * 30, rel=0.01)
    assert (level[100, 45:155] > 0.9).all()
    assert level[100, 35] == 0
    upright = shares({"kind": "ellipse", "width": 120, "height": 60, "feather": 0, "turn": 90})
    assert upright == pytest.approx(level.T, abs=0.02)


def test_a_rectangle_is_where_it_says() -> None:
    seen = shares({"kind": "rectangle", "x": 20, "y": -10, "width": 60, "height": 40, "feather": 0})
    assert seen.sum() == pytest.approx(60 * 40, rel=0.01)
    rows, columns = np.nonzero(seen > 0.5)
    assert (columns.min(), columns.max() + 1) == (90, 150)
    assert (rows.min(), rows.max() + 1) == (70, 110)


def test_feather_fades_half_on_each_side_of_the_edge() -> None:
    line = shares({"kind": "rectangle", "width": 100, "height": 400, "feather": 40})[100]
    assert line[50] == pytest.approx(0.5, abs=0.03)
    assert line[29] == 0
    assert line[71] == pytest.approx(1, abs=0.01)
    assert (np.diff(line[:100]) >= 0).all()


def test_a_polygon_is_filled_by_the_even_odd_rule() -> None:
    triangle = {"kind": "polygon", "points": [[-80, 60], [80, 60], [0, -60]], "feather": 0}
    assert shares(triangle).sum() == pytest.approx(160 * 120 / 2, rel=0.01)
    angles = np.radians(np.arange(5) * 144 - 90)
    star = np.stack([np.cos(angles), np.sin(angles)], axis=1) * 90
    seen = shares({"kind": "polygon", "points": star.tolist(), "feather": 0})
    assert seen[100, 100] < 1e-6  # the middle of a star drawn in one go
    assert seen[40, 100] == pytest.approx(1)


def test_inverted_is_everything_else() -> None:
    ellipse = {"kind": "ellipse", "width": 90, "height": 90}
    assert shares(ellipse | {"inverted": True}) == pytest.approx(1 - shares(ellipse), abs=1e-5)


def test_bright_or_dark_parts() -> None:
    stops = [{"place": 0, "colour": "#000000"}, {"place": 1, "colour": "#ffffff"}]
    ramp = step("surface.gradient", angle=0, stops=stops)
    seen = shares({"kind": "tones", "low": 0.5, "high": 1, "soft": 0.1}, before=[ramp])[100]
    assert seen[150] == pytest.approx(1)
    assert seen[60] == pytest.approx(60.5 / 200, abs=0.02)  # untouched
    dark = shares({"kind": "tones", "low": 0, "high": 0.3, "soft": 0.05}, before=[ramp])[100]
    assert dark[20] == pytest.approx(1)
    assert dark[150] == pytest.approx(150.5 / 200, abs=0.02)


def test_the_matte_of_a_layer_wherever_that_stands() -> None:
    word = {
        "kind": "lettering",
        "id": "word",
        "visible": False,
        "source": {"text": "O", "size": 90},
        "placement": {"x": 30, "y": -20},
    }
    seen = shares({"kind": "matte", "layer": "word"}, beneath=[word])
    frame = {"width": 200, "height": 200}
    alone = parse_title({"mabrel": 1, "frame": frame, "layers": [word]})
    assert seen == pytest.approx(render(alone, tap="matte").pixels[..., 0], abs=1e-5)


def test_the_matte_of_a_layer_on_a_turned_card() -> None:
    """What lies over the picture stays there, however the card beneath is turned."""
    disc = {"kind": "lettering", "id": "dot", "visible": False, "source": {"text": "O", "size": 80}}
    painted = WHITE | {"where": {"kind": "matte", "layer": "dot"}}
    black = step("surface.flat", colour="#000000")
    lettering = {"source": {"text": "HH", "size": 200}, "placement": {"turn_y": 40}}
    title = titled([black, painted], beneath=[disc], lettering=lettering, frame=(240, 240))
    seen = render(title).pixels[..., 0]
    alone = parse_title({"mabrel": 1, "frame": {"width": 240, "height": 240}, "layers": [disc]})
    expected = render(alone, tap="matte").pixels[..., 0]
    inside = render(title).pixels[..., 3] > 0.99
    assert np.abs(seen - expected)[inside].mean() < 0.01


def test_it_limits_shape_relief_and_what_lies_behind_too() -> None:
    left = {"kind": "rectangle", "x": -200, "width": 400, "height": 400, "feather": 0}
    for kind, tap in (("shape.edge", "matte"), ("relief.inflate", "height"),
                      ("ground.drop_shadow", "behind")):  # fmt: skip
        plain = render(titled([]), tap=tap).pixels
        part = render(titled([step(kind) | {"where": left}]), tap=tap).pixels
        assert np.abs(part - plain)[:, :118].max() > 0.1, kind
        if tap != "height":  # a picture of heights is stretched to its highest place
            assert part[:, 122:] == pytest.approx(plain[:, 122:], abs=1e-5), kind


def test_strength_counts_within_it() -> None:
    where = {"kind": "rectangle", "width": 80, "height": 80, "feather": 0}
    black = {"kind": "backdrop", "source": {"colour": "#000000"}}
    layer = black | {"build": [WHITE | {"where": where, "strength": 0.25}]}
    pixels = render(parse_title({"mabrel": 1, "layers": [layer]}), scale=0.25).pixels
    assert pixels.max() == 1  # alpha
    assert pixels[..., 0].max() == pytest.approx(0.25)


def test_a_part_of_the_frame_is_the_same_as_in_the_whole() -> None:
    where = {"kind": "ellipse", "width": 90, "height": 60, "x": 10}
    title = titled([WHITE | {"where": where}])
    whole = render(title).pixels
    part = render(title, window=Window(90, 60, 80, 50)).pixels
    assert np.array_equal(part, whole[60:110, 90:170])


def test_its_lengths_scale_with_the_look_and_over_time() -> None:
    moving = {"pegs": [{"at": 0, "value": 10}, {"at": 2, "value": 30}]}
    where = {"kind": "ellipse", "x": moving, "width": 40, "height": 20, "feather": 4}
    polygon = {"kind": "polygon", "points": [[0, 0], [10, 0], [0, 10]]}
    build = [Step.model_validate(WHITE | {"where": each}) for each in (where, polygon)]
    first, second = (each.where for each in scaled_build(build, 3))
    assert (first.width, first.height, first.feather) == (120, 60, 12)
    assert [peg.value for peg in first.x.pegs] == [30, 90]
    assert second.points[1] == (30, 0)


def test_a_polygon_is_filled_exactly() -> None:
    """A sliver thinner than a pixel, anywhere between pixels, covers what it covers."""
    sliver = [[-60, 10.3], [60, 10.3], [60, 10.55], [-60, 10.55]]
    seen = shares({"kind": "polygon", "points": sliver, "feather": 0})
    assert seen[110, 45:155] == pytest.approx(np.full(110, 0.25), abs=2e-4)
    assert seen.sum() == pytest.approx(120 * 0.25, abs=0.02)


def test_a_polygon_may_reach_far_beyond_the_frame() -> None:
    wide = {"kind": "polygon", "points": [[-9e4, -9e4], [9e4, -9e4], [9e4, 9e4], [-9e4, 9e4]]}
    assert shares(wide | {"feather": 0}).min() == 1


@pytest.mark.parametrize(
    ("turn", "side"), [(0, np.s_[:, 120:]), (90, np.s_[120:]), (180, np.s_[:, :80])]
)
def test_a_half_plane_lies_on_one_side_of_its_line(turn: float, side: tuple) -> None:
    seen = shares({"kind": "half", "turn": turn, "feather": 0})
    assert seen.mean() == pytest.approx(0.5, abs=0.01)
    assert seen[side].min() == 1


def test_inside_and_outside_the_outline() -> None:
    """On lettering a step may count within the outline, or a band along it, or all around it."""

    def face(where: dict) -> np.ndarray:
        build = [step("surface.flat", colour="#000000"), WHITE | {"where": where}]
        seen = render(titled(build, word="O", size=150)).pixels
        return seen[..., 0][seen[..., 3] > 0.99]

    assert face({"kind": "outline"}).min() == pytest.approx(1, abs=0.02)
    inner = face({"kind": "outline", "grow": -8})
    assert 0.2 < inner.mean() < 0.9
    rim = face({"kind": "outline", "grow": -8, "inverted": True})
    assert rim == pytest.approx(1 - inner, abs=0.02)


def test_a_polygon_that_crosses_itself_all_over_is_filled_too() -> None:
    points = np.random.default_rng(1).uniform(-90, 90, (500, 2)).tolist()
    seen = shares({"kind": "polygon", "points": points, "feather": 0})
    assert 0.3 < seen[30:170, 30:170].mean() < 0.7
