"""Values over time: pegs, easing and drift."""

import itertools

import numpy as np
import pytest

from mabrel.title import Moment, TitleError, Varying, parse_title, value_at
from mabrel.title.easing import Bounce, InSteps, Spring, eased
from mabrel.title.kinds import Colour, CurvePoints, Spots, Stops
from mabrel.title.phases import closed_phase
from mabrel.title.varying import varying_type


def varying(kind, **document) -> Varying:
    return varying_type(kind).model_validate(document)


def pegs(*pairs, kind=float, ease=(0.0, 0.0, 1.0, 1.0)) -> Varying:
    return varying(kind, pegs=[{"at": at, "value": value, "ease": ease} for at, value in pairs])


def test_a_bare_value_never_changes() -> None:
    assert value_at(7, 0) == value_at(7, 99) == 7


def test_between_pegs_it_goes_evenly_and_outside_it_rests() -> None:
    value = pegs((1.0, 10.0), (3.0, 20.0))
    assert [value_at(value, t) for t in (0, 1, 2, 3, 9)] == pytest.approx([10, 10, 15, 20, 20])


@pytest.mark.parametrize(
    ("ease", "share", "progress"),
    [
        ((0.0, 0.0, 1.0, 1.0), 0.3, 0.3),
        ((0.42, 0.0, 0.58, 1.0), 0.5, 0.5),  # CSS ease-in-out is even about its middle
        ((0.25, 0.1, 0.25, 1.0), 0.5, 0.8024),  # CSS ease
        ((0.42, 0.0, 1.0, 1.0), 0.25, 0.0935),  # CSS ease-in
    ],
)
def test_easing_is_that_of_css(ease, share: float, progress: float) -> None:
    assert eased(ease, share) == pytest.approx(progress, abs=1e-3)


def test_colours_points_and_curves_mix_part_by_part() -> None:
    assert value_at(pegs((0, "#000000"), (2, "#fe8040"), kind=Colour), 1) == "#7f4020"
    point = pegs((0, (0.0, 10.0)), (2, (4.0, 20.0)), kind=tuple[float, float])
    assert value_at(point, 1) == pytest.approx((2.0, 15.0))
    curve = value_at(pegs((0, [[0, 0], [1, 1]]), (2, [[0, 0.5], [1, 0]]), kind=CurvePoints), 1)
    assert np.array(curve) == pytest.approx(np.array([[0, 0.25], [1, 0.5]]))


def test_what_cannot_be_mixed_holds_until_the_later_peg() -> None:
    value = pegs((0, "raised"), (2, "sunk"), kind=str)
    assert [value_at(value, t) for t in (0, 1.9, 2)] == ["raised", "raised", "sunk"]


def test_drift_wanders_smoothly_within_its_amount_and_repeats_for_its_seed() -> None:
    def path(seed: int) -> list[float]:
        value = varying(float, value=5.0, drift={"amount": 2, "rate": 1, "seed": seed})
        return [value_at(value, t / 50) for t in range(500)]

    wander = path(3)
    assert wander == path(3)
    assert wander != path(4)
    assert 3 <= min(wander) < 4.5
    assert 5.5 < max(wander) <= 7
    assert max(abs(b - a) for a, b in itertools.pairwise(wander)) < 0.4


def test_every_numeric_setting_of_a_title_may_move() -> None:
    moving = {"pegs": [{"at": 0, "value": 10}, {"at": 1, "value": 90}]}
    title = parse_title(
        {
            "mabrel": 1,
            "lights": [{"azimuth": moving, "strength": {"value": 1, "drift": {"amount": 0.2}}}],
            "layers": [
                {
                    "kind": "lettering",
                    "source": {"text": "A", "size": moving, "letter_spacing": moving},
                    "placement": {"x": moving, "turn_y": moving},
                    "build": [{"step": "relief.bevel", "settings": {"width": moving}}],
                }
            ],
        }
    )
    assert value_at(title.lights[0].azimuth, 1) == 90


@pytest.mark.parametrize("ease", ["hold", InSteps(steps=4), Bounce(bounce=3), Spring(spring=2)])
def test_every_easing_begins_at_the_first_peg_and_ends_at_the_second(ease) -> None:
    assert eased(ease, 0.0) == pytest.approx(0.0)
    value = pegs((0, 10.0), (2, 20.0), ease=ease if ease == "hold" else ease.model_dump())
    assert value_at(value, 2) == 20.0
    assert eased(ease, 1.0) == pytest.approx(0.0 if ease == "hold" else 1.0)


def test_steps_hold_in_between_and_a_bounce_touches_the_end_as_often_as_it_says() -> None:
    assert [eased(InSteps(steps=4), t) for t in (0.2, 0.25, 0.6, 0.99)] == [0, 0.25, 0.5, 0.75]
    height = [1 - eased(Bounce(bounce=3), t / 1000) for t in range(1001)]
    touched = sum(1 for a, b, c in zip(height, height[1:], height[2:], strict=False) if a > b <= c)
    assert touched == 3  # and it stays down after the last
    assert min(height) >= -1e-9
    second = max(height[400:])  # a quarter as high, at half the speed
    assert second == pytest.approx(0.25, abs=0.01)


def test_a_spring_swings_past_as_often_as_it_says_and_less_each_time() -> None:
    away = np.array([eased(Spring(spring=2), t / 1000) - 1 for t in range(1001)])
    crossings = np.count_nonzero(np.diff(np.sign(away[:-1])))
    assert crossings == 4
    assert away.max() < -away.min() < 1.001


def test_stops_curves_and_points_of_different_number_mix_without_a_jump() -> None:
    """What is added to the shorter list leaves it as it was."""
    two = [{"place": 0, "colour": "#000000"}, {"place": 1, "colour": "#ffffff"}]
    three = [*two[:1], {"place": 0.8, "colour": "#ff0000"}, *two[1:]]
    stops = value_at(pegs((0, two), (1, three), kind=Stops), 1e-9)
    assert [(round(each.place, 3), each.colour) for each in stops] == [
        (0, "#000000"), (0.5, "#808080"), (1, "#ffffff"),
    ]  # fmt: skip
    half = value_at(pegs((0, two), (1, three), kind=Stops), 0.5)
    assert (half[1].place, half[1].colour) == (pytest.approx(0.65), "#bf4040")

    square = [[0, 0], [4, 0], [4, 4], [0, 4]]
    corners = value_at(pegs((0, square[:3]), (1, square), kind=list[tuple[float, float]]), 1e-9)
    assert np.array(corners) == pytest.approx(np.array([[0, 0], [4, 0], [4, 4], [2, 2]]))

    curve = value_at(
        pegs((0, [[0, 0], [1, 1]]), (1, [[0, 0], [0.2, 1], [1, 0]]), kind=CurvePoints), 0.5
    )
    assert np.array(curve) == pytest.approx(np.array([[0, 0], [0.35, 0.75], [1, 0.5]]))

    left = {"x": 0, "y": 0, "colour": "#000000"}
    right = {"x": 1, "y": 0, "colour": "#ffffff"}
    spots = value_at(pegs((0, [left]), (1, [left, right]), kind=Spots), 0.5)
    assert [(each.x, each.colour) for each in spots] == [
        (0, "#000000"), (pytest.approx(0.5), "#7f7f7f"),
    ]  # fmt: skip


def test_lists_do_not_overshoot_what_they_may_be() -> None:
    past = (0.3, 2.0, 0.6, 2.0)
    curve = pegs((0, [[0, 0], [1, 0.9]]), (1, [[0, 1], [1, 1]]), kind=CurvePoints, ease=past)
    for time in np.linspace(0, 1, 20):
        assert all(0 <= y <= 1 for _, y in value_at(curve, float(time)))


def test_in_a_title_that_loops_drift_closes_on_itself() -> None:
    value = varying(float, value=5.0, drift={"amount": 2, "rate": 1.3, "seed": 3})
    turns = [value_at(value, Moment(time, loop=4.0)) for time in (0.0, 0.7, 4.0, 4.7)]
    assert turns[:2] == pytest.approx(turns[2:])
    assert value_at(value, 0.7) != pytest.approx(value_at(value, 4.7))


def test_only_what_has_a_middle_drifts() -> None:
    with pytest.raises(ValueError, match="can't drift"):
        varying(str, value="raised", drift={"amount": 1})


def test_a_phase_goes_a_whole_number_of_cycles_in_a_title_that_loops() -> None:
    phase = pegs((0, 0.0), (5, 3.2))
    assert closed_phase(phase, 3.2, 1.0) == (pytest.approx(3.0), 3)
    assert closed_phase(phase, 1.6, 1.0).value == pytest.approx(1.5)
    assert closed_phase(pegs((0, 0.0), (5, 0.3)), 0.3, 1.0) == (0.3, 0)
    assert closed_phase(pegs((0, 0.0), (5, 100.0)), 100.0, 1.0) == (128.0, 64)


def test_an_easing_that_is_none_is_refused_with_its_place() -> None:
    moving = {"pegs": [{"at": 0, "value": 1, "ease": {"bounce": 99}}, {"at": 1, "value": 2}]}
    document = {"mabrel": 1, "camera": {"pan": moving}}
    with pytest.raises(
        TitleError, match=r"camera\.pan\.pegs\[0\]\.ease\.bounce: must be at most 8"
    ):
        parse_title(document)
