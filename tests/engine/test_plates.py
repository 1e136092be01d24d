"""The shot that a title is made for: shown at its time, exported or left out, read against."""

import cv2
import numpy as np
import pytest

from mabrel import Renderer, new_title
from mabrel.compose import swap, with_layer
from mabrel.compose.freezing import frozen
from mabrel.export.order import Order, as_ordered
from mabrel.reading import readings
from mabrel.steps.named_files import files_of, with_files
from mabrel.title import Plate, Title, TitleError, parse_title
from mabrel.title.motion import moves

SIZE = (320, 180)


@pytest.fixture(scope="module")
def home(tmp_path_factory):
    """Ten frames as numbered pictures, each of another grey, and a still."""
    folder = tmp_path_factory.mktemp("shots")
    for number in range(10):
        cv2.imwrite(str(folder / f"grey.{number + 1:04d}.png"), grey(20 + 20 * number))
    cv2.imwrite(str(folder / "wall.png"), grey(90))
    return folder


def grey(level: int, size: tuple[int, int] = SIZE) -> np.ndarray:
    return np.full((size[1], size[0], 3), level, np.uint8)


def titled(home, picture: str = "grey.####.png", **source) -> Title:
    title = new_title("KELP", frame=SIZE, home=home)
    title = with_layer(title.at_home(home), "plate", picture=picture).at_home(home)
    document = title.model_dump(mode="json")
    plate = next(each for each in document["layers"] if each["kind"] == "plate")
    plate["source"] |= source
    return parse_title(document).at_home(home)


def corner(title: Title, time: float = 0.0) -> list[int]:
    picture = Renderer().render(title, time=time, scale=0.5)
    return picture.to_uint8()[2, 2].tolist()


def test_a_plate_lies_before_the_backdrops_and_beneath_all_else(home) -> None:
    kinds = [each.kind for each in titled(home).layers]
    assert kinds.index("plate") == kinds.index("backdrop") + 1
    assert kinds[-1] == "lettering"


@pytest.mark.parametrize(
    ("play", "time", "level"),
    [
        ({}, 0.0, 20),
        ({}, 0.13, 80),
        ({"rate": 10}, 0.13, 40),
        ({"start": 0.2}, 0.0, 120),
        ({"speed": 0.5}, 0.13, 40),
        ({"after": "hold"}, 9.0, 200),
        ({"after": "loop"}, 0.4, 20),
        ({"after": "there and back"}, 0.45, 180),
    ],
)
def test_it_shows_the_frame_that_is_due(home, play: dict, time: float, level: int) -> None:
    assert corner(titled(home, play=play), time)[:3] == [level] * 3


def test_a_still_of_a_moment_shows_the_frame_of_that_moment(home) -> None:
    title = titled(home)
    assert moves(title)
    still = frozen(title, 0.13)
    assert corner(still) == corner(still, 5.0) == corner(title, 0.13)


def test_a_step_runs_a_clip_as_it_is_told(home) -> None:
    title = new_title("KELP", frame=SIZE, home=home)
    document = title.model_dump(mode="json")
    step = {
        "step": "surface.picture",
        "settings": {"picture": "grey.####.png"},
        "play": {"start": 0.2, "speed": 0, "rate": 25},
    }
    document["layers"][0]["build"] = [step]
    assert corner(parse_title(document).at_home(home), 3.0)[:3] == [120] * 3
    step["play"] = None
    assert corner(parse_title(document).at_home(home), 0.13)[:3] == [80] * 3
    step["play"] = {"start": {"pegs": [{"at": 0, "value": 0.2}, {"at": 1, "value": 0.3}]}}
    moving = parse_title(document).at_home(home)
    assert corner(frozen(moving, 0.08)) == corner(moving, 0.08)


@pytest.mark.parametrize("fit", ["cover", "fit", "stretch"])
def test_it_fills_the_frame_in_three_ways(home, fit: str) -> None:
    cv2.imwrite(str(home / "tall.png"), grey(200, (90, 180)))
    title = titled(home, "tall.png", fit=fit, colour="#ff0000")
    picture = Renderer().render(title, scale=0.5).to_uint8()
    expected = [255, 0, 0] if fit == "fit" else [200] * 3
    assert picture[45, 3, :3].tolist() == expected
    assert picture[2, 80, :3].tolist() == [200] * 3


@pytest.mark.parametrize("backdrop", [True, False])
def test_an_export_has_it_or_leaves_it_out(home, backdrop: bool) -> None:
    title = titled(home, "wall.png")
    with_it = as_ordered(title, Order(backdrop=backdrop, plate=True))
    without = as_ordered(title, Order(backdrop=backdrop, plate=False))
    assert corner(with_it) == [90, 90, 90, 255]
    assert corner(without)[3] == (255 if backdrop else 0)
    assert corner(without)[:3] != [90] * 3


def test_it_names_its_file_and_takes_another(home) -> None:
    title = titled(home)
    assert files_of(title) == {"grey.####.png"}
    other = with_files(title, {"grey.####.png": "wall.png"}).at_home(home)
    plate = next(each for each in other.layers if isinstance(each, Plate))
    assert plate.source.picture == "wall.png"


def said(title: Title, gauge: str) -> list[str]:
    found = readings(Renderer(), title, title.layers[-1].id)
    return [each.text for each in found.said if each.gauge == gauge]


def test_the_title_is_held_against_the_light_of_the_shot(home) -> None:
    title = titled(home, "wall.png")
    key = title.lights[0]
    seen = {"azimuth": key.azimuth, "elevation": key.elevation}
    agreeing = said(titled(home, "wall.png", light=seen), "light")
    assert any("agrees with the shot's light, 0° from it" in each for each in agreeing)
    other = {"azimuth": key.azimuth + 90, "elevation": 10}
    off = said(titled(home, "wall.png", light=other), "light")
    assert any("The shot is lit from" in each and "10° high" in each for each in off)
    assert not any("shot" in each for each in said(title, "light"))


def test_it_tells_where_the_word_runs_into_the_shot(home) -> None:
    title = titled(home, "wall.png")
    document = title.model_dump(mode="json")
    word = document["layers"][-1]
    fill = {"step": "surface.flat", "settings": {"colour": "#5e5e5e"}}
    word["build"] = [fill]
    (lost,) = said(parse_title(document).at_home(home), "plate")
    assert "100% of the outline of KELP runs into the shot" in lost
    fill["settings"]["colour"] = "#ffffff"
    (clear,) = said(parse_title(document).at_home(home), "plate")
    assert "stands out from the shot" in clear
    for layer in document["layers"]:
        layer["visible"] = layer["kind"] != "plate"
    assert said(parse_title(document).at_home(home), "plate") == []


def test_what_is_no_plate_is_refused() -> None:
    layer = {"kind": "plate", "source": {"picture": "wall.png", "light": {"elevation": 91}}}
    with pytest.raises(TitleError, match="elevation"):
        parse_title({"mabrel": 1, "layers": [layer]})


def test_another_word_leaves_what_stands_before_the_lettering(home) -> None:
    document = titled(home, "wall.png").model_dump(mode="json")
    figure = {"kind": "picture", "id": "figure", "source": {"picture": "wall.png"}}
    title = parse_title(document | {"layers": [*document["layers"], figure]}).at_home(home)
    other = swap(title, text="RUST")
    assert [each.kind for each in other.layers] == [each.kind for each in title.layers]
    assert other.layers[-2].source.text == "RUST"
    assert swap(title, picture="tall.png").layers[-1].source.picture == "tall.png"


@pytest.mark.parametrize(
    ("step", "name", "before"),
    [
        ("surface.picture", "picture", []),
        ("shape.displace", "map", []),
        ("relief.emboss", "picture", []),
        ("light.surroundings", "panorama", [{"step": "relief.inflate"}]),
        ("depth.extrude", "picture", []),
    ],
)
def test_wherever_a_picture_is_a_clip_runs(home, step: str, name: str, before: list) -> None:
    draw = np.random.default_rng(5)
    for number in range(1, 4):
        small = draw.integers(0, 256, (9, 16, 3), np.uint8)
        cv2.imwrite(str(home / f"noise.{number:03d}.png"), cv2.resize(small, (160, 90)))
    document = new_title("KELP", frame=SIZE, home=home).model_dump(mode="json")
    settings = {name: "noise.###.png"}
    if step == "depth.extrude":
        settings |= {"texture": "picture", "length": 40}
    run = {"step": step, "settings": settings, "play": {"rate": 10}}
    document["layers"][-1]["build"] = [*before, run, {"step": "light.shade"}]
    title = parse_title(document).at_home(home)
    first, same, second = (Renderer().render(title, time=time).pixels for time in (0.0, 0.09, 0.1))
    assert np.array_equal(first, same)
    assert np.abs(first - second).max() > 0.02
