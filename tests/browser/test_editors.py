"""Editors: curves, stops as CSS, colours from the picture, values taken over, drags."""

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, document, drag, proof_pixels, settled


def card(page: Page, label: str):
    return page.get_by_role("button", name=label, exact=True)


def settings_of(page: Page, title: str, kind: str) -> dict:
    build = document(page, title)["layers"][-1]["build"]
    return next(step for step in build if step["step"] == kind)["settings"]


def add(page: Page, words: str, label: str) -> None:
    page.get_by_role("button", name="Add a step at Tone").first.click()
    page.get_by_label("Find a step by name or by need").fill(words)
    page.locator(".v-menu li").get_by_text(label, exact=True).first.click()


def test_stops_are_pasted_as_css_and_shown_live(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Gradient map").click()
    before = proof_pixels(page)
    page.get_by_role("button", name="Paste CSS").click()
    page.get_by_label("linear-gradient").fill("linear-gradient(#003300, #00ff66 60%, #eeffee)")
    settled(page)
    assert np.abs(proof_pixels(page) - before).mean() > 1
    stops = settings_of(page, title, "tone.gradient_map")["stops"]
    assert [stop["colour"] for stop in stops] == ["#003300", "#00ff66", "#eeffee"]
    midpoint = page.get_by_role("button", name="Midpoint after stop 1")
    drag(page, midpoint, 40, 0)
    settled(page)
    assert settings_of(page, title, "tone.gradient_map")["stops"][0]["midpoint"] > 0.55


def test_curves_have_channels_presets_typed_points_and_can_be_drawn(page: Page) -> None:
    title = api_title(page, "ROPE")
    add(page, "curves", "Curves")
    expect(page.locator(".curve .histogram rect")).to_have_count(64)
    page.get_by_role("button", name="Presets").click()
    page.get_by_text("Two peaks").click()
    page.get_by_role("tab", name="Red").click()
    page.get_by_role("button", name="Type points").click()
    page.get_by_label("Pairs of input and output").fill("0 0, 0.5 1, 1 0.4")
    page.get_by_label("Pairs of input and output").press("Enter")
    page.get_by_role("tab", name="Blue").click()
    page.get_by_role("button", name="Draw").click()
    board = page.locator(".curve svg.board").bounding_box()
    page.mouse.move(board["x"] + 4, board["y"] + 8)
    page.mouse.down()
    for share in np.linspace(0, 1, 12):
        page.mouse.move(board["x"] + 4 + share * (board["width"] - 8), board["y"] + 8 + share * 100)
    page.mouse.up()
    settled(page)
    settings = settings_of(page, title, "tone.curves")
    assert len(settings["master"]) == 5
    assert settings["red"] == [[0, 0], [0.5, 1], [1, 0.4]]
    assert settings["blue"][0][1] > 0.8
    assert settings["blue"][-1][1] < 0.3


def test_the_curve_marks_the_place_under_the_pointer(page: Page) -> None:
    api_title(page, "HHHH")
    add(page, "curves", "Curves")
    settled(page)
    expect(page.locator(".curve .histogram rect")).to_have_count(64)
    ink = proof_pixels(page)[..., 0] > 120
    row, column = (int(axis[len(axis) // 2]) for axis in np.nonzero(ink))
    canvas = page.locator("canvas.picture").bounding_box()
    page.mouse.move(canvas["x"] + column, canvas["y"] + row)
    expect(page.locator(".curve .pointer circle")).to_be_visible()


def test_a_colour_is_picked_from_the_picture_and_kept_among_the_last(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Extrude").click()
    page.get_by_role("button", name="Colour", exact=True).click()
    page.get_by_role("button", name="Pick from the picture").click()
    expect(page.get_by_text("Click a place in the picture")).to_be_visible()
    canvas = page.locator("canvas.picture").bounding_box()
    page.mouse.click(canvas["x"] + 4, canvas["y"] + 4)
    settled(page)
    corner = proof_pixels(page)[4, 4, :3].astype(int)
    code = settings_of(page, title, "depth.extrude")["colour"]
    picked = [int(code[i : i + 2], 16) for i in (1, 3, 5)]
    assert np.abs(corner - picked).max() <= 2
    page.get_by_role("button", name="Fade colour", exact=True).click()
    page.get_by_role("button", name=code, exact=True).last.click()
    settled(page)
    assert settings_of(page, title, "depth.extrude")["fade_colour"] == code


def test_a_number_takes_the_value_of_another_and_units(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Drop shadow").click()
    blur = page.get_by_label("Blur, ")
    blur.fill("0.1em")
    blur.press("Enter")
    settled(page)
    size = document(page, title)["layers"][-1]["source"]["size"]
    wanted = settings_of(page, title, "ground.drop_shadow")["blur"]
    assert abs(wanted - size / 10) < 0.01
    page.get_by_label("Offset, ").hover()
    page.get_by_role("button", name="Offset: same as").click()
    page.locator(".v-list-item").filter(has_text="Drop shadow, blur").click()
    settled(page)
    assert abs(settings_of(page, title, "ground.drop_shadow")["offset"] - wanted) < 0.01


def test_a_label_is_dragged_fine_and_coarse_as_one_undo(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Extrude").click()
    before = settings_of(page, title, "depth.extrude")["length"]
    label = page.locator(".number .label").filter(has_text="Length")
    drag(page, label, 44, 0)
    settled(page)
    plain = settings_of(page, title, "depth.extrude")["length"] - before
    page.get_by_role("button", name="Undo").click()
    page.keyboard.down("Shift")
    drag(page, label, 44, 0)
    page.keyboard.up("Shift")
    settled(page)
    fine = settings_of(page, title, "depth.extrude")["length"] - before
    assert 0 < fine < plain / 4
    page.get_by_role("button", name="Undo").click()
    settled(page)
    assert settings_of(page, title, "depth.extrude")["length"] == before


def test_the_sheet_of_keys_opens_and_shuts(page: Page) -> None:
    api_title(page, "ROPE")
    page.keyboard.press("?")
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("Hold: the work without the step")
    page.keyboard.press("f")  # a dialogue keeps the keys to itself
    page.keyboard.press("Escape")
    expect(sheet).not_to_be_visible()
    expect(page.get_by_role("complementary", name="Finishes")).not_to_be_visible()
