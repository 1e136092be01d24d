"""What the browser tests look at: pixels of the proof, and the state of the page."""

import base64
import re

import cv2
import numpy as np
from playwright.sync_api import Locator, Page, expect

_PIXELS = """async () => {
    const canvas = document.querySelector('canvas.picture');
    return canvas && canvas.width > 1 ? canvas.toDataURL('image/png') : null;
}"""


def settled(page: Page) -> None:
    """Wait until the proof shows the newest state at full scale and it is saved."""
    idle = "() => !document.querySelector('[data-busy=true]')"
    page.wait_for_function(idle)  # an act that is still being answered comes first
    expect(page.locator("canvas.picture[data-coarse=false]").first).to_be_visible()
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.wait_for_function(idle)


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


def api_title(page: Page, word: str, finish: str = "ship-brass") -> str:
    """Make a title without the shelf and open it on the bench; its id. Quicker than a click."""
    body = {"text": word, "finish": finish, "width": 960, "height": 540}
    made = page.request.post("/api/titles", data=body).json()
    page.goto(f"/bench/{made['id']}")
    settled(page)
    return made["id"]


def document(page: Page, title: str) -> dict:
    """A title as it is saved."""
    return page.request.get(f"/api/titles/{title}").json()["document"]


def drag(page: Page, locator: Locator, dx: float, dy: float, steps: int = 8) -> None:
    """Press in the middle of something, move and let go."""
    box = locator.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx, y + dy, steps=steps)
    page.mouse.up()


def choose(page: Page, field: Locator, option: str) -> None:
    """Open a list and choose one of its lines."""
    field.click()
    page.get_by_role("option", name=option, exact=True).click()
