"""The bench: build line, layers, taps, stops, section, fonts."""

import itertools
import re

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, proof_pixels, settled


def build(page: Page) -> list[str]:
    """The labels of the build line's steps, in order."""
    cards = page.get_by_role("navigation", name="Build line").locator(".card .pick")
    return [card.get_attribute("aria-label") for card in cards.all()]


def card(page: Page, label: str):
    line = page.get_by_role("navigation", name="Build line")
    return line.get_by_role("button", name=label, exact=True)


BRASS = ["Inflate", "Shade", "Gradient map", "Extrude", "Drop shadow"]


def test_steps_are_added_moved_duplicated_switched_and_removed_by_keys(page: Page) -> None:
    api_title(page, "ROPE")
    assert build(page) == BRASS
    page.get_by_role("button", name="Add a step at Relief").click()
    page.get_by_label("Find a step by name or by need").fill("rim")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Bevel")).to_be_visible()
    assert build(page) == ["Inflate", "Bevel", *BRASS[1:]]

    card(page, "Bevel").press("Alt+ArrowRight")
    assert build(page) == ["Inflate", "Shade", "Bevel", *BRASS[2:]]
    card(page, "Bevel").press("Control+d")
    assert build(page).count("Bevel") == 2
    card(page, "Bevel").first.press("Delete")
    card(page, "Extrude").press("o")
    expect(card(page, "Extrude, off")).to_be_visible()
    for _ in range(5):
        page.get_by_role("button", name="Undo").click()
    assert build(page) == BRASS


def test_a_step_is_dragged_to_another_place(page: Page) -> None:
    api_title(page, "ROPE")
    settled(page)
    before = proof_pixels(page)
    card(page, "Gradient map").drag_to(card(page, "Inflate"), target_position={"x": 8, "y": 20})
    assert build(page) == ["Gradient map", "Inflate", "Shade", "Extrude", "Drop shadow"]
    settled(page)
    assert np.abs(proof_pixels(page) - before).mean() > 1


def test_the_build_line_shows_live_pictures(page: Page) -> None:
    api_title(page, "ROPE")
    pictures = page.get_by_role("navigation", name="Build line").locator("img")
    expect(pictures).to_have_count(6)
    before = pictures.nth(2).get_attribute("src")
    page.get_by_role("region", name="Light").get_by_role("button", name="Key").first.click()
    page.get_by_label("Azimuth, ").fill("20")
    page.get_by_label("Azimuth, ").press("Enter")
    expect(pictures.nth(2)).not_to_have_attribute("src", before)


def test_switching_a_step_off_takes_it_out_of_the_picture(page: Page) -> None:
    api_title(page, "ROPE")
    before = proof_pixels(page)
    card(page, "Drop shadow").hover()
    page.get_by_role("button", name="Switch off: Drop shadow").click()
    settled(page)
    off = proof_pixels(page)
    assert off[..., :3].sum() > before[..., :3].sum()  # no shadow: lighter
    page.get_by_role("button", name="Switch on: Drop shadow").click()
    settled(page)
    assert np.array_equal(proof_pixels(page), before)


def test_taps_show_the_fields(page: Page) -> None:
    api_title(page, "ROPE")
    seen = []
    for tap in ("Picture", "Matte", "Height", "Normals", "Light only", "Face", "Behind"):
        page.get_by_role("tab", name=tap, exact=True).click()
        settled(page)
        seen.append(proof_pixels(page))
    assert all(np.abs(a - b).mean() > 0.3 for a, b in itertools.pairwise(seen))
    matte = seen[1]
    assert (matte[..., 0] == matte[..., 1]).all()


def test_a_stop_is_added_moved_and_removed_and_the_lettering_follows(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Gradient map").click()
    before = proof_pixels(page)
    bar = page.locator(".stops .bar:not(.result)")
    box = bar.bounding_box()
    bar.click(position={"x": box["width"] * 0.27, "y": 10})
    expect(page.get_by_text("Stop 4 of 10")).to_be_visible()
    page.get_by_label("Stop 4 of 10, code").fill("#00ff00")
    page.get_by_label("Stop 4 of 10, code").press("Enter")
    settled(page)
    green = proof_pixels(page)
    assert (green[..., 1] - green[..., 0] > 60).sum() > 200
    page.get_by_role("button", name="Stop 4 of 10, #00ff00").press("Delete")
    settled(page)
    assert np.array_equal(proof_pixels(page), before)


def test_the_pointer_marks_which_brightness_a_place_has(page: Page) -> None:
    api_title(page, "HHHH")
    card(page, "Gradient map").click()
    expect(page.locator(".histogram rect")).to_have_count(64)
    canvas = page.locator("canvas.picture").bounding_box()
    ink = proof_pixels(page)[..., 0] > 120
    y, x = (int(axis[len(axis) // 2]) for axis in np.nonzero(ink))
    page.mouse.move(canvas["x"] + x, canvas["y"] + y)
    expect(page.get_by_text("pointer is here")).to_be_visible()
    page.mouse.move(canvas["x"] + 5, canvas["y"] + 5)
    expect(page.get_by_text("pointer is here")).not_to_be_visible()


def test_the_section_follows_the_cut_and_its_curve_can_be_dragged(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Inflate").click()
    relief = page.locator(".section path.relief")
    expect(relief).to_have_attribute("d", re.compile("M"))
    settled(page)
    page.wait_for_timeout(500)
    before = relief.get_attribute("d")
    cut = page.get_by_role("slider", name="Where the section is cut")
    cut.press("Shift+ArrowUp")
    expect(relief).not_to_have_attribute("d", before)

    height = page.get_by_label("Height, ")
    was = float(height.input_value())
    board = page.locator(".section .board").bounding_box()
    page.mouse.move(board["x"] + 200, board["y"] + 80)
    page.mouse.down()
    page.mouse.move(board["x"] + 200, board["y"] + 40, steps=4)
    page.mouse.up()
    assert float(height.input_value()) > was


def test_the_font_chooser_shows_the_word_and_keeps_the_look(page: Page) -> None:
    api_title(page, "ROPE")
    before = proof_pixels(page)
    card(page, "Lettering").click()
    page.get_by_role("button", name="Font: Titan One").click()
    options = page.get_by_role("option")
    expect(options.first).to_be_visible()
    assert options.count() >= 14
    page.get_by_role("option", name="Anton", exact=True).click()
    expect(page.get_by_role("button", name="Font: Anton")).to_be_visible()
    settled(page)
    assert np.abs(proof_pixels(page) - before).mean() > 2
    assert build(page) == BRASS


def test_a_letter_that_no_font_has_is_told_in_the_proof(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Lettering").click()
    page.get_by_label("Words").fill("ROPE日")
    expect(page.get_by_text("No font here has 日: left out.")).to_be_visible()


def test_layers_are_added_hidden_ordered_and_deleted_with_undo(page: Page) -> None:
    api_title(page, "ROPE")
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_text("Wash: steps for all beneath").click()
    layers = page.get_by_role("region", name="Layers").locator("li .name")
    expect(layers).to_have_text(["Wash", "ROPE", "Harbour dusk"])
    page.get_by_role("button", name="Add a step at Surface").click()
    page.get_by_label("Find a step by name or by need").fill("grain")
    page.keyboard.press("Enter")
    settled(page)
    page.get_by_role("region", name="Layers").get_by_text("Harbour dusk").hover()
    page.get_by_role("button", name="Hide Harbour dusk").click()
    settled(page)
    assert proof_pixels(page)[2, 2, 3] == 0
    page.get_by_role("region", name="Layers").get_by_text("Wash").hover()
    page.get_by_role("button", name="More for Wash").click()
    page.get_by_text("Delete", exact=True).click()
    expect(layers).to_have_text(["ROPE", "Harbour dusk"])
    page.get_by_role("status").get_by_role("button", name="Undo").click()
    expect(layers).to_have_text(["Wash", "ROPE", "Harbour dusk"])


def test_numbers_take_sums_and_are_held_within_their_limits(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Extrude").click()
    field = page.get_by_label("Length, ")
    field.fill("12*1.5")
    field.press("Enter")
    expect(field).to_have_value("18")
    field.fill("-40")
    field.press("Enter")
    expect(field).to_have_value("0")
    field.fill("much")
    field.press("Enter")
    expect(field).to_have_value("0")


def test_zoom_keeps_the_section_under_the_proof(page: Page) -> None:
    api_title(page, "ROPE")
    page.get_by_role("button", name="1:1").click()
    expect(page.get_by_text("100 %", exact=True)).to_be_visible()
    settled(page)
    assert proof_pixels(page).shape[1] == 960
    canvas, colours = (page.locator(each).bounding_box() for each in ("canvas.picture", ".colours"))
    assert colours["x"] == canvas["x"]
    assert colours["width"] == canvas["width"]
    page.get_by_role("button", name="Fit").click()
    settled(page)
