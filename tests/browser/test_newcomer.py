"""Somebody who sees Mabrel for the first time, with nothing on the shelf."""

import re
from collections.abc import Iterator

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.looking import proof_pixels, settled
from tools.running_studio import RunningStudio


@pytest.fixture
def empty(tmp_path) -> Iterator[RunningStudio]:
    server = RunningStudio(tmp_path)
    server.prepare(demo=False)
    server.start()
    yield server
    server.stop()


def test_from_an_empty_shelf_to_metal(browser: Browser, empty: RunningStudio) -> None:
    page: Page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=empty.url)
    page.goto("/")
    expect(page.get_by_text("Type a word and click a finish")).to_be_visible()
    expect(page.get_by_text("No titles yet")).to_be_visible()
    page.keyboard.type("ANCHOR")  # the word has the focus, and what it held is replaced
    metal = page.get_by_role("button", name="Make “ANCHOR” in Ship brass")
    # A new studio has nothing in store, and all finishes are drawn at once.
    expect(page.get_by_alt_text("ANCHOR, Ship brass")).to_be_visible(timeout=240_000)
    metal.click()
    expect(page).to_have_url(re.compile("/bench/"))
    settled(page)
    pixels = proof_pixels(page)
    gold = (pixels[..., 0] > 150) & (pixels[..., 2] < 0.7 * pixels[..., 0])
    assert gold.sum() > 2000
    assert np.ptp(pixels[gold][:, 0]) > 60  # lit, not flat
    page.close()


def test_an_empty_library_and_an_empty_list_say_what_to_do(
    browser: Browser, empty: RunningStudio
) -> None:
    page: Page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=empty.url)
    page.goto("/library")
    expect(page.get_by_text("Nothing of your own yet")).to_be_visible()
    page.goto("/words")
    expect(page.get_by_text("Make a title on the shelf first")).to_be_visible()
    page.close()
