"""Settings of steps over time, held within their limits."""

import pytest

from mabrel.steps import kinds, settings_at
from mabrel.steps.settings import limits
from mabrel.title import Step


def at(time: float, step: str, **settings):
    return settings_at(Step(step=step, settings=settings), time)


def pegs(*pairs, ease=(0.0, 0.0, 1.0, 1.0)) -> dict:
    return {"pegs": [{"at": t, "value": value, "ease": list(ease)} for t, value in pairs]}


def test_what_is_left_out_has_its_default_at_every_time() -> None:
    for kind in kinds().values():
        assert settings_at(Step(step=kind.name), 3.0) == kind.settings()


def test_a_number_moves_between_its_pegs() -> None:
    moving = pegs((0, 10), (2, 30))
    widths = [at(t, "relief.bevel", width=moving).width for t in (0, 1, 5)]
    assert widths == pytest.approx([10, 20, 30])


def test_an_easing_that_overshoots_is_held_within_the_setting() -> None:
    springing = pegs((0, 0), (1, 1), ease=(0.3, 3.0, 0.6, 3.0))
    opacities = [at(t / 20, "surface.flat", opacity=springing).opacity for t in range(21)]
    assert max(opacities) == 1
    assert min(opacities) == 0


def test_drift_is_held_within_the_setting() -> None:
    drifting = {"value": 0.95, "drift": {"amount": 0.5, "rate": 3}}
    values = [at(t / 10, "surface.flat", opacity=drifting).opacity for t in range(80)]
    assert max(values) == 1
    assert min(values) < 0.9


def test_a_count_stays_whole_on_its_way() -> None:
    rising = pegs((0, 1), (1, 4))
    counts = [at(t / 10, "tone.gradient_map", repeats=rising).repeats for t in range(11)]
    assert (counts[0], counts[-1]) == (1, 4)
    assert all(isinstance(count, int) for count in counts)
    assert counts == sorted(counts)


def test_shares_written_as_whole_numbers_do_not_snap() -> None:
    assert at(0.5, "surface.flat", opacity=pegs((0, 0), (1, 1))).opacity == pytest.approx(0.5)


def test_colours_points_curves_and_stops_move_whole() -> None:
    assert at(1, "surface.flat", colour=pegs((0, "#000000"), (2, "#fefefe"))).colour == "#7f7f7f"
    point = at(1, "depth.extrude", point=pegs((0, [0, 0]), (2, [10, -20]))).point
    assert point == pytest.approx((5, -10))
    turning = pegs((0, [[0, 0], [1, 1]]), (2, [[0, 1], [1, 0]]))
    heights = [height for _, height in at(1, "relief.bevel", profile=turning).profile]
    assert heights == pytest.approx([0.5, 0.5])
    white = {"place": 1, "colour": "#ffffff"}
    ends = [[{"place": 0, "colour": code}, white] for code in ("#000000", "#fe0000")]
    stops = at(1, "tone.gradient_map", stops=pegs((0, ends[0]), (2, ends[1]))).stops
    assert stops[0].colour == "#7f0000"


def test_choices_hold_until_the_next_peg() -> None:
    ways = pegs((0, "raised"), (2, "sunk"))
    assert [at(t, "relief.bevel", direction=ways).direction for t in (1.9, 2)] == ["raised", "sunk"]


def test_limits_are_those_of_the_catalogue() -> None:
    bevel = kinds()["relief.bevel"]
    assert limits(bevel, "width") == (0, 2000)
    assert limits(bevel, "profile") == (float("-inf"), float("inf"))
