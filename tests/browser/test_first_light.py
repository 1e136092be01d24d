"""From a word on the shelf to a PNG: the whole way through the page."""

import re

import cv2
import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, drag, make_title, proof_pixels, settled


def gnomon_tip(page: Page):
    return page.get_by_role("slider", name="Key light")


def test_a_word_on_the_shelf_is_rendered_in_every_finish_while_one_types(page: Page) -> None:
    page.goto("/")
    word = page.get_by_role("textbox", name="Your word")
    word.fill("KELP")
    first = page.get_by_alt_text("KELP, Ship brass")
    expect(first).to_be_visible()
    expect(page.get_by_alt_text("KELP, Enamel")).to_be_visible()
    page.wait_for_timeout(600)
    before = first.get_attribute("src")
    word.press_sequentially("Y")
    after = page.get_by_alt_text("KELPY, Ship brass")
    expect(after).not_to_have_attribute("src", before)


def test_from_a_word_to_a_png_with_clean_alpha(page: Page, tmp_path) -> None:
    make_title(page, "RUST")
    before = proof_pixels(page)

    # The gnomon moves highlights, sides and shadow together.
    drag(page, gnomon_tip(page), -70, -40)
    settled(page)
    turned = proof_pixels(page)
    change = np.abs(turned - before)[..., :3].sum(axis=-1)
    lettering = before[..., 0] > 150
    assert change[lettering].mean() > 10, "the highlights stayed where they were"
    assert (change[~lettering] > 12).sum() > 3000, "sides and shadow stayed where they were"

    # Another word: everything follows.
    page.locator(".pane").dblclick(position={"x": 200, "y": 100})
    page.get_by_label("Words").fill("SALTY")
    page.keyboard.press("Enter")
    settled(page)
    assert np.abs(proof_pixels(page) - turned).mean() > 2
    expect(page.get_by_role("button", name=re.compile("SALTY")).first).to_be_visible()

    # Export without the backdrop
    page.get_by_role("button", name="Export", exact=True).click()
    with page.expect_download(timeout=120_000) as waiting:
        page.get_by_test_id("export").click()
    path = tmp_path / "title.png"
    waiting.value.save_as(path)
    pixels = cv2.imread(str(path), cv2.IMREAD_UNCHANGED)
    assert pixels.shape == (1080, 1920, 4)
    assert pixels[0, 0, 3] == 0
    assert pixels[..., 3].max() == 255
    assert_no_fringe(pixels)


def assert_no_fringe(pixels: np.ndarray) -> None:
    """Over black and over white, an edge pixel keeps the colour of its neighbours inside."""
    alpha = pixels[..., 3].astype(float) / 255
    colour = pixels[..., :3].astype(float)
    solid = (alpha > 0.995).astype(np.uint8)
    edge = (alpha > 0.5) & (alpha < 0.98) & (cv2.dilate(solid, np.ones((3, 3))) > 0)
    assert edge.sum() > 500
    weight = cv2.blur(solid.astype(float), (5, 5))
    near = cv2.blur(colour * solid[..., None], (5, 5)) / np.maximum(weight, 1e-3)[..., None]
    difference = (colour - near).mean(axis=-1)[edge]
    assert abs(np.median(difference)) < 12
    assert np.abs(difference).mean() < 30


def test_undo_takes_back_a_whole_drag_and_redo_brings_it_again(page: Page) -> None:
    api_title(page, "FOG")
    before = proof_pixels(page)
    drag(page, gnomon_tip(page), 60, -30)
    settled(page)
    after = proof_pixels(page)
    page.get_by_role("button", name="Undo").click()
    settled(page)
    assert np.array_equal(proof_pixels(page), before)
    page.get_by_role("button", name="Redo").click()
    settled(page)
    assert np.array_equal(proof_pixels(page), after)


def test_the_title_is_still_there_after_a_reload(page: Page) -> None:
    api_title(page, "TIDE")
    page.get_by_role("button", name="Inflate", exact=True).click()
    field = page.get_by_label("Height, ")
    field.fill("0.5*3")
    field.press("Enter")
    settled(page)
    page.reload()
    settled(page)
    page.get_by_role("button", name="Inflate", exact=True).click()
    expect(page.get_by_label("Height, ")).to_have_value("1.5")
