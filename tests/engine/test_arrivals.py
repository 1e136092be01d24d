"""Arrivals and departures: laid as pegs, ending where the layer rests, run back, kept."""

import json

import numpy as np
import pytest

from mabrel import Renderer, new_title, parse_title
from mabrel.compose import arrival_named, arrival_of, arrivals, lay, parse_arrival
from mabrel.compose.arrivals import ArrivalError
from mabrel.compose.freezing import frozen
from mabrel.compose.running_back import backwards, ease_backwards
from mabrel.title import TitleError, value_at
from mabrel.title.arrival import Arrival
from mabrel.title.easing import eased
from mabrel.title.motion import moves, still_time

SMALL = (320, 180)


@pytest.fixture(scope="module")
def title():
    return new_title("BUOY", finish="ship-brass", frame=SMALL)


def word_of(title):
    return next(layer for layer in reversed(title.layers) if layer.kind == "lettering")


def picture(title, time: float) -> np.ndarray:
    return Renderer().render(title, time=time).pixels


@pytest.mark.parametrize("name", list(arrivals()))
def test_each_begins_or_ends_where_the_layer_rests(title, name: str) -> None:
    """The moved settings are then what they were; what it adds stays."""
    arrival = arrival_named(name)
    moving = lay(title, word_of(title).id, arrival)
    rest, away = (arrival.length, 0.0) if arrival.way == "arrival" else (0.0, arrival.length)
    bare = moving.model_dump(mode="json")
    assert moves(moving)
    at_rest, at_end = (
        frozen(moving, rest + (5 if arrival.way == "arrival" else 0)),
        frozen(moving, away),
    )
    for motion in arrival.motions:
        if motion.place.endswith(("gleam/place", "defocus/radius")):
            continue  # what it adds begins and ends beside the letters
        before, after = at_place(title, motion.place), at_place(at_rest, motion.place)
        assert before is None or after == pytest.approx(before)
        assert at_place(at_end, motion.place) != pytest.approx(after)
    assert parse_title(bare).model_dump() == moving.model_dump()


def at_place(title, place: str):
    head, _, tail = place.rpartition("/")
    if head not in ("", "title"):
        steps = [step for step in word_of(title).build if step.step == head]
        return steps[0].settings.get(tail) if steps else None
    model = title if head else word_of(title)
    for name in tail.split("."):
        model = getattr(model, name)
    return model


@pytest.mark.parametrize(
    "name", ["swells-up", "rises-through-the-floor", "letters-fall", "pours-in"]
)
def test_a_picture_at_its_end_is_that_of_the_layer_at_rest(title, name: str) -> None:
    arrival = arrival_named(name)
    moving = lay(title, word_of(title).id, arrival, at=0.5)
    after = picture(moving, 4.5)
    assert np.abs(picture(moving, 0.5) - after).mean() > 0.005
    if not arrival.steps:
        np.testing.assert_allclose(after, picture(title, 0), atol=2 / 255)


def test_its_length_is_stretched_and_its_lengths_follow_the_letters(title) -> None:
    fall = arrival_named("letters-fall")
    slow = word_of(lay(title, word_of(title).id, fall, at=1.0, length=2 * fall.length))
    assert [peg.at for peg in slow.source.in_turn.y.pegs] == [1.0, 3.0]
    assert slow.source.in_turn.delay == pytest.approx(2 * fall.in_turn.delay)
    large = new_title("BUOY", frame=(640, 360))
    twice = word_of(lay(large, word_of(large).id, fall))
    ways = [each.source.in_turn.y.pegs[0].value for each in (twice, slow)]
    assert ways[0] == pytest.approx(2 * ways[1], rel=0.01)


def test_pegs_outside_its_time_stay(title) -> None:
    word = word_of(title)
    there = lay(title, word.id, arrival_named("swells-up"))
    both = lay(there, word.id, arrival_named("shrinks-away"), at=4.0)
    assert [peg.at for peg in word_of(both).placement.scale.pegs] == [0, 1.2, 4.0, 4.8]
    again = lay(both, word.id, arrival_named("swells-up"))
    assert len(word_of(again).placement.scale.pegs) == 4


def test_run_back_is_the_same_from_its_end() -> None:
    arrival = arrival_named("spacing-opens")
    back = backwards(arrival)
    assert back.way == "departure"
    assert [peg.share for peg in back.motions[0].pegs] == [0, 1]
    assert back.motions[0].pegs[1].plus == arrival.motions[0].pegs[0].plus
    assert backwards(back).motions[0].pegs == arrival.motions[0].pegs
    ease = (0.1, 0.6, 0.2, 1.0)
    for share in (0.2, 0.5, 0.9):
        turned = 1 - eased(ease_backwards(ease), 1 - share)
        assert turned == pytest.approx(eased(ease, share), abs=1e-6)


def test_letters_run_back_the_last_one_first(title) -> None:
    word = word_of(title)
    back = lay(title, word.id, arrival_named("letters-fall"), at=2.0, run_back=True)
    in_turn = word_of(back).source.in_turn
    assert in_turn.order == "backwards"
    assert in_turn.y.pegs[0].value == 0
    assert in_turn.y.pegs[-1].value < 0


def test_what_arrived_in_turn_departs_in_turn(title) -> None:
    word = word_of(title)
    there = lay(title, word.id, arrival_named("letters-fall"))
    both = word_of(lay(there, word.id, arrival_named("letters-drop"), at=4.0)).source.in_turn
    assert both.order == "forwards"
    assert [peg.at for peg in both.y.pegs] == [0, 1.0, 4.0, 4.8]


def test_a_floor_is_laid_where_there_is_none_and_hides_where_there_is_one(title) -> None:
    rise = arrival_named("rises-through-the-floor")
    laid = lay(title, word_of(title).id, rise)
    assert [layer.kind for layer in laid.layers] == ["backdrop", "floor", "lettering"]
    assert laid.layers[1].hides
    again = lay(laid, word_of(laid).id, rise)
    assert [layer.kind for layer in again.layers] == ["backdrop", "floor", "lettering"]


def test_on_a_picture_nothing_of_letters_moves(title) -> None:
    from demo.make_titles import FOLDER, gull

    emblem = gull().at_home(FOLDER)
    picture_layer = emblem.layers[-1]
    moved = lay(emblem, picture_layer.id, arrival_named("spacing-opens"))
    assert value_at(moved.layers[-1].opacity, 0) == 0
    still = lay(emblem, picture_layer.id, arrival_named("letters-fall"))
    assert not moves(still)


def test_ones_own_moves_other_words_by_the_same_shares(title) -> None:
    word = word_of(title)
    moving = lay(title, word.id, arrival_named("rises-through-the-floor"), at=1.0, length=2.0)
    own = arrival_of(moving, word.id, name="own", label="Own", way="arrival", start=1.0, end=3.0)
    assert own.length == 2.0
    large = new_title("OTHER", frame=(1920, 1080))
    laid = word_of(lay(large, word_of(large).id, own))
    assert laid.placement.y.pegs[0].at == 0
    assert laid.placement.y.pegs[-1].value == pytest.approx(0, abs=1e-3)
    again = parse_arrival(json.dumps(own.model_dump(mode="json")))
    assert again == own


def test_what_can_not_be_laid_or_kept_is_said(title) -> None:
    swell = arrival_named("swells-up")
    ground = title.layers[0].id
    for layer in (ground, "nowhere"):
        with pytest.raises(TitleError, match="that could arrive"):
            lay(title, layer, swell)
    for length in (0.0, -1.0, float("inf")):
        with pytest.raises(TitleError, match="length"):
            lay(title, word_of(title).id, swell, length=length)
    with pytest.raises(TitleError, match="does not move"):
        arrival_of(title, word_of(title).id, name="x", label="x", way="arrival", start=0, end=1)
    with pytest.raises(ArrivalError, match="swells-up"):
        arrival_named("nothing")


@pytest.mark.parametrize(
    "changes",
    [
        {"motions": []},
        {"motions": [{"place": "opacity", "pegs": [{"share": 1}, {"share": 0}]}]},
        {"motions": [{"place": "../../x", "pegs": [{"share": 0}]}]},
        {"length": 0},
        {"steps": [{"step": "no.such"}]},
        {"letter_height": "large"},
    ],
)
def test_broken_ones_are_refused(changes: dict) -> None:
    motion = {"place": "opacity", "pegs": [{"share": 0, "times": 0}, {"share": 1}]}
    good = {"name": "a", "label": "A", "length": 1, "motions": [motion]}
    assert isinstance(parse_arrival(json.dumps(good)), Arrival)
    with pytest.raises(TitleError):
        parse_arrival(json.dumps(good | changes))


def test_what_a_layer_does_not_have_is_not_moved(title) -> None:
    motion = {"place": "source.height", "pegs": [{"share": 0, "to": 1}, {"share": 1}]}
    odd = parse_arrival(json.dumps({"name": "a", "label": "A", "length": 1, "motions": [motion]}))
    assert not moves(lay(title, word_of(title).id, odd))


def test_a_value_that_does_not_fit_is_refused_with_its_place(title) -> None:
    motion = {"place": "opacity", "pegs": [{"share": 0, "to": "much"}, {"share": 1}]}
    odd = parse_arrival(json.dumps({"name": "a", "label": "A", "length": 1, "motions": [motion]}))
    with pytest.raises(TitleError, match="opacity"):
        lay(title, word_of(title).id, odd)


def test_a_moving_title_stands_half_way_through(title) -> None:
    assert still_time(title) == 0
    assert still_time(lay(title, word_of(title).id, arrival_named("fades"), at=4)) == 2.52


def test_frozen_it_stands_as_it_does_then(title) -> None:
    moving = lay(title, word_of(title).id, arrival_named("letters-fall"))
    for time in (0.3, 0.7):
        then, still = picture(moving, time), picture(frozen(moving, time), 0)
        np.testing.assert_allclose(then, still, atol=1e-3)
