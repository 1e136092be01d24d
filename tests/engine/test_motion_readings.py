"""Readings of time: flashes by WCAG 2.3.1, reading time, pace, seams, and what moves in vain."""

import numpy as np
import pytest

from mabrel import Renderer, parse_title
from mabrel.reading import motion_readings
from mabrel.reading.flashes import flashes_in, red_flashes_in
from mabrel.title.motion import moving_spans

RATE = 25.0
FLAT = {"step": "surface.flat", "settings": {"colour": "#ffffff"}}


def flicker(
    hertz: float, one: tuple, other: tuple, seconds: float = 2.0, area: float = 1.0
) -> list:
    """Square waves between two colours over a share of the picture's width."""
    frames = []
    for number in range(round(seconds * RATE)):
        frame = np.zeros((90, 160, 3), np.float32)
        frame[:, : round(160 * area)] = one if (number / RATE * hertz) % 1 < 0.5 else other
        frames.append(frame)
    return frames


WHITE, BLACK, RED = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0), (1.0, 0.0, 0.0)


def test_white_and_black_five_times_a_second_are_caught_and_twice_are_not() -> None:
    assert flashes_in(flicker(5, WHITE, BLACK), RATE).most >= 4
    assert flashes_in(flicker(2, WHITE, BLACK), RATE).most <= 3


def test_red_and_black_likewise() -> None:
    assert red_flashes_in(flicker(5, RED, BLACK), RATE).most >= 4
    assert red_flashes_in(flicker(2, RED, BLACK), RATE).most <= 3
    assert red_flashes_in(flicker(5, WHITE, BLACK), RATE).most == 0


def test_a_change_of_less_than_a_tenth_is_no_flash_nor_one_between_bright_tones() -> None:
    dim = (0.2, 0.2, 0.2)
    assert flashes_in(flicker(5, dim, BLACK), RATE).most == 0
    bright = (0.92, 0.92, 0.92)  # relative luminance 0.83
    assert flashes_in(flicker(5, WHITE, bright), RATE).most == 0


def test_what_is_small_is_no_flash() -> None:
    assert flashes_in(flicker(5, WHITE, BLACK, area=0.05), RATE).most == 0
    assert flashes_in(flicker(5, WHITE, BLACK, area=0.2), RATE).most >= 4


def test_slow_ways_count_by_their_turning_points() -> None:
    frames = [
        np.full((90, 160, 3), 0.5 + 0.5 * np.sin(2 * np.pi * 5 * n / RATE), np.float32)
        for n in range(50)
    ]
    assert flashes_in(frames, RATE).most >= 4
    once = [np.full((90, 160, 3), n / 49, np.float32) for n in range(50)]
    assert flashes_in(once, RATE).most == 0


def test_the_worst_second_is_named() -> None:
    calm = flicker(0.5, BLACK, BLACK, seconds=2)
    found = flashes_in([*calm, *flicker(5, WHITE, BLACK, seconds=1)], RATE)
    assert 1.5 < found.start <= 2.1


def moving(*pegs, ease=(0.0, 0.0, 1.0, 1.0)) -> dict:
    return {"pegs": [{"at": at, "value": value, "ease": ease} for at, value in pegs]}


def said(duration: float = 2.0, layers=(), text="HARBOUR", frame=None, blur=None, **word) -> dict:
    """What is said about a white word before dark, by gauge."""
    lettering = {
        "kind": "lettering", "name": "Word", "source": {"text": text, "font": "Anton", "size": 120},
        "build": [FLAT],
    } | word  # fmt: skip
    title = parse_title(
        {
            "mabrel": 1,
            "frame": {"width": 640, "height": 360, "duration": duration} | (frame or {}),
            "blur": blur or {},
            "layers": [{"kind": "backdrop", "source": {"colour": "#101418"}}, *layers, lettering],
        }
    )
    found = motion_readings(Renderer(), title)
    return {reading.gauge: reading for reading in found}


def test_a_title_that_does_not_move_has_nothing_said_of_it() -> None:
    assert said() == {}


def test_reading_time_is_held_against_how_long_the_words_stand() -> None:
    long = said(opacity=moving((0, 0), (0.2, 1)))["standing"]
    assert not long.warns
    assert long.time == pytest.approx(0.16, abs=0.1)
    words = "ONE TWO THREE\nFOUR FIVE SIX\nSEVEN EIGHT"
    short = said(text=words, opacity=moving((0, 0), (0.9, 1)))["standing"]
    assert short.warns
    assert "8 words take 2.5 s" in short.text


def test_a_fast_edge_is_said_to_jump_unless_it_is_blurred() -> None:
    fast = {"placement": {"x": moving((0, -400), (0.5, 0))}}
    pace = said(**fast)["pace"]
    assert pace.warns
    assert "32 px" in pace.text
    assert not said(**fast, blur={"angle": 180})["pace"].warns
    assert not said(placement={"x": moving((0, -100), (2, 0))})["pace"].warns


def test_the_seam_of_a_loop_is_told() -> None:
    there = moving((0, 0), (2, 200))
    assert said(placement={"x": there}, frame={"loops": True})["seam"].warns
    back = moving((0, 0), (1, 200), (2, 0))
    assert not said(placement={"x": back}, frame={"loops": True})["seam"].warns
    assert "seam" not in said(placement={"x": there})


def test_what_moves_in_vain_is_named_with_its_place() -> None:
    behind = {"step": "light.shade", "id": "shade", "settings": {"gloss": moving((0, 0), (1, 1))}}
    off = behind | {"on": False}
    reading = said(build=[FLAT, off])["in vain"]
    assert reading.warns
    assert reading.place.endswith("/build/shade/settings/gloss")
    assert reading.step == "shade"
    assert "in vain" not in said(opacity=moving((0, 0), (1, 1)))


def test_frames_without_anything_to_be_seen_are_told_and_a_gap_warned_of() -> None:
    late = said(opacity=moving((0, 0), (1, 1), ease="hold"))["empty"]
    assert not late.warns
    assert "1.00 s from 0.00 s" in late.text
    gap = said(opacity=moving((0, 1), (0.5, 0), (1.5, 1), ease="hold"))["empty"]
    assert gap.warns


def test_a_flickering_backdrop_is_caught() -> None:
    pegs = [(n / 10, "#ffffff" if n % 2 else "#000000") for n in range(20)]
    ground = {"kind": "backdrop", "source": {"colour": moving(*pegs, ease="hold")}}
    assert said(layers=[ground])["flashes"].warns


def test_a_flicker_late_in_a_long_title_is_caught() -> None:
    """However long it stands before: only what changes is rendered, and at its own rate."""
    pegs = [(500 + n / 10, 1 - n % 2) for n in range(20)]
    found = said(600, opacity=moving(*pegs, ease="hold"))
    assert found["flashes"].warns
    assert found["flashes"].time == pytest.approx(500, abs=0.2)
    assert not found["standing"].warns
    assert "500.1 s" in found["standing"].text
    assert "left" not in found


def test_what_moves_for_longer_than_can_be_looked_at_is_told() -> None:
    found = said(600, source={"text": "BUOY", "font": "Anton"}, opacity=moving((0, 0), (600, 1)))
    assert "after 40.0 s" in found["left"].text
    assert not found["left"].warns


def test_spans_of_motion_lie_apart_and_last_until_the_last_letter() -> None:
    x, opacity = moving((1, 0), (2, 5), (3, 5), (4, 0)), moving((0.5, 0), (1.5, 1))
    layer = {"kind": "lettering", "source": {"text": "ABC"}, "placement": {"x": x}}
    title = {"mabrel": 1, "frame": {"duration": 3.5}, "layers": [layer | {"opacity": opacity}]}
    assert moving_spans(parse_title(title)) == [(0.5, 2), (3, 3.5)]
    layer["source"]["in_turn"] = {"delay": 0.1, "x": 0}
    assert moving_spans(parse_title(title | {"layers": [layer]})) == [(1, 2.3), (3, 3.5)]
