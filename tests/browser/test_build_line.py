"""The build line: found by need, copied as text, solo, held away, limited to a place."""

import json

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, choose, document, drag, proof_pixels, settled


def build(page: Page) -> list[str]:
    cards = page.get_by_role("navigation", name="Build line").locator(".card .name")
    return cards.all_inner_texts()


def card(page: Page, label: str):
    return page.get_by_role("button", name=label, exact=True)


def test_a_step_is_found_by_what_one_needs_and_added_by_its_key(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Inflate").click()
    page.keyboard.press("a")
    field = page.get_by_label("Find a step by name or by need")
    field.fill("puffy")
    expect(page.locator(".v-menu li").first).to_contain_text("Blow the letters up")
    field.fill("hammered")
    page.keyboard.press("Enter")
    expect(card(page, "Rough relief")).to_be_visible()
    assert build(page)[:2] == ["Inflate", "Rough relief"]


def test_steps_travel_as_text_to_another_title(page: Page) -> None:
    api_title(page, "ROPE", "enamel")
    steps = build(page)
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.keyboard.press("Control+c")
    expect(page.get_by_text(f"{len(steps)} steps are on the clipboard")).to_be_visible()
    title = api_title(page, "SAIL")
    before = build(page)
    card(page, before[-1]).click()
    page.keyboard.press("Control+v")
    assert build(page) == [*before, *steps]
    settled(page)
    saved = document(page, title)["layers"][-1]["build"]
    assert len({step["id"] for step in saved}) == len(saved) == len(before) + len(steps)
    page.keyboard.press("Control+z")
    assert build(page) == before


def test_a_step_is_cut_and_what_is_no_step_is_refused(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Extrude").click()
    page.keyboard.press("Control+x")
    assert "Extrude" not in build(page)
    wrong = json.dumps({"mabrel_steps": 1, "steps": [{"step": "tone.nothing", "settings": {}}]})
    paste = """(words) => {
        const data = new DataTransfer();
        data.setData('text/plain', words);
        document.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true}));
    }"""
    page.evaluate(paste, wrong)
    expect(page.get_by_text("not known here")).to_be_visible()
    page.evaluate(paste, "Dear diary")
    expect(page.get_by_text("no steps on the clipboard")).to_be_visible()


def test_solo_and_held_away_are_only_looked_at(page: Page) -> None:
    title = api_title(page, "ROPE")
    saved = document(page, title)
    card(page, "Gradient map").click()
    settled(page)
    whole = proof_pixels(page)
    page.keyboard.down("w")
    settled(page)
    without = proof_pixels(page)
    page.keyboard.up("w")
    settled(page)
    assert np.abs(without - whole).mean() > 1
    assert np.array_equal(proof_pixels(page), whole)
    page.keyboard.press("x")
    settled(page)
    assert np.abs(proof_pixels(page) - without).mean() > 1
    page.keyboard.press("x")
    assert document(page, title) == saved


def test_a_step_is_limited_to_an_ellipse_that_is_dragged(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Gradient map").click()
    settled(page)
    before = proof_pixels(page)
    choose(page, page.locator(".where .v-select").first, "In an ellipse")
    settled(page)
    limited = proof_pixels(page)
    assert np.abs(limited - before).mean() > 0.5
    drag(page, page.get_by_role("button", name="Move where the step counts"), 120, 0)
    drag(page, page.get_by_role("button", name="Height of where the step counts"), 0, 30)
    settled(page)
    where = next(s for s in document(page, title)["layers"][-1]["build"] if s["where"])["where"]
    assert where["kind"] == "ellipse"
    assert where["x"] > 50
    assert np.abs(proof_pixels(page) - limited).mean() > 0.3
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    settled(page)
    assert np.array_equal(proof_pixels(page), before)


def test_a_polygon_gets_and_loses_corners(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Gradient map").click()
    choose(page, page.locator(".where .v-select").first, "In a polygon")
    page.get_by_role("button", name="Add a corner").first.press("Enter")
    corners = page.get_by_role("button", name="of where the step counts")
    expect(corners).to_have_count(5)
    corners.first.press("Shift+ArrowLeft")
    corners.last.press("Delete")
    expect(corners).to_have_count(4)
    settled(page)
    where = next(s for s in document(page, title)["layers"][-1]["build"] if s["where"])["where"]
    assert len(where["points"]) == 4


def test_twenty_five_steps_are_walked_by_the_arrow_keys(page: Page) -> None:
    title = api_title(page, "ROPE")
    saved = page.request.get(f"/api/titles/{title}").json()
    many = [
        {"id": f"b{number}", "step": "tone.brightness", "settings": {"contrast": 0}}
        for number in range(20)
    ]
    saved["document"]["layers"][-1]["build"] += many
    body = {"version": saved["version"], "document": saved["document"]}
    assert page.request.put(f"/api/titles/{title}", data=body).ok
    page.reload()
    settled(page)
    assert len(build(page)) == 25
    card(page, "Inflate").click()
    for _ in range(24):
        page.keyboard.press("ArrowRight")
    last = page.get_by_role("button", name="Brightness and contrast", exact=True).last
    expect(last).to_have_attribute("aria-pressed", "true")
    expect(last).to_be_in_viewport()
    pictures = page.get_by_role("navigation", name="Build line").locator("img")
    expect(pictures).to_have_count(26)


def test_a_group_is_made_of_layers_and_undone(page: Page) -> None:
    title = api_title(page, "ROPE")
    layers = page.get_by_role("region", name="Layers").locator("li .pick")
    expect(layers).to_have_count(2)
    layers.nth(0).click()
    layers.nth(1).click(modifiers=["Control"])
    page.get_by_role("button", name="Group 2 layers").click()
    expect(layers).to_have_count(3)
    settled(page)
    assert document(page, title)["layers"][-1]["kind"] == "group"
    page.get_by_role("button", name="Undo").click()
    expect(layers).to_have_count(2)
