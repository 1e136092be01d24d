"""Values over time: pegs, easing and drift."""

import itertools

import numpy as np
import pytest

from mabrel.title import Drift, Peg, Varying, parse_title, value_at
from mabrel.title.varying import eased


def pegs(*pairs, ease=(0.0, 0.0, 1.0, 1.0)) -> Varying:
    return Varying(pegs=[Peg(at=at, value=value, ease=ease) for at, value in pairs])


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
    assert value_at(pegs((0, "#000000"), (2, "#fe8040")), 1) == "#7f4020"
    assert value_at(pegs((0, (0.0, 10.0)), (2, (4.0, 20.0))), 1) == pytest.approx((2.0, 15.0))
    curve = value_at(pegs((0, [[0, 0], [1, 1]]), (2, [[0, 0.5], [1, 0]])), 1)
    assert np.array(curve) == pytest.approx(np.array([[0, 0.25], [1, 0.5]]))


def test_what_cannot_be_mixed_holds_until_the_later_peg() -> None:
    value = pegs((0, "raised"), (2, "sunk"))
    assert [value_at(value, t) for t in (0, 1.9, 2)] == ["raised", "raised", "sunk"]


def test_drift_wanders_smoothly_within_its_amount_and_repeats_for_its_seed() -> None:
    def path(seed: int) -> list[float]:
        value = Varying(value=5.0, drift=Drift(amount=2, rate=1, seed=seed))
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
