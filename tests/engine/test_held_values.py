"""Words, pictures, choices and switches over time: each holds until the next peg."""

import json
import shutil
from pathlib import Path

import numpy as np
import pytest

from mabrel import Renderer, parse_title, swap
from mabrel.compose import parse_arrival
from mabrel.compose.places import settings_at_place
from mabrel.compose.sizing import fitting_size
from mabrel.source import library_at
from mabrel.steps.named_files import files_of, with_files
from mabrel.title import Title, TitleError
from mabrel.title.motion import moves, moving_spans
from mabrel.title.varying import mapped, values_of
from tests.engine.trial_titles import step, titled

SHIPPED = Path(__file__).parents[2] / "mabrel" / "pictures"


def held(before: object, after: object) -> dict:
    return {"pegs": [{"at": 0, "value": before}, {"at": 1, "value": after}]}


def pixels(title: Title, time: float) -> np.ndarray:
    return Renderer().render(title, time=time).pixels


def lettered(**source: object) -> Title:
    return titled(lettering={"source": {"text": "Rg\nl", "size": 50} | source})


def copied(take: object) -> Title:
    build = [step("relief.bevel"), step("light.shade"), step("depth.extrude", length=12)]
    copy = {"kind": "copy", "id": "copy", "source": {"layer": "word", "take": take},
            "placement": {"x": 40}}  # fmt: skip
    document = json.loads(titled(build).model_dump_json())
    return parse_title(document | {"layers": [*document["layers"], copy]})


def blended(mode: object) -> Title:
    ground = {"kind": "backdrop", "source": {"colour": "#806040"}}
    build = [step("surface.flat", colour="#3080f0")]
    return titled(build, beneath=[ground], lettering={"blend": mode})


def hidden(hides: object) -> Title:
    floor = {"kind": "floor", "level": 10, "hides": hides, "source": {"colour": "#00000000"}}
    return titled(beneath=[floor])


def pictured(home: Path, matte: object, picture: object = "shipped/planks.jpg") -> Title:
    picture = {"kind": "picture", "source": {"picture": picture, "height": 90, "matte": matte}}
    frame = {"width": 240, "height": 160}
    return parse_title({"mabrel": 1, "frame": frame, "layers": [picture]}).at_home(home)


MOVING = {
    "words": (lambda value: lettered(text=value), "Rg", "Buoy"),
    "align": (lambda value: lettered(align=value), "left", "right"),
    "blend": (blended, "normal", "multiply"),
    "take": (copied, "everything", "outline"),
    "hides": (hidden, False, True),
    "shape": (lambda value: pictured(SHIPPED, value), "alpha", "brightness"),
    "picture": (
        lambda value: pictured(SHIPPED, "alpha", value), "shipped/planks.jpg", "shipped/chart.png",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", MOVING)
def test_it_holds_until_its_next_peg(name: str) -> None:
    make, before, after = MOVING[name]
    title = make(held(before, after))
    first, later = pixels(title, 0.96), pixels(title, 1.0)
    assert np.array_equal(first, pixels(make(before), 0))
    assert np.array_equal(later, pixels(make(after), 0))
    assert not np.array_equal(first, later)


@pytest.mark.parametrize("name", MOVING)
def test_the_plan_and_the_spans_know_that_it_moves(name: str) -> None:
    make, before, after = MOVING[name]
    title = make(held(before, after))
    assert moves(title)
    assert moving_spans(title) == [(0, 1)]
    plan = Renderer().plan(title, time=0.5)
    assert plan.changes(0.5, 1.5)
    assert not plan.changes(1.5, 3.0)


def test_a_word_that_is_none_of_the_choices_is_refused() -> None:
    with pytest.raises(TitleError, match="blend"):
        blended(held("normal", "mixed"))
    with pytest.raises(TitleError, match="drift"):
        lettered(text={"value": "Rg", "drift": {"amount": 1, "rate": 1}})


def test_words_that_change_fit_by_the_largest_of_them() -> None:
    def size(text: object) -> float:
        title = lettered(text=text)
        return fitting_size(title.layers[-1].source, title.frame, library_at(title.home))

    assert size(held("Rg", "MOORINGS")) == size("MOORINGS") < size("Rg")


def test_fitting_keeps_every_word() -> None:
    title = lettered(text=held("Rg", "A LONG LINE OF WORDS"), size=90)
    fitted = swap(title, layer="word").layers[-1].source
    assert values_of(fitted.text) == ["Rg", "A LONG LINE OF WORDS"]
    assert fitted.size < 90


def test_every_picture_that_is_shown_is_a_file_of_the_title(tmp_path: Path) -> None:
    for name in ("chart.png", "planks.jpg"):
        shutil.copy(SHIPPED / name, tmp_path / name)
    title = pictured(tmp_path, "alpha", held("chart.png", "planks.jpg"))
    assert files_of(title) == {"chart.png", "planks.jpg"}
    other = with_files(title, {"planks.jpg": "wood.jpg"})
    assert files_of(other) == {"chart.png", "wood.jpg"}


def test_a_changed_value_keeps_its_pegs() -> None:
    moving = lettered(text=held("a", "b")).layers[-1].source.text
    changed = mapped(moving, str.upper)
    assert [(peg.at, peg.value) for peg in changed.pegs] == [(0, "A"), (1, "B")]
    assert mapped("a", str.upper) == "A"


@pytest.mark.parametrize(
    ("place", "found"),
    [
        ("placement.scale", 5), ("source.letter_spacing", 1), ("depth.extrude/length", 1),
        ("title/camera.swing", 1), ("source.in_turn.x", 1), ("source.hight", 0), ("nowhere", 0),
        ("title/lights", 0), ("relief.emboss/picture", 0), ("relief.swell/height", 0),
    ],
)  # fmt: skip
def test_a_place_leads_to_a_setting_that_moves_or_nowhere(place: str, found: int) -> None:
    assert len(settings_at_place(place)) == found


def test_an_arrival_that_moves_nothing_there_is_refused() -> None:
    arrival = {"mabrel_arrival": 1, "name": "own", "label": "Own", "length": 1,
               "motions": [{"place": "placement.sclae", "pegs": [{"share": 0}]}]}  # fmt: skip
    with pytest.raises(TitleError, match=r"motions\[0\]\.place.*placement\.sclae"):
        parse_arrival(json.dumps(arrival))
