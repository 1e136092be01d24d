"""What the browser tests look at: pixels of the proof, and the state of the page."""

import base64
import re

import cv2
import numpy as np
from playwright.sync_api import Page, expect

_PIXELS = """async () => {
    const canvas = document.querySelector('canvas.picture');
    return canvas && canvas.width > 1 ? canvas.toDataURL('image/png') : null;
}"""


def settled(page: Page) -> None:
    """Wait until the proof shows the newest state at full scale and it is saved."""
    expect(page.locator("canvas.picture[data-coarse=false]")).to_be_visible()
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.wait_for_function("() => !document.querySelector('[data-busy=true]')")


def proof_pixels(page: Page) -> np.ndarray:
    """The proof's pixels, (H, W, 4), 0..255."""
    data = page.evaluate(_PIXELS)
    content = np.frombuffer(base64.b64decode(data.split(",")[1]), np.uint8)
    picture = cv2.imdecode(content, cv2.IMREAD_UNCHANGED)
    return cv2.cvtColor(picture, cv2.COLOR_BGRA2RGBA).astype(float)


def open_title(page: Page, name: str) -> str:
    """Open a demo title from the shelf; its id."""
    page.goto("/")
    page.get_by_role("link", name=f"Open {name}", exact=True).first.click()
    expect(page).to_have_url(re.compile("/bench/"))
    settled(page)
    return page.url.rsplit("/", 1)[1]


def make_title(page: Page, word: str, finish: str = "Ship brass") -> str:
    """Make a title on the shelf; its id."""
    page.goto("/")
    page.get_by_role("textbox", name="Your word").fill(word)
    page.get_by_role("button", name=f"Make “{word}” in {finish}").click()
    expect(page).to_have_url(re.compile("/bench/"))
    settled(page)
    return page.url.rsplit("/", 1)[1]
