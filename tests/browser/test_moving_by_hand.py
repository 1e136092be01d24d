"""Every way of moving that a title artist asks for, made by hand from an empty title."""

import numpy as np
import pytest
from playwright.sync_api import Page

from tests.browser.in_time import differs, document, go_to, ink, lane, number, peg, word
from tests.browser.looking import choose, proof_pixels, settled


def test_a_word_swells_up_from_nothing_and_settles(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    number(page, "Scale", 0)
    peg(page, "Scale").click()
    go_to(page, 1.2)
    number(page, "Scale", 100)
    lane(page, "Scale").click()
    page.get_by_role("button", name="Scale at 0.00 s: 0 %").press("Tab")
    page.get_by_role("button", name="Scale at 0.00 s: 0 %").click()
    page.get_by_role("radio", name="Swing past").click()
    pegs = word(page)["placement"]["scale"]["pegs"]
    assert [(each["at"], each["value"]) for each in pegs] == [(0, 0), (1.2, 1)]
    assert pegs[0]["ease"] == [0.3, 0, 0.3, 1.55]
    nothing, over, settles = ink(page, 0), ink(page, 0.7), ink(page, 3)
    bare = nothing[nothing.shape[0] // 2]
    assert np.abs(np.diff(bare)).max() < 12  # the backdrop alone
    wide = [np.flatnonzero(np.abs(each - nothing).max(axis=0) > 25) for each in (over, settles)]
    assert np.ptp(wide[0]) > np.ptp(wide[1]) * 1.03


def test_a_word_rises_through_a_reflecting_floor_that_hides_it(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_text("Floor", exact=True).last.click()
    settled(page)
    page.get_by_role("checkbox", name="Hides").check()
    page.get_by_role("button", name="ROPE 5").click()
    page.get_by_role("button", name="Add a step at Ground").click()
    page.get_by_label("Find a step by name or by need").fill("reflection")
    page.keyboard.press("Enter")
    settled(page)
    page.get_by_role("button", name="Lettering", exact=True).click()
    go_to(page, 0)
    number(page, "Down", 330)
    peg(page, "Down").click()
    go_to(page, 1.5)
    number(page, "Down", 0)
    assert next(each for each in document(page)["layers"] if each["kind"] == "floor")["hides"]
    beneath, half, stands = ink(page, 0), ink(page, 0.75), ink(page, 3)
    rows = beneath.shape[0]
    changed = np.abs(half - beneath).max(axis=1) > 25
    assert changed.any()
    assert not changed[: int(rows * 0.4)].any()  # its upper half is still to come
    assert differs(stands, beneath) > differs(half, beneath) > 0.3


def test_letters_fall_in_turn(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    page.get_by_label("Letters in turn").check()
    settled(page)
    down = page.locator(".settings").get_by_role("textbox", name="Down, ").first
    down.fill("-400")
    down.press("Enter")
    peg(page, "Down").first.click()
    go_to(page, 0.8)
    down.fill("0")
    down.press("Enter")
    settled(page)
    number(page, "Delay", 0.3)
    in_turn = word(page)["source"]["in_turn"]
    assert in_turn["delay"] == 0.3
    assert [each["value"] for each in in_turn["y"]["pegs"]] == [-400, 0]
    nothing, first, all_there = ink(page, 0), ink(page, 0.85), ink(page, 2.5)
    middle = nothing.shape[1] // 2
    came = np.abs(first - nothing).mean(axis=0)
    stands = np.abs(all_there - nothing).mean(axis=0)
    assert came[:middle].sum() > 2 * came[middle:].sum()
    assert stands[middle:].sum() > 2 * came[middle:].sum()


def test_two_lights_come_from_behind_while_stops_slide(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Add a light").click()
    page.get_by_text("Parallel light").last.click()
    go_to(page, 0)
    number(page, "Raise", -140)
    peg(page, "Raise").click()
    go_to(page, 2)
    number(page, "Raise", 0)
    page.get_by_role("button", name="Gradient map", exact=True).click()
    go_to(page, 0)
    peg(page, "Slide").click()
    go_to(page, 2)
    number(page, "Slide", 100)
    assert len(document(page)["lights"]) == 2
    assert len(document(page)["rig"]["raised"]["pegs"]) == 2
    assert lane(page, "Raise").is_visible()
    assert lane(page, "Slide").is_visible()
    dark, light = ink(page, 0), ink(page, 2)
    assert differs(dark, light) > 2


def test_letter_spacing_opens(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    peg(page, "Letter spacing").click()
    go_to(page, 2)
    number(page, "Letter spacing", 60)
    nothing = ink(page, 4.9)
    assert differs(nothing, ink(page, 0)) > 2
    pegs = word(page)["source"]["letter_spacing"]["pegs"]
    assert [each["value"] for each in pegs] == [0, 60]


def test_a_backdrop_flickers_by_drift(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Harbour dusk 1").click()
    page.get_by_role("button", name="Lettering", exact=True).or_(
        page.get_by_role("button", name="Backdrop", exact=True)
    ).first.click()
    peg(page, "Opacity").first.click()
    lane(page, "Opacity").click()
    page.get_by_role("button", name="Drift", exact=True).click()
    page.get_by_role("textbox", name="Drift by").fill("40")
    page.get_by_role("textbox", name="Drift by").press("Enter")
    page.get_by_role("textbox", name="a second").fill("4")
    page.get_by_role("textbox", name="a second").press("Enter")
    opacity = document(page)["layers"][0]["opacity"]
    assert opacity["drift"]["amount"] == pytest.approx(0.4)
    assert opacity["drift"]["rate"] == 4
    alphas = []
    for time in (0.3, 0.6, 1.1, 1.6):
        go_to(page, time)
        alphas.append(proof_pixels(page)[5, 5, 3])
    assert np.ptp(alphas) > 5


def test_a_gleam_passes(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Add a step at Light").click()
    page.get_by_label("Find a step by name or by need").fill("gleam")
    page.keyboard.press("Enter")
    settled(page)
    go_to(page, 0)
    number(page, "Place", -40)
    peg(page, "Place").click()
    go_to(page, 1.5)
    number(page, "Place", 140)
    left, right = ink(page, 0.55), ink(page, 0.95)
    brighter = (left - right).mean(axis=0)
    middle = len(brighter) // 2
    assert brighter[:middle].sum() > 0 > brighter[middle:].sum()


def test_the_camera_swings_around_an_extruded_word(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Camera", exact=True).click()
    number(page, "Swing", -50)
    peg(page, "Swing").click()
    go_to(page, 2)
    number(page, "Swing", 0)
    aside, before = ink(page, 0), ink(page, 3)
    background = ink(page, 0)[2, 2]
    wide = [
        np.ptp(np.flatnonzero((np.abs(each - background) > 40).any(axis=0)))
        for each in (aside, before)
    ]
    assert wide[0] < wide[1] * 0.9


def test_words_and_blending_change_at_a_time_and_hold(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    peg(page, "Text").click()
    go_to(page, 2)
    words = page.locator(".settings .words textarea").first
    words.fill("OAR 11")
    words.blur()
    settled(page)
    said = word(page)["source"]["text"]["pegs"]
    assert [(each["at"], each["value"]) for each in said] == [(0, "ROPE"), (2, "OAR 11")]
    lane(page, "Text").click()
    before, just, then = ink(page, 0), ink(page, 1.96), ink(page, 2)
    assert differs(before, just) < 0.01 < 0.5 < differs(just, then)
    go_to(page, 1)
    assert words.input_value() == "ROPE"
    page.keyboard.press("Escape")
    peg(page, "Blend").first.click()
    go_to(page, 3)
    mixing = page.locator(".settings .choice", has_text="Blend").locator(".v-select")
    choose(page, mixing, "Multiply")
    settled(page)
    pegs = word(page)["blend"]["pegs"]
    assert [(each["at"], each["value"]) for each in pegs] == [(1, "normal"), (3, "multiply")]
    lane(page, "Blend").wait_for()
