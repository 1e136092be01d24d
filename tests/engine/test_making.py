"""New titles and swapped words: the look follows the letters."""

from pathlib import Path

import numpy as np
import pytest

from mabrel import (
    Renderer,
    TitleError,
    check_title,
    finishes,
    new_title,
    parse_title,
    render,
    swap,
)
from mabrel.compose import apply_finish, finish_named, look_height, resized_look
from mabrel.compose.finishes import FinishError, parse_finish
from mabrel.source import (
    FontError,
    LetteringStyle,
    family,
    letter_height,
    outline_text,
    svg_path,
)
from mabrel.steps import scaled_build
from mabrel.title import Finish, Step, value_at


def lettering(title):
    return next(layer for layer in title.layers if layer.kind == "lettering")


def length(title) -> float:
    extrude = next(step for step in lettering(title).build if step.step == "depth.extrude")
    return extrude.settings["length"]


def tall(title) -> float:
    source = lettering(title).source
    return letter_height(family(source.font), source.style, source.size)


def test_a_new_word_fits_its_frame_with_room_for_its_depth() -> None:
    for text in ("I", "FOGHORN", "A much longer line of words", "Two\nlines"):
        title = new_title(text, frame=(640, 360), transparent=True)
        matte = render(title, tap="matte").pixels[..., 0]
        rows, columns = np.nonzero(matte.max(axis=1))[0], np.nonzero(matte.max(axis=0))[0]
        assert rows[0] > 20
        assert rows[-1] < 340
        assert columns[0] > 50
        assert columns[-1] < 590


def test_lengths_of_a_finish_follow_the_height_of_the_letters() -> None:
    small, large = (new_title("KELP", frame=size) for size in ((480, 270), (1920, 1080)))
    assert length(large) / length(small) == pytest.approx(4, rel=0.01)
    assert tall(large) / length(large) == pytest.approx(tall(small) / length(small), rel=1e-3)


def test_a_look_on_small_and_on_large_letters_is_the_same_when_scaled() -> None:
    small, large = (
        render(new_title("KELP", frame=(width, width * 9 // 16))).pixels for width in (480, 1440)
    )
    mean = large.reshape(270, 3, 480, 3, 4).mean(axis=(1, 3))
    assert np.abs(mean - small).mean() < 0.02


def test_another_word_keeps_the_look_and_the_height_of_its_letters() -> None:
    title = new_title("KELP")
    rust = swap(title, text="RUST")
    assert lettering(rust).source.text == "RUST"
    assert lettering(rust).build == lettering(title).build
    assert lettering(rust).source.size == lettering(title).source.size


def test_a_word_too_long_for_the_frame_is_set_smaller_with_its_look() -> None:
    title = new_title("FOG")
    longer = swap(title, text="A whole sentence instead of one word")
    assert lettering(longer).source.size < lettering(title).source.size
    assert tall(longer) / length(longer) == pytest.approx(tall(title) / length(title), rel=1e-3)


def test_another_font_keeps_the_height_of_the_letters() -> None:
    title = new_title("KELP")
    other = swap(title, font="anton")
    assert lettering(other).source.font == "Anton"
    assert tall(other) == pytest.approx(tall(title), rel=1e-6)
    assert length(other) == length(title)


def test_lengths_scale_by_their_kind_and_with_them_their_values_over_time() -> None:
    moving = {"pegs": [{"at": 0, "value": 10}, {"at": 1, "value": 20}], "drift": {"amount": 2}}
    build = [Step(step="relief.bevel", settings={"width": moving, "combine": "greater"})]
    [scaled] = scaled_build(build, 3)
    assert [peg["value"] for peg in scaled.settings["width"]["pegs"]] == [30, 60]
    assert scaled.settings["width"]["drift"]["amount"] == 6
    assert scaled.settings["height"] == 60  # the default is written out
    assert scaled.settings["combine"] == "greater"
    assert "direction" not in scaled.settings


def test_size_over_time_scales_too() -> None:
    title = new_title("KELP").model_dump(mode="json")
    layer = next(each for each in title["layers"] if each["kind"] == "lettering")
    layer["source"]["size"] = {"pegs": [{"at": 0, "value": 100}, {"at": 1, "value": 200}]}
    half = resized_look(lettering(parse_title(title)), 0.5)
    assert value_at(half.source.size, 1) == 100


def test_a_finish_is_applied_at_the_size_that_is_there() -> None:
    title = new_title("KELP", finish="ship-brass")
    enamel = apply_finish(title, lettering(title).id, finish_named("enamel"))
    assert [step.step for step in lettering(enamel).build] == [
        step.step for step in finish_named("enamel").build
    ]
    fresh = new_title("KELP", finish="enamel")
    assert length(enamel) == pytest.approx(length(fresh))


def test_every_shipped_finish_says_what_it_is() -> None:
    assert {"ship-brass", "enamel"} <= set(finishes())
    for finish in finishes().values():
        assert finish.label
        assert finish.help.endswith(".")


def test_the_key_light_moves_the_whole_of_a_finish() -> None:
    renderer = Renderer()
    title = new_title("KELP", frame=(480, 270), transparent=True)

    def shadow_side(azimuth: float) -> float:
        light = title.lights[0].model_copy(update={"azimuth": azimuth})
        turned = title.model_copy(update={"lights": [light]})
        behind = renderer.render(turned, tap="behind").pixels
        dark = behind[..., 3] * (behind[..., :3].max(axis=-1) < 0.05)
        return float(np.average(np.arange(480), weights=dark.sum(axis=0)))

    assert shadow_side(180) > shadow_side(0) + 5


@pytest.mark.parametrize(
    ("how", "error"),
    [
        ({"text": "A" * 3000}, TitleError),
        ({"text": "A", "font": "Nowhere Sans"}, FontError),
        ({"text": "A", "finish": "gold-plated-air"}, FinishError),
        ({"text": "A", "frame": (0, 100)}, TitleError),
        ({"text": "A", "frame": (100_000, 100_000)}, TitleError),
    ],
)
def test_what_cannot_be_made_is_refused(how: dict, error: type[Exception]) -> None:
    with pytest.raises(error):
        new_title(**how)


def test_a_broken_finish_is_refused_with_its_name_and_place() -> None:
    with pytest.raises(TitleError, match=r"odd: letter_height: is missing"):
        parse_finish('{"name": "odd", "label": "Odd", "build": []}', "odd")


def test_a_pictures_look_is_measured_by_the_thickness_of_its_parts(tmp_path: Path) -> None:
    """A picture of bold letters takes a look as those letters do; a thin ring a finer one."""
    frame = (600, 300)
    title = new_title("HOH", frame=frame, home=tmp_path)
    word = lettering(title)
    outline = outline_text("HOH", LetteringStyle(word.source.font, "", 200))
    left, top, right, bottom = outline.bounds
    box = f"{left} {top} {right - left} {bottom - top}"
    path = f'<path d="{svg_path(outline)}"/>'
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">'
    (tmp_path / "word.svg").write_text(f"{head}{path}</svg>")
    ring = '<circle cx="50" cy="50" r="45" fill="none" stroke="#000" stroke-width="6"/>'
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">'
    (tmp_path / "ring.svg").write_text(f"{head}{ring}</svg>")
    drawn = swap(title, picture="word.svg")
    picture = drawn.layers[-1]
    assert look_height(drawn, picture) == pytest.approx(picture.source.height, rel=0.25)
    thin = swap(title, picture="ring.svg")
    assert look_height(thin, thin.layers[-1]) == pytest.approx(
        thin.layers[-1].source.height * 0.25, rel=0.02
    )


def test_a_finish_with_a_step_reference_keeps_it_when_it_is_applied() -> None:
    finish = Finish(
        name="two-rims",
        label="Two rims",
        letter_height=200,
        build=[
            Step(id="rim", step="relief.bevel"),
            Step(step="light.shade", settings={"relief": "rim"}),
        ],
    )
    title = new_title("KELP", finish=finish, frame=(320, 180))
    twice = apply_finish(title, title.layers[-1].id, finish)
    for each in (title, twice):
        bevel, shade = each.layers[-1].build
        assert shade.settings["relief"] == bevel.id
        check_title(each)
