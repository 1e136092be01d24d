"""The scene by hand: tilting a card, the camera, handles, floors, and lines on the floor."""

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.looking import api_title, choose, document, drag, proof_pixels, settled


def word(page: Page, title: str) -> dict:
    """The lettering as it is saved."""
    return next(each for each in document(page, title)["layers"] if each["kind"] == "lettering")


def mirror(page: Page, title: str) -> dict:
    """Settings of the reflection."""
    build = word(page, title)["build"]
    return next(step["settings"] for step in build if step["step"] == "ground.reflection")


def typed(panel: Locator, label: str, value: str) -> None:
    field = panel.get_by_label(f"{label}, °")
    field.fill(value)
    field.press("Enter")


def line(page: Page):
    return page.get_by_role("navigation", name="Build line")


def test_a_card_is_tilted_by_its_edges_and_corners(page: Page) -> None:
    title = api_title(page, "ROPE")
    line(page).get_by_role("button", name="Lettering").click()
    before = proof_pixels(page)
    drag(page, page.get_by_role("slider", name="Tilt ROPE by its right edge"), -40, 0)
    settled(page)
    placement = word(page, title)["placement"]
    assert 5 < placement["turn_y"] < 60
    assert placement["turn_x"] == 0
    assert np.abs(proof_pixels(page) - before).mean() > 0.5
    upper = page.get_by_role("slider", name="Tilt ROPE by its upper edge")
    upper.press("Shift+ArrowUp")
    settled(page)
    assert word(page, title)["placement"]["turn_x"] == 10
    corner = page.get_by_role("button", name="Scale ROPE").first
    page.keyboard.down("Alt")
    drag(page, corner, 12, 8)
    page.keyboard.up("Alt")
    settled(page)
    after = word(page, title)["placement"]
    assert after["scale"] == 1
    assert after["turn_y"] != placement["turn_y"]
    for _ in range(3):
        page.get_by_role("button", name="Undo").first.click()
    settled(page)
    assert np.array_equal(proof_pixels(page), before)


def test_the_camera_is_moved_in_the_side_view_and_in_its_settings(page: Page) -> None:
    title = api_title(page, "ROPE", "tide-table")
    before = document(page, title)["camera"]
    camera = page.get_by_role("slider", name="Camera: its distance and lift")
    drag(page, camera, 20, -10)
    settled(page)
    moved = document(page, title)["camera"]
    assert moved["distance"] < before["distance"]
    assert moved["lift"] < before["lift"]
    panel = page.get_by_role("region", name="Camera", exact=True)
    typed(panel, "Swing", "18")
    settled(page)
    assert document(page, title)["camera"]["swing"] == 18
    camera.press("ArrowLeft")
    settled(page)
    assert document(page, title)["camera"]["distance"] == pytest.approx(moved["distance"] + 10)


def test_layers_hang_on_a_handle_and_turn_with_it(page: Page) -> None:
    title = api_title(page, "ROPE")
    page.get_by_role("button", name="Add a handle").click()
    panel = page.get_by_role("region", name="Handle 1")
    line(page).get_by_role("button", name="Lettering").click()
    choose(page, page.locator(".choice", has_text="Hangs on").locator(".v-select"), "Handle 1")
    settled(page)
    flat = proof_pixels(page)
    page.get_by_role("button", name="Handle 1").first.click()
    typed(panel, "Swing", "30")
    settled(page)
    assert np.abs(proof_pixels(page) - flat).mean() > 0.5
    saved = document(page, title)
    assert saved["handles"][0]["placement"]["turn_y"] == 30
    assert word(page, title)["handle"] == saved["handles"][0]["id"]
    page.get_by_role("button", name="Delete Handle 1").click()
    settled(page)
    assert word(page, title)["handle"] is None
    assert np.array_equal(proof_pixels(page), flat)


def test_a_floor_is_laid_under_the_letters(page: Page) -> None:
    title = api_title(page, "ROPE")
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_text("Floor", exact=True).click()
    settled(page)
    kinds = [layer["kind"] for layer in document(page, title)["layers"]]
    assert kinds == ["backdrop", "floor", "lettering"]
    before = proof_pixels(page)
    panel = page.get_by_role("region", name="Floor")
    choose(page, panel.locator(".choice", has_text="Lies").locator(".v-select"), "at a level")
    settled(page)
    assert document(page, title)["layers"][1]["level"] == 135
    assert np.abs(proof_pixels(page) - before).mean() > 0.05


def test_lines_on_the_floor_are_dragged(page: Page) -> None:
    title = api_title(page, "ROPE", "tide-table")
    line(page).get_by_role("button", name="Reflection").click()
    end = page.get_by_role("button", name="Reflection: Gone at")
    before = mirror(page, title)["gone_at"]
    drag(page, end, 0, -30)
    drag(page, page.get_by_role("button", name="Reflection: Offset"), 0, 12)
    settled(page)
    settings = mirror(page, title)
    assert settings["offset"] == pytest.approx(12 * 960 / 748, abs=4)
    assert settings["gone_at"] < before - 15
    expect(page.get_by_role("slider", name="Depth of ROPE")).to_be_visible()
